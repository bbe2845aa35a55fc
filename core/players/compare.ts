import {
  createSession,
  hasEnded,
  INPUT_WIDTH,
  momentOf,
  step,
  stepOf,
  type Compiled,
  type Moment,
  type Session,
} from '../session/index.ts';
import { readInputs, sessionOptions, type Run } from './run.ts';

/** Where two sessions part: the first step, and the first field that differs there. */
export interface Parting {
  readonly step: number;
  readonly seconds: number;
  readonly field: string;
  readonly a: unknown;
  readonly b: unknown;
}

/** All that a moment holds, named: `players/0/meters/health` → 84. */
function fieldsOf(moment: unknown, path: string, into: Map<string, unknown>): Map<string, unknown> {
  if (typeof moment !== 'object' || moment === null) return into.set(path, moment);
  for (const [key, value] of Object.entries(moment)) fieldsOf(value, path === '' ? key : `${path}/${key}`, into);
  return into;
}

/** The first field in which two moments differ. Things only one of the levels has count from the start. */
function firstDifference(a: Moment, b: Moment): Omit<Parting, 'step' | 'seconds'> | null {
  const fieldsA = fieldsOf({ players: a.players, placements: a.placements }, '', new Map());
  const fieldsB = fieldsOf({ players: b.players, placements: b.placements }, '', new Map());
  for (const [field, value] of fieldsA) {
    if (!Object.is(value, fieldsB.get(field))) return { field, a: value, b: fieldsB.get(field) };
  }
  for (const [field, value] of fieldsB) if (!fieldsA.has(field)) return { field, a: undefined, b: value };
  return null;
}

/** Plays the same run on two compiled levels of one rate and tells where they part; null when they never do. */
export function compareSessions(a: Compiled, b: Compiled, run: Run): Parting | null {
  const play = (compiled: Compiled): { session: Session; forward: () => void; steps: number } => {
    const session = createSession(compiled, null, sessionOptions(compiled, run));
    const reader = readInputs(run, compiled.rate);
    const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
    const forward = (): void => {
      reader.read(stepOf(session) + 1, inputs);
      step(session, inputs);
    };
    return { session, forward, steps: reader.steps };
  };
  const first = play(a);
  const second = play(b);
  for (;;) {
    const difference = firstDifference(momentOf(first.session), momentOf(second.session));
    const at = stepOf(first.session);
    if (difference !== null) return { step: at, seconds: at / a.rate, ...difference };
    if (hasEnded(first.session) !== hasEnded(second.session)) {
      return { step: at, seconds: at / a.rate, field: 'ended', a: hasEnded(first.session), b: hasEnded(second.session) };
    }
    if (hasEnded(first.session) || at >= first.steps) return null;
    first.forward();
    second.forward();
  }
}
