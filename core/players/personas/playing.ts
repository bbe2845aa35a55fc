import type { Place } from '../../geometry/index.ts';
import { levelHash, entry, type Persona, type Route } from '../../level/index.ts';
import {
  createLedger,
  createSession,
  endSession,
  exists,
  hasEnded,
  idOf,
  INPUT_WIDTH,
  outcomeOf,
  restore,
  step,
  stepOf,
  type Compiled,
  type Outcome,
  type Recorder,
  type Session,
} from '../../session/index.ts';
import { createRunWriter, MOST_SECONDS, sessionOptions, type Run } from '../run.ts';
import { beginKeeping, SNAPSHOT_SECONDS, type Recording } from '../simulate.ts';
import { copyMind, createMind, type Ending, type Mind } from './mind.ts';
import type { Decision, Hands } from './hands.ts';
import { pressKeys } from './persona.ts';
import { playedBy } from './playedBy.ts';
import { knows } from './thinker.ts';
import { restOfWay } from './walking.ts';
import { worldOf } from './world.ts';

/** Who plays, for how long at most, and what is kept of it. */
export interface PersonaOptions {
  readonly seed?: number;
  readonly start?: Run['start'];
  /** Seconds after which the session is broken off. */
  readonly seconds?: number;
  /** Way-points to be followed, with the errors of the persona. */
  readonly route?: Route['wayPoints'] | null;
  /** Whether the whole recording is kept, as simulating the run would make it. */
  readonly records?: boolean;
}

/** What came of it: the run and its outcome, what was decided in it, and how each ended by itself; null where the session ended, or goes on. */
export interface PersonaPlay {
  readonly run: Run;
  readonly outcome: Outcome;
  readonly recording: Recording | null;
  readonly decisions: readonly Decision[];
  readonly endings: readonly (Ending | null)[];
  /** What each knew and meant, as often as a recording has snapshots. */
  readonly minds: readonly (readonly Mind[])[];
}

/** A session is broken off after this long, if nothing else is said. Seconds. */
export const USUAL_SECONDS = 300;

const hashes = new WeakMap<Compiled, string>();

/** The hash of a compiled level, worked out once. */
function hashOf(compiled: Compiled): string {
  const hash = hashes.get(compiled) ?? levelHash(compiled.level);
  hashes.set(compiled, hash);
  return hash;
}

/** A session that personas play, from step to step. */
export interface Playing {
  readonly session: Session;
  /** One for each player. */
  readonly hands: readonly Hands[];
  /** What is pressed in the step that `press` was last called for. */
  readonly inputs: Int8Array;
  /** The step after which it is broken off. */
  readonly last: number;
  /** Presses the keys of the next step. Answers whether there is one: not when the session or all of them have ended, or the time is over. */
  readonly press: () => boolean;
}

interface Beginning extends PersonaOptions {
  readonly recorder?: Recorder | null;
  readonly note?: Hands['note'];
  readonly inPlaceOf?: Session | null;
}

/** Begins a session that personas play, one for each player from the first on; the last plays those for whom none is given. */
export function beginPlaying(
  compiled: Compiled,
  personas: readonly Persona[],
  { seed = 1, start = null, seconds = USUAL_SECONDS, route = null, recorder = null, note = null, inPlaceOf = null }: Beginning,
): Playing {
  const session = createSession(compiled, recorder, { seed, start, inPlaceOf });
  const world = worldOf(compiled);
  const hands = Array.from({ length: compiled.playerCount }, (_, player): Hands => {
    return { world, session, persona: playedBy(personas, player), mind: createMind(world), player, route, note };
  });
  const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
  const last = Math.min(seconds, MOST_SECONDS) * compiled.rate;
  return {
    session,
    hands,
    inputs,
    last,
    press() {
      if (hasEnded(session) || stepOf(session) >= last) return false;
      let ended = 0;
      for (let player = 0; player < hands.length; player += 1) {
        const one = hands[player] as Hands;
        pressKeys(one, inputs);
        if (one.mind.ended !== null) ended += 1;
      }
      return ended < hands.length;
    },
  };
}

