import { createDigest } from '../level/index.ts';
import {
  createLedger,
  createSession,
  endSession,
  hasEnded,
  INPUT_WIDTH,
  outcomeOf,
  snapshot,
  step,
  stepOf,
  type Compiled,
  type Outcome,
  type Recorder,
  type Rows,
  type Session,
} from '../session/index.ts';
import { readInputs, sessionOptions, type InputReader, type Run } from './run.ts';

/** One player's way through a session. Numbers of step k stand at index k; 0 is the start. */
export interface Lanes {
  readonly x: Float32Array;
  readonly y: Float32Array;
  readonly speed: Float32Array;
  /** One lane for each meter, by id. */
  readonly meters: Readonly<Record<string, Float32Array>>;
}

/** A simulated run with everything the Strip and the Plan draw: the lanes of the first player, then of the others. */
export interface Recording extends Lanes {
  readonly others: readonly Lanes[];
  readonly rate: number;
  readonly steps: number;
  readonly lines: Rows;
  readonly contacts: Rows;
  readonly outcome: Outcome;
  readonly digest: string;
  /** Digests of the players after each second. */
  readonly marks: readonly string[];
  /** Seconds after which the session parts from the run as it was recorded, within the next; null when it does not, or that is not known. */
  readonly partsAtSeconds: number | null;
  /** State every `snapshotSteps` steps, from step 0. */
  readonly snapshots: readonly Uint8Array[];
  readonly snapshotSteps: number;
}

/** Seconds of session between two snapshots. */
export const SNAPSHOT_SECONDS = 10;

/** Every player's motion, meters and items, as the words that a digest is made of: `numbers` and `integers` are views of them. */
interface PlayerWords {
  readonly words: Int32Array;
  readonly numbers: Float64Array;
  readonly integers: Int32Array;
}

function createPlayerWords({ state, compiled }: Session): PlayerWords {
  const count = 4 * compiled.playerCount + state.meter.length;
  const buffer = new ArrayBuffer(8 * count + 4 * state.items.length);
  return {
    words: new Int32Array(buffer),
    numbers: new Float64Array(buffer, 0, count),
    integers: new Int32Array(buffer, 8 * count),
  };
}

function fillPlayerWords({ state, compiled }: Session, { numbers, integers }: PlayerWords): void {
  const { meter, items } = state;
  let at = 0;
  // Nought has two signs, which are the same number: adding nought leaves one.
  for (let player = 0; player < compiled.playerCount; player += 1, at += 4) {
    numbers[at] = (state.playerX[player] as number) + 0;
    numbers[at + 1] = (state.playerY[player] as number) + 0;
    numbers[at + 2] = (state.velocityX[player] as number) + 0;
    numbers[at + 3] = (state.velocityY[player] as number) + 0;
  }
  for (let cell = 0; cell < meter.length; cell += 1, at += 1) numbers[at] = (meter[cell] as number) + 0;
  for (let item = 0; item < items.length; item += 1) integers[item] = items[item] as number;
}

/** The digest of the players as they were after the last step. */
function markOf({ words }: PlayerWords): string {
  const own = createDigest();
  own.addIntegers(words);
  return own.text();
}

/** Digests of the players after each second of a session that others step. `note` is called after every step. */
export function createMarks(session: Session): { readonly marks: readonly string[]; note(): void } {
  const players = createPlayerWords(session);
  const marks: string[] = [];
  return {
    marks,
    note() {
      if (stepOf(session) % session.compiled.rate !== 0 || marks.length === stepOf(session) / session.compiled.rate) return;
      fillPlayerWords(session, players);
      marks.push(markOf(players));
    },
  };
}

interface FilledLanes extends Lanes {
  /** All of them: x, y, speed, then the meters in the order of the compiled level. */
  readonly list: readonly Float32Array[];
}

function createLanes(compiled: Compiled, length: number): FilledLanes {
  const list = Array.from({ length: 3 + compiled.ids.meters.length }, () => new Float32Array(length));
  const [x, y, speed] = list as [Float32Array, Float32Array, Float32Array];
  const meters = Object.fromEntries(compiled.ids.meters.map((id, meter) => [id, list[3 + meter] as Float32Array]));
  return { list, x, y, speed, meters };
}

function cutLanes(lanes: Lanes, length: number): Lanes {
  const cut = (lane: Float32Array): Float32Array => (lane.length === length ? lane : lane.slice(0, length));
  const meters = Object.fromEntries(Object.entries(lanes.meters).map(([id, lane]) => [id, cut(lane)]));
  return { x: cut(lanes.x), y: cut(lanes.y), speed: cut(lanes.speed), meters };
}

