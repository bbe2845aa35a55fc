import { Piscina } from 'piscina';
import { HttpProblem } from '../problems.ts';
import type * as checks from './checks.ts';
import { refusal } from './refusal.ts';

/** Longest that one body may take to be checked while others wait, in milliseconds; a thread that takes longer is ended. */
const DEADLINE = 15_000;
/** The same where nobody waits. */
export const UNHURRIED = 600_000;

type Checks = typeof checks;
type Task = keyof Checks;
type Input<Name extends Task> = Parameters<Checks[Name]> extends [] ? null : Parameters<Checks[Name]>[0];

/** Threads that check what comes in. */
export interface Checker {
  /** Answers what is to be kept; throws the problem that a refused body is answered with. `revision` is told of a clash. */
  run<Name extends Task>(
    task: Name,
    input: Input<Name>,
    revision?: number,
  ): Promise<Extract<ReturnType<Checks[Name]>, { ok: true }>['value']>;
  close(): Promise<void>;
}

export function createChecker(deadline = DEADLINE): Checker {
  const pool = new Piscina({
    filename: new URL('./checks.js', import.meta.url).href,
    minThreads: 0,
    maxThreads: 2,
    idleTimeout: 60_000,
    // A document of 8 MB with all that is made of it while it is checked, several times over.
    resourceLimits: { maxOldGenerationSizeMb: 1024 },
  });
  return {
    async run<Name extends Task>(task: Name, input: Input<Name>, revision?: number) {
      let checked: ReturnType<Checks[Name]>;
      try {
        checked = (await pool.run(input, { name: task, signal: AbortSignal.timeout(deadline) })) as ReturnType<Checks[Name]>;
      } catch (error) {
        if (error instanceof Error && (error.name === 'AbortError' || 'code' in error)) {
          throw new HttpProblem(422, 'Not valid', 'What was sent takes too long, or too much memory, to check. Nothing was changed.');
        }
        throw error;
      }
      if (!checked.ok) throw refusal(checked, revision);
      return checked.value;
    },
    close: () => pool.close({ force: true }).catch(() => undefined),
  };
}