/** How a persona ended its session by itself; null where the session ended. */
export const endingOf = ({ mind, session }: Hands): Ending | null => mind.ended ?? (hasEnded(session) ? null : 'time');

/** Lets personas play a level, one for each player from the first on; the last plays those for whom none is given. The whole session is a run. */
export function playPersonas(compiled: Compiled, personas: readonly Persona[], options: PersonaOptions = {}): PersonaPlay {
  const { seed = 1, start = null, records = false } = options;
  const decisions: Decision[] = [];
  const ledger = records ? createLedger() : null;
  const { session, hands, inputs, last, press } = beginPlaying(compiled, personas, {
    ...options,
    recorder: ledger,
    note: (one) => decisions.push(one),
  });
  const keeping = ledger === null ? null : beginKeeping(session, ledger, last);
  const writer = createRunWriter(compiled.rate, compiled.playerCount, { seed, start });
  const minds: Mind[][] = [];
  const keepMinds = (): void => {
    if (stepOf(session) % (SNAPSHOT_SECONDS * compiled.rate) === 0) minds.push(hands.map(({ mind }) => copyMind(mind)));
  };
  keepMinds();
  while (press()) {
    writer.write(stepOf(session) + 1, inputs);
    step(session, inputs);
    keeping?.keep();
    keepMinds();
  }
  const name = personas.map((persona) => persona.name).join(' and ');
  const run = writer.finish(`${name}, seed ${String(seed)}`, hashOf(compiled));
  const endings = hands.map(endingOf);
  const recording = keeping?.finish(run) ?? null;
  if (recording === null) endSession(session, 0);
  return { run, outcome: recording?.outcome ?? outcomeOf(session), recording, decisions, minds, endings };
}

/** The persona of a level by its id, or by its name. */
export function personaOf({ personas }: Compiled['level'], wanted: string): Persona | null {
  return entry(personas, wanted) ?? Object.values(personas).find(({ name }) => name === wanted) ?? null;
}

/** What a persona knows and means at a moment. */
export interface Thought {
  /** Things it does not know of: never seen, or forgotten. */
  readonly unknown: readonly string[];
  /** The way it means to go, from where it stands. Units. */
  readonly way: readonly Place[];
}

/** What the first persona of a run that was just played knew and meant at a step of it. */
export function thoughtAt(
  compiled: Compiled,
  {
    personas,
    route,
    minds,
  }: { readonly personas: readonly Persona[]; readonly route: Route['wayPoints'] | null; readonly minds: PersonaPlay['minds'] },
  run: Run,
  recording: Recording,
  target: number,
): Thought | null {
  const session = createSession(compiled, null, sessionOptions(compiled, run));
  const at = Math.min(Math.floor(Math.max(0, target) / recording.snapshotSteps), minds.length - 1);
  const saved = recording.snapshots[at];
  const known = minds[at];
  if (saved === undefined || known === undefined) return null;
  restore(session, saved);
  const world = worldOf(compiled);
  const all = known.map((mind, player): Hands => ({
    world,
    session,
    persona: playedBy(personas, player),
    mind: copyMind(mind),
    player,
    route,
    note: null,
  }));
  const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
  while (stepOf(session) < target && !hasEnded(session)) {
    for (const hands of all) pressKeys(hands, inputs);
    step(session, inputs);
  }
  const [hands] = all;
  if (hands === undefined) return null;
  const ids = compiled.ids.placements.flatMap((_, placement) => {
    const id = exists(session, placement) && !knows(hands, placement) ? idOf(session, placement) : null;
    return id === null ? [] : [id];
  });
  return { unknown: ids, way: hands.mind.ended === null ? restOfWay(hands) : [] };
}