/** The last second up to which the marks are those of the run, before one that differs; null when none does, or they cannot be compared. */
function partsAt(run: Run, marks: readonly string[], rate: number): number | null {
  if (run.rate !== rate) return null;
  const different = run.marks.findIndex((mark, index) => marks[index] !== mark);
  return different < 0 ? null : different;
}

/** Keeps the recording of a session that others step. */
export interface Keeping {
  /** Called after every step. */
  keep(): void;
  /** Ends the session, of which this is the run. */
  finish(run: Run): Recording;
}

interface Playing {
  readonly session: Session;
  readonly reader: InputReader;
  readonly inputs: Int8Array;
}

function startPlaying(compiled: Compiled, run: Run, recorder: Recorder | null): Playing {
  const session = createSession(compiled, recorder, sessionOptions(compiled, run));
  return { session, reader: readInputs(run, compiled.rate), inputs: new Int8Array(compiled.playerCount * INPUT_WIDTH) };
}

const goesOn = ({ session, reader }: Playing): boolean => !hasEnded(session) && stepOf(session) < reader.steps;

function sample({ state, compiled }: Session, lanes: readonly FilledLanes[], at: number): void {
  const meterCount = compiled.ids.meters.length;
  for (let player = 0; player < lanes.length; player += 1) {
    const { x, y, speed, list } = lanes[player] as FilledLanes;
    x[at] = state.playerX[player] as number;
    y[at] = state.playerY[player] as number;
    const velocityX = state.velocityX[player] as number;
    const velocityY = state.velocityY[player] as number;
    speed[at] = Math.sqrt(velocityX * velocityX + velocityY * velocityY);
    for (let meter = 0; meter < meterCount; meter += 1) {
      (list[3 + meter] as Float32Array)[at] = state.meter[compiled.meterCell[player * meterCount + meter] as number] as number;
    }
  }
}

/**
 * Plays on for a second, or up to the end. A second at a time: a function that is called often is compiled once and for
 * all, one long loop anew for each run.
 */
function playSecond(playing: Playing, keeping: Keeping | null): void {
  const { session, reader, inputs } = playing;
  const last = stepOf(session) + session.compiled.rate;
  while (goesOn(playing) && stepOf(session) < last) {
    reader.read(stepOf(session) + 1, inputs);
    step(session, inputs);
    keeping?.keep();
  }
}

/** What comes of a run, for the many that are simulated for nothing else: quicker, and nothing more is kept. */
export function outcomeOfRun(compiled: Compiled, run: Run): Outcome {
  const playing = startPlaying(compiled, run, null);
  while (goesOn(playing)) playSecond(playing, null);
  endSession(playing.session, 0);
  return outcomeOf(playing.session);
}

/** Begins to keep a session that writes its ledger here and lasts for so many steps at most. */
export function beginKeeping(session: Session, ledger: ReturnType<typeof createLedger>, mostSteps: number): Keeping {
  const { compiled } = session;
  const { rate } = compiled;
  const lanes = Array.from({ length: compiled.playerCount }, () => createLanes(compiled, mostSteps + 1));
  const players = createPlayerWords(session);
  // Of every player's motion, meters and items at each step, then of the whole closing state.
  const digest = createDigest();
  const snapshotSteps = SNAPSHOT_SECONDS * rate;
  const snapshots = [snapshot(session)];
  const marks: string[] = [];
  sample(session, lanes, 0);
  return {
    keep() {
      const now = stepOf(session);
      sample(session, lanes, now);
      fillPlayerWords(session, players);
      digest.addIntegers(players.words);
      if (now % rate === 0) marks.push(markOf(players));
      if (now % snapshotSteps === 0) snapshots.push(snapshot(session));
    },
    finish(run) {
      const steps = stepOf(session);
      endSession(session, 0);
      digest.addIntegers(snapshot(session));
      const [first, ...others] = lanes.map((one) => cutLanes(one, steps + 1));
      return {
        ...(first as Lanes),
        others,
        rate,
        steps,
        lines: ledger.lines,
        contacts: ledger.contacts,
        outcome: outcomeOf(session),
        digest: digest.text(),
        marks,
        partsAtSeconds: partsAt(run, marks, rate),
        snapshots,
        snapshotSteps,
      };
    },
  };
}

/** Simulates a run on a compiled level from start to end and keeps the whole recording. */
export function simulate(compiled: Compiled, run: Run): Recording {
  const ledger = createLedger();
  const playing = startPlaying(compiled, run, ledger);
  const keeping = beginKeeping(playing.session, ledger, playing.reader.steps);
  while (goesOn(playing)) playSecond(playing, keeping);
  return keeping.finish(run);
}

/** The run with the marks of what it comes to on this level, so that it can be told later where it parts from it. */
export function withMarks(compiled: Compiled, run: Run): Run {
  return { ...run, marks: [...simulate(compiled, run).marks] };
}
