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
  type Rows,
  type Session,
} from '../session/index.ts';
import { readInputs, type Run } from './run.ts';

/** A simulated run with everything the Strip and the Plan draw. Numbers of step k stand at index k; 0 is the start. */
export interface Recording {
  readonly rate: number;
  readonly steps: number;
  readonly x: Float32Array;
  readonly y: Float32Array;
  readonly speed: Float32Array;
  /** One lane for each meter, by id. */
  readonly meters: Readonly<Record<string, Float32Array>>;
  readonly lines: Rows;
  readonly contacts: Rows;
  readonly outcome: Outcome;
  readonly digest: string;
  /** State every `snapshotSteps` steps, from step 0. */
  readonly snapshots: readonly Uint8Array[];
  readonly snapshotSteps: number;
}

/** Seconds of session between two snapshots. */
const SNAPSHOT_SECONDS = 5;

/** The digest of a session: every player's motion and meters at each step, then the whole closing state. */
function createSessionDigest() {
  const digest = createDigest();
  return {
    afterStep({ state, compiled }: Session): void {
      for (let player = 0; player < compiled.playerCount; player += 1) {
        digest.addNumber(state.playerX[player] as number);
        digest.addNumber(state.playerY[player] as number);
        digest.addNumber(state.velocityX[player] as number);
        digest.addNumber(state.velocityY[player] as number);
      }
      for (const value of state.meter) digest.addNumber(value);
    },
    finish({ state }: Session): string {
      digest.addBytes(state.bytes);
      return digest.text();
    },
  };
}

/** Simulates a run on a compiled level from start to end and keeps the whole recording. */
export function simulate(compiled: Compiled, run: Run): Recording {
  const reader = readInputs(run, compiled.rate);
  const ledger = createLedger();
  const session = createSession(compiled, ledger);
  const digest = createSessionDigest();
  const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
  const snapshotSteps = SNAPSHOT_SECONDS * compiled.rate;
  const length = reader.steps + 1;
  const x = new Float32Array(length);
  const y = new Float32Array(length);
  const speed = new Float32Array(length);
  const lanes = compiled.ids.meters.map(() => new Float32Array(length));
  const snapshots: Uint8Array[] = [];

  const { state } = session;
  const sample = (): void => {
    const at = stepOf(session);
    x[at] = state.playerX[0] as number;
    y[at] = state.playerY[0] as number;
    const velocityX = state.velocityX[0] as number;
    const velocityY = state.velocityY[0] as number;
    speed[at] = Math.sqrt(velocityX * velocityX + velocityY * velocityY);
    for (let meter = 0; meter < lanes.length; meter += 1) (lanes[meter] as Float32Array)[at] = state.meter[meter] as number;
    if (at % snapshotSteps === 0) snapshots.push(snapshot(session));
  };
  sample();
  while (!hasEnded(session) && stepOf(session) < reader.steps) {
    reader.read(stepOf(session) + 1, inputs);
    step(session, inputs);
    sample();
    digest.afterStep(session);
  }
  const steps = stepOf(session);
  endSession(session, 0);
  const cut = (lane: Float32Array): Float32Array => (lane.length === steps + 1 ? lane : lane.slice(0, steps + 1));
  return {
    rate: compiled.rate,
    steps,
    x: cut(x),
    y: cut(y),
    speed: cut(speed),
    meters: Object.fromEntries(compiled.ids.meters.map((id, meter) => [id, cut(lanes[meter] as Float32Array)])),
    lines: ledger.lines,
    contacts: ledger.contacts,
    outcome: outcomeOf(session),
    digest: digest.finish(session),
    snapshots,
    snapshotSteps,
  };
}
