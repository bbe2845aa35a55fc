import { tryOf } from '@dial/core/level';
import type { Run } from '@dial/core/players';
import { isWalk } from '../slices/simulated.ts';
import { walkerOn } from './walker.ts';
import type { RootState } from '../store.ts';

let made: { readonly recorded: Run; readonly stated: object; readonly run: Run } | null = null;

/** The run as it is simulated: as recorded, or begun from the starting state that was chosen. The same for the same choice. */
export function runTried({ document, simulated }: Pick<RootState, 'document' | 'simulated'>): Run | null {
  const { startFrom, run: drawn } = simulated;
  const level = document.turning ?? document.open?.level;
  // Of a route or a persona that is gone the last walk stays, as a run like any other.
  const gone = isWalk(drawn) && level !== undefined && walkerOn(level, drawn) === null;
  const recorded = (gone ? drawn?.walked : undefined) ?? drawn?.run ?? null;
  const stated = startFrom === null ? undefined : level?.tries[startFrom];
  if (recorded === null || level === undefined || startFrom === null || stated === undefined) return recorded;
  if (made?.recorded !== recorded || made.stated !== stated) {
    // What it was recorded from is no longer what it starts from: its marks tell nothing.
    made = { recorded, stated, run: { ...recorded, start: tryOf(level, startFrom), marks: [] } };
  }
  return made.run;
}
