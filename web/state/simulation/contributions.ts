import { parseLevel, setAt, valueAt, type Difference, type Level } from '@dial/core/level';
import type { Run, Walker } from '@dial/core/players';
import type { Outcome } from '@dial/core/session';
import { produce } from 'immer';
import { outcomeOnce } from './simulation.ts';

/** What one change alone makes of the compared version's session; null where the level is not valid with it alone. */
export interface Contribution {
  readonly difference: Difference;
  readonly outcome: Outcome | null;
}

/** Simulates the compared version again and again, each time with one of the changes only. Stops when `wanted` says no. */
export async function contributionsOf(
  was: Level,
  differences: readonly Difference[],
  run: Run,
  walkerFor: (level: Level) => Walker | null,
  wanted: () => boolean,
  onOne: (one: Contribution) => void,
): Promise<void> {
  for (const difference of differences) {
    const changed = produce(was, (draft) => {
      if (valueAt(draft, difference.path.slice(0, difference.path.lastIndexOf('/'))) !== undefined)
        setAt(draft, difference.path, difference.now);
    });
    const parsed = changed === was ? null : parseLevel(changed);
    const outcome = parsed?.ok === true ? await outcomeOnce(parsed.value, run, walkerFor(parsed.value)) : null;
    if (!wanted()) return;
    onOne({ difference, outcome });
  }
}
