import { createDigest } from '../level/index.ts';
import { readInputs, sessionOptions, type Run } from '../players/index.ts';
import {
  createLedger,
  createSession,
  endSession,
  hasEnded,
  INPUT_WIDTH,
  readLines,
  restore,
  snapshot,
  step,
  stepOf,
  type Compiled,
} from '../session/index.ts';
import { short } from './levels.ts';

function digestOf(state: Uint8Array): string {
  const digest = createDigest();
  digest.addIntegers(state);
  return digest.text();
}

interface How {
  /** Without the shortcuts. */
  readonly exhaustive?: boolean;
  /** A snapshot to go on from. */
  readonly from?: Uint8Array;
}

/** Steps a run to its end: what its ledger says, and a digest of all that the session came to. */
export function stepped(compiled: Compiled, run: Run, { exhaustive = false, from }: How = {}): { lines: string[]; state: string } {
  const ledger = createLedger();
  const session = createSession(compiled, ledger, { ...sessionOptions(compiled, run), exhaustive });
  if (from !== undefined) restore(session, from);
  const reader = readInputs(run, compiled.rate);
  const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
  while (stepOf(session) < reader.steps && !hasEnded(session)) {
    reader.read(stepOf(session) + 1, inputs);
    step(session, inputs);
  }
  endSession(session, 0);
  return { lines: short(readLines(compiled, ledger.lines)), state: digestOf(snapshot(session)) };
}
