import { z } from 'zod';
import { benchActions } from './bench.ts';
import { applyGuarded } from './changes.ts';
import { Operations } from './keeping.ts';
import { readText } from './reading.ts';
import { catchUp } from './saving.ts';
import type { AppStore } from './store.ts';

const At = z.object({ revision: z.int() });
const SavedChange = z.object({ revision: z.int(), key: z.string(), operations: Operations });

/** The server says at which revision the level is: what has been missed is fetched. */
export async function hearRevision(store: AppStore, level: string, revision: number): Promise<void> {
  const { open, unsent } = store.getState().bench;
  if (open?.id !== level || revision <= open.revision) return;
  store.dispatch(benchActions.heard(revision));
  // While edits are on their way it is only remembered: when the last of them is saved, the page catches up.
  if (unsent.length === 0) await catchUp(store, level);
}

/** Takes in an edit that was saved elsewhere. */
export async function hearChange(store: AppStore, level: string, change: z.infer<typeof SavedChange>): Promise<void> {
  const { open, unsent } = store.getState().bench;
  if (open?.id !== level || change.revision <= open.revision) return;
  store.dispatch(benchActions.heard(change.revision));
  if (unsent.length > 0) return;
  const next = change.revision === open.revision + 1 ? applyGuarded(open.level, change.operations) : undefined;
  if (next === undefined) await catchUp(store, level);
  else store.dispatch(benchActions.rebased({ level: next, revision: change.revision, unsent: [] }));
}

/**
 * Follows the open level while the page is seen, so that edits saved in another window show at once. A stream that
 * breaks is opened again by the browser, and begins with the revision the level is at.
 */
export function startFollowing(store: AppStore): void {
  let stream: { readonly level: string; readonly source: EventSource } | null = null;
  const follow = (): void => {
    const { open } = store.getState().bench;
    const wanted = document.visibilityState === 'visible' ? (open?.id ?? null) : null;
    if (stream?.level === wanted || (stream === null && wanted === null)) return;
    stream?.source.close();
    stream = null;
    if (wanted === null) return;
    const source = new EventSource(`/api/levels/${encodeURIComponent(wanted)}/changes`);
    stream = { level: wanted, source };
    const say = (error: unknown): void => {
      const why = error instanceof Error ? error.message : String(error);
      store.dispatch(benchActions.troubled(`Edits made elsewhere cannot be fetched: ${why}`));
    };
    source.addEventListener('at', (event) => {
      const at = readText(String(event.data), At);
      if (at !== undefined) hearRevision(store, wanted, at.revision).catch(say);
    });
    source.addEventListener('saved', (event) => {
      const change = readText(String(event.data), SavedChange);
      if (change !== undefined) hearChange(store, wanted, change).catch(say);
    });
  };
  store.subscribe(follow);
  document.addEventListener('visibilitychange', follow);
}
