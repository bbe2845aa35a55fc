import { levelHash, type Level, type Persona, type StartingState } from '@dial/core/level';
import {
  createMarks,
  createMind,
  createRunWriter,
  eventOf,
  pressKeys,
  readInputs,
  sessionOptions,
  withoutLaterEvents,
  worldOf,
  type Hands,
  type Outside,
  type Run,
  type TakenOver,
} from '@dial/core/players';
import {
  addEvent,
  compile,
  createLedger,
  createSession,
  hasEnded,
  INPUT_WIDTH,
  momentOf,
  outcomeOf,
  readLine,
  step,
  stepOf,
  type LedgerLine,
  type Moment,
  type Outcome,
  type Session,
} from '@dial/core/session';
import type { ShownFlourish } from '../drawing/plan/PlanFlourishes.tsx';
import { flourishesOf, type Tone } from './flourishes.ts';

/** A slow machine plays slower rather than skipping: at most this much real time is made up for in one picture. Seconds. */
const MOST_OWED = 0.14;

/** Reads what is pressed now into the inputs of all players. */
export type ReadInputs = (inputs: Int8Array) => void;

/** What is shown of a session at one moment. */
export interface Picture {
  readonly moment: Moment;
  /** The newest lines, oldest first. */
  readonly lines: readonly LedgerLine[];
  readonly flourishes: readonly ShownFlourish[];
  /** Tones that begin with this picture. */
  readonly tones: readonly Tone[];
}

const LINES_KEPT = 120;
/** What is older than this when it is first seen is no longer seen nor heard. Seconds. */
const FRESH_SECONDS = 1;

/** Looks at a session again and again. Sound and pictures follow the session and never change it. */
function createViewer(session: Session, ledger: ReturnType<typeof createLedger>): () => Picture {
  const { compiled } = session;
  let read = Math.max(0, ledger.lines.count - LINES_KEPT);
  let lines: readonly LedgerLine[] = [];
  let flourishes: readonly ShownFlourish[] = [];
  let before: Moment | null = null;
  return () => {
    const moment = momentOf(session);
    const fresh = Array.from({ length: ledger.lines.count - read }, (_, at) => readLine(compiled, ledger.lines, read + at));
    read = ledger.lines.count;
    lines = [...lines, ...fresh].slice(-LINES_KEPT);
    const { shown, tones } = flourishesOf(
      compiled.level,
      moment,
      fresh.filter(({ seconds }) => seconds > moment.seconds - FRESH_SECONDS),
      { moment: before, shown: flourishes },
    );
    before = moment;
    flourishes = [...flourishes, ...shown].filter(({ begunSeconds, seconds }) => moment.seconds <= begunSeconds + seconds);
    return { moment, lines, flourishes, tones };
  };
}

/** A session played by hand. */
export interface Game {
  readonly session: Session;
  /** Lets real time pass at a speed: makes the steps that are due. Answers how many were made, and what share of the time was dropped. */
  advance(seconds: number, speed: number, read: ReadInputs): { readonly made: number; readonly dropped: number };
  /** Makes a single step. */
  one(read: ReadInputs): void;
  /** Gives a player to a persona from the next step on; null: back to the keys. */
  seat(player: number, persona: Persona | null): void;
  /** Lets something happen from outside with the next step; it is kept with the run. */
  happen(event: Outside): void;
  /** The session as it is now; what is new in it since the last look is seen and heard. */
  look(): Picture;
  /** All ledger lines, oldest first. */
  lines(): LedgerLine[];
  over(): boolean;
  /** Whether any step was made by hand. */
  played(): boolean;
  outcome(): Outcome;
  /** The run it makes, as far as it has been played. */
  run(name: string): Run;
}

/** How a play begins: at the start, as the level has it or from a stated state, or taken over from a step of a run. */
export type Beginning = { readonly start: StartingState | null; readonly seed: number } | { readonly from: TakenOver };

export function startGame(level: Level, begin: Beginning): Game {
  const compiled = compile(level);
  const ledger = createLedger();
  const from = 'from' in begin ? begin.from : null;
  const plain = 'start' in begin ? begin : { start: null, seed: 1 };
  const session = createSession(
    compiled,
    ledger,
    from === null ? plain : sessionOptions(compiled, withoutLaterEvents(from, compiled.rate)),
  );
  const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
  const marked = createMarks(session);
  if (from !== null) {
    const reader = readInputs(from.run, compiled.rate);
    while (stepOf(session) < Math.min(from.step, reader.steps) && !hasEnded(session)) {
      reader.read(stepOf(session) + 1, inputs);
      step(session, inputs);
      marked.note();
    }
  }
  const seats: (Hands | null)[] = Array.from({ length: compiled.playerCount }, () => null);
  const begun = from === null ? plain : { from: { ...from, step: stepOf(session) } };
  const writer = createRunWriter(compiled.rate, compiled.playerCount, begun);
  const one = (read: ReadInputs): void => {
    if (hasEnded(session)) return;
    read(inputs);
    for (const hands of seats) if (hands !== null) pressKeys(hands, inputs);
    writer.write(stepOf(session) + 1, inputs);
    step(session, inputs);
    marked.note();
  };
  const begunAt = stepOf(session);
  const hash = levelHash(level);
  let owed = 0;
  return {
    session,
    advance(seconds, speed, read) {
      const most = MOST_OWED * speed * compiled.rate;
      const wanted = owed + seconds * speed * compiled.rate;
      owed = Math.min(wanted, most);
      const due = Math.floor(owed);
      owed -= due;
      for (let made = 0; made < due; made += 1) one(read);
      return { made: due, dropped: wanted > most ? (wanted - most) / wanted : 0 };
    },
    one,
    seat(player, persona) {
      const world = persona === null ? null : worldOf(compiled);
      seats[player] =
        persona === null || world === null ? null : { world, session, persona, mind: createMind(world), player, route: null, note: null };
    },
    happen(event) {
      const happens = eventOf(compiled, event);
      if (happens === null || hasEnded(session)) return;
      addEvent(session, happens);
      writer.note({ ...event, step: stepOf(session) + 1 });
    },
    look: createViewer(session, ledger),
    lines: () => Array.from({ length: ledger.lines.count }, (_, index) => readLine(compiled, ledger.lines, index)),
    over: () => hasEnded(session),
    played: () => stepOf(session) > begunAt,
    outcome: () => outcomeOf(session),
    run: (name) => ({ ...writer.finish(name, hash), marks: [...marked.marks] }),
  };
}
