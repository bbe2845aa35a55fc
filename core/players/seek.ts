import { createSession, INPUT_WIDTH, momentOf, restore, step, stepOf, type Compiled, type Moment, type Session } from '../session/index.ts';
import { readInputs, sessionOptions, type Run } from './run.ts';
import type { Recording } from './simulate.ts';

/** Brings a fresh session to a step of a recorded run: from the last snapshot before it, then step by step. */
export function sessionAt(compiled: Compiled, run: Run, recording: Recording, target: number): Session {
  const session = createSession(compiled, null, sessionOptions(compiled, run));
  const wanted = Math.max(0, Math.min(target, recording.steps));
  const saved = recording.snapshots[Math.floor(wanted / recording.snapshotSteps)];
  if (saved !== undefined) restore(session, saved);
  const reader = readInputs(run, compiled.rate);
  const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
  while (stepOf(session) < wanted) {
    reader.read(stepOf(session) + 1, inputs);
    step(session, inputs);
  }
  return session;
}

/** Who and what is where at a step of a recorded run. */
export function momentAt(compiled: Compiled, run: Run, recording: Recording, target: number): Moment {
  return momentOf(sessionAt(compiled, run, recording, target));
}
