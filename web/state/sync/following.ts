import { StudyProgress } from '@dial/core/api';
import { z } from 'zod';
import { lists } from '../server/lists.ts';
import { crowdActions } from '../slices/crowd.ts';
import { documentActions } from '../slices/document.ts';
import { savingActions } from '../slices/saving.ts';
import { applyGuarded } from '../document/changes.ts';
import { Operations } from './keeping.ts';
import { readText } from '../../browser/reading.ts';
import type { AppStore } from '../store.ts';

const At = z.object({ revision: z.int() });
const SavedChange = z.object({ revision: z.int(), key: z.string(), operations: Operations });

/** The server says at which revision the level is; `saving` fetches what has been missed. */
export function hearRevision(store: AppStore, level: string, revision: number): void {
  const { open } = store.getState().document;
  if (open?.id === level && revision > store.getState().saving.revision) store.dispatch(savingActions.heard(revision));
}

/** Takes in an edit that was saved elsewhere: at once, or, while edits of our own are on their way, by what `saving` fetches after them. */
export function hearChange(store: AppStore, level: string, { revision, operations }: z.infer<typeof SavedChange>): void {
  const { open } = store.getState().document;
  const { unsent, revision: here } = store.getState().saving;
  if (open?.id !== level || revision <= here) return;
  const next = unsent.length === 0 && revision === here + 1 ? applyGuarded(open.level, operations) : undefined;
  if (next === undefined) store.dispatch(savingActions.heard(revision));
  else store.dispatch(documentActions.rebased({ level: next, revision, unsent: [] }));
}

/**
 * Follows the open level while the page is seen, so that edits saved in another window show at once. A stream that
 * breaks is opened again by the browser, and begins with the revision the level is at.
 */
export function startFollowing(store: AppStore): void {
  let stream: { readonly level: string; readonly source: EventSource } | null = null;
  const follow = (): void => {
    const { open } = store.getState().document;
    const wanted = document.visibilityState === 'visible' ? (open?.id ?? null) : null;
    if (stream?.level === wanted || (stream === null && wanted === null)) return;
    stream?.source.close();
    stream = null;
    if (wanted === null) return;
    const source = new EventSource(`/api/levels/${encodeURIComponent(wanted)}/changes`);
    stream = { level: wanted, source };
    source.addEventListener('at', (event) => {
      const at = readText(String(event.data), At);
      if (at !== undefined) hearRevision(store, wanted, at.revision);
      // What was told while nobody listened is fetched.
      store.dispatch(crowdActions.studiesMissed());
      store.dispatch(lists.util.invalidateTags(['studies']));
    });
    source.addEventListener('study', (event) => {
      const progress = readText(String(event.data), StudyProgress);
      if (progress !== undefined) store.dispatch(crowdActions.studyCame(progress));
    });
    source.addEventListener('saved', (event) => {
      const change = readText(String(event.data), SavedChange);
      if (change !== undefined) hearChange(store, wanted, change);
    });
  };
  store.subscribe(follow);
  document.addEventListener('visibilitychange', follow);
}
