import { documentHash, type Level } from '@dial/core/level';
import { createRunWriter, readInputs, sessionOptions, withMarks, type Run, type RunWriter } from '@dial/core/players';
import {
  createLedger,
  createSession,
  hasEnded,
  INPUT_WIDTH,
  momentOf,
  readLine,
  step,
  stepOf,
  type LedgerLine,
  type Moment,
  type Session,
} from '@dial/core/session';
import { compiledOf } from '../state/lines.ts';

/** A slow machine plays slower rather than skipping: at most this many steps are made up for in one picture. */
const MOST_STEPS_A_PICTURE = 8;

/** A session played by hand. */
export interface Game {
  readonly session: Session;
  /** Lets real time pass: makes the steps that are due. Answers whether any were made. */
  advance(seconds: number, read: (inputs: Int8Array) => void): boolean;
  moment(): Moment;
  /** The newest ledger lines, oldest first. */
  newest(count: number): LedgerLine[];
  over(): boolean;
  finish(name: string): Run;
}

/** Starts a session to be played, from the beginning or from a step of a recorded run. */
export function startGame(level: Level, from: { readonly run: Run; readonly step: number } | null): Game {
  const compiled = compiledOf(level);
  const ledger = createLedger();
  const session = createSession(compiled, ledger, from === null ? {} : sessionOptions(compiled, from.run));
  const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
  if (from !== null) {
    const reader = readInputs(from.run, compiled.rate);
    while (stepOf(session) < Math.min(from.step, reader.steps) && !hasEnded(session)) {
      reader.read(stepOf(session) + 1, inputs);
      step(session, inputs);
    }
  }
  const writer: RunWriter = createRunWriter(
    compiled.rate,
    compiled.playerCount,
    from === null ? undefined : { run: from.run, step: stepOf(session) },
  );
  let owed = 0;
  return {
    session,
    advance(seconds, read) {
      owed = Math.min(owed + seconds * compiled.rate, MOST_STEPS_A_PICTURE);
      const due = Math.floor(owed);
      owed -= due;
      for (let made = 0; made < due && !hasEnded(session); made += 1) {
        read(inputs);
        writer.write(stepOf(session) + 1, inputs);
        step(session, inputs);
      }
      return due > 0;
    },
    moment: () => momentOf(session),
    newest(count) {
      const { lines } = ledger;
      const first = Math.max(0, lines.count - count);
      return Array.from({ length: lines.count - first }, (_, index) => readLine(compiled, lines, first + index));
    },
    over: () => hasEnded(session),
    finish: (name) => withMarks(compiled, writer.finish(name, documentHash(level))),
  };
}
