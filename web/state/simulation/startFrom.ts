import { tryOf } from '@dial/core/level';
import type { Run } from '@dial/core/players';
import type { RootState } from '../store.ts';

let made: { readonly recorded: Run; readonly stated: object; readonly run: Run } | null = null;

/** The run as it is simulated: as recorded, or begun from the starting state that was chosen. The same for the same choice. */
export function runTried({ document, simulated }: Pick<RootState, 'document' | 'simulated'>): Run | null {
  const { startFrom } = simulated;
  const recorded = simulated.run?.run ?? null;
  const level = document.turning ?? document.open?.level;
  const stated = startFrom === null ? undefined : level?.tries[startFrom];
  if (recorded === null || level === undefined || startFrom === null || stated === undefined) return recorded;
  if (made?.recorded !== recorded || made.stated !== stated) {
    // What it was recorded from is no longer what it starts from: its marks tell nothing.
    made = { recorded, stated, run: { ...recorded, start: tryOf(level, startFrom), marks: [] } };
  }
  return made.run;
}
