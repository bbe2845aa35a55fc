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

/** What its ledger says, who touched what from when to when, and a digest of all that the session came to. */
interface Stepped {
  readonly lines: string[];
  readonly contacts: number[];
  readonly state: string;
}

/** Steps a run to its end. */
export function stepped(compiled: Compiled, run: Run, { exhaustive = false, from }: How = {}): Stepped {
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
  const { count, width, values } = ledger.contacts;
  return {
    lines: short(readLines(compiled, ledger.lines)),
    contacts: [...values.subarray(0, count * width)],
    state: digestOf(snapshot(session)),
  };
}
