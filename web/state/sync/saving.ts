import type { Unsent } from '../slices/opening.ts';
import { canonicalText, parseLevel, valueAt, type Level, reasonOf } from '@dial/core/level';
import { applyPatch, type Operation } from 'rfc6902';
import { newId } from '../../browser/ids.ts';
import { ApiError, api } from '../server/api.ts';
import { documentActions } from '../slices/document.ts';
import { savingActions } from '../slices/saving.ts';
import { viewActions } from '../slices/view.ts';
import { applyGuarded } from '../document/changes.ts';
import { maySend, waitAfter, type ClashedValue } from '../slices/savingMachine.ts';
import type { AppStore, RootState } from '../store.ts';

/** Values of unsent edits whose guards no longer hold on the server's level. */
function clashes(unsent: readonly Unsent[], mine: Level, theirs: Level): ClashedValue[] {
  const paths = new Set(unsent.flatMap(({ operations }) => operations.filter(({ op }) => op !== 'test').map(({ path }) => path)));
  return [...paths]
    .map((path) => ({ path, mine: valueAt(mine, path), theirs: valueAt(theirs, path) }))
    .filter((value) => canonicalText(value.mine) !== canonicalText(value.theirs));
}

const withoutGuards = (operations: readonly Operation[]): Operation[] => operations.filter(({ op }) => op !== 'test');

/** Fetches the level as it is on the server and puts the unsent edits on top of it, or says where they clash. */
async function catchUp(store: AppStore, levelId: string): Promise<void> {
  const { document: theirs, revision } = await api.getLevel(levelId);
  const { open } = store.getState().document;
  const { unsent, revision: here } = store.getState().saving;
  // What was fetched before a newer answer came in is no news.
  if (open?.id !== levelId || revision < here) return;
  let level: Level | undefined = theirs;
  for (const { operations } of unsent) level = level === undefined ? undefined : applyGuarded(level, operations);
  if (level !== undefined) {
    store.dispatch(documentActions.rebased({ level, revision, unsent }));
    return;
  }
  const values = clashes(unsent, open.level, theirs);
  // Without a difference, all of it is there already: it was sent as the page was left, and the page came back.
  if (values.length === 0) store.dispatch(documentActions.rebased({ level: theirs, revision, unsent: [] }));
  else store.dispatch(savingActions.happened({ what: 'clashed', theirs, revision, values }));
}

/** Sends one edit and takes in what comes of it. */
async function send(store: AppStore, { key, operations }: Unsent): Promise<void> {
  const { open } = store.getState().document;
  if (open === null) return;
  store.dispatch(savingActions.happened({ what: 'send', key }));
  const fail = (error: unknown): void => {
    if (store.getState().document.open?.id !== open.id) return;
    const status = error instanceof ApiError ? error.status : 0;
    store.dispatch(savingActions.happened({ what: 'failed', status, why: reasonOf(error) }));
  };
  try {
    const { revision } = await api.patchLevel(open.id, store.getState().saving.revision, key, operations);
    if (store.getState().document.open?.id !== open.id) return;
    store.dispatch(savingActions.saved({ key, revision }));
  } catch (error) {
    if (error instanceof ApiError && error.status === 409) await catchUp(store, open.id).catch(fail);
    else fail(error);
    // A level that was caught up with is clear again; the edit goes out anew on top of it.
  }
}

/** Whether a change made elsewhere was heard of that is not here, and no edit of ours is on its way. */
const isBehind = ({ document, saving }: RootState): boolean =>
  document.open !== null && saving.unsent.length === 0 && saving.heard > saving.revision;

const FETCH_AGAIN_MILLISECONDS = 5000;

/**
 * Sends accepted edits to the server, one at a time and in order, each under the key it was made with so that a reply lost
 * on the way is no clash; once none is left it fetches what was saved elsewhere. Runs for as long as the page does.
 */
export function startSaving(store: AppStore): void {
  let busy = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let fetchAgain: ReturnType<typeof setTimeout> | undefined;

  const fetchLater = (): void => {
    fetchAgain = setTimeout(() => {
      fetchAgain = undefined;
      go();
    }, FETCH_AGAIN_MILLISECONDS);
  };
  const fetchHeard = async (): Promise<void> => {
    const { document, saving: before } = store.getState();
    try {
      await catchUp(store, document.open?.id ?? '');
      // A server that has not what was heard of, such as one put back to a backup, is not asked again and again.
      if (store.getState().saving.revision === before.revision) fetchLater();
    } catch (error) {
      fetchLater();
      store.dispatch(viewActions.troubled(`Edits made elsewhere cannot be fetched: ${reasonOf(error)}`));
    }
  };
  const go = (): void => {
    const state = store.getState();
    const [first] = state.saving.unsent;
    if (busy || state.document.open === null) return;
    if (first === undefined ? !isBehind(state) || fetchAgain !== undefined : timer !== undefined || !maySend(state.saving.now)) return;
    busy = true;
    void (first === undefined ? fetchHeard() : send(store, first)).finally(() => {
      busy = false;
      const { now } = store.getState().saving;
      if (now.state === 'waiting' && timer === undefined) {
        timer = setTimeout(() => {
          timer = undefined;
          go();
        }, waitAfter(now.tries));
      } else go();
    });
  };
  store.subscribe(go);

  addEventListener('pagehide', () => {
    const { open } = store.getState().document;
    const { unsent, revision } = store.getState().saving;
    if (open === null) return;
    // The page will not be there to send them one after the other, so all go at once, each under its own key and on the
    // revision that the one before will lead to. What does not get there is kept in the browser, under the same key.
    unsent.forEach(({ key, operations }, index) => {
      if (busy && index === 0) return; // It is on its way already.
      api.patchLevel(open.id, revision + index, key, operations, true).catch(() => undefined); // No one is left to be told.
    });
  });
}

/** Waits until every edit is on the server. Rejects, saying why, when one cannot be sent. */
export function whenAllSent(store: AppStore): Promise<void> {
  return new Promise((resolve, reject) => {
    const settle = (): boolean => {
      const { open } = store.getState().document;
      const { unsent, now: saving } = store.getState().saving;
      const name = `“${open?.level.name ?? ''}”`;
      if (unsent.length === 0) resolve();
      else if (saving.state === 'waiting') reject(new Error(`${name} has changes that are not saved yet: ${saving.why}`));
      else if (saving.state === 'clash')
        reject(new Error(`${name} was changed elsewhere too; go back to it and choose which values stand.`));
      else if (saving.state === 'rejected')
        reject(new Error(`${name} has a change that the server does not take; go back to it and take it back, or export the level.`));
      else return false;
      return true;
    };
    if (settle()) return;
    const stop = store.subscribe(() => {
      if (settle()) stop();
    });
  });
}

/** Settles a clash: my values go on top of theirs, or theirs stand and mine are dropped. */
export function settleClash(store: AppStore, keep: 'mine' | 'theirs'): void {
  const { now: saving, unsent } = store.getState().saving;
  if (saving.state !== 'clash') return;
  const level = structuredClone(saving.theirs);
  const operations = keep === 'mine' ? unsent.flatMap((one) => withoutGuards(one.operations)) : [];
  const applied = applyPatch(level, operations).every((error) => error === null);
  const parsed = applied ? parseLevel(level) : null;
  const mine = parsed?.ok === true ? parsed.value : null;
  const again = operations.length === 0 || mine === null ? [] : [{ key: newId(), operations }];
  store.dispatch(documentActions.rebased({ level: mine ?? saving.theirs, revision: saving.revision, unsent: again }));
  if (mine === null) store.dispatch(viewActions.troubled('Your values no longer fit this level, so theirs stand.'));
}

/** Takes back an edit that the server does not take; those made after it stay, as far as they can stand without it. */
export async function takeBackRejected(store: AppStore): Promise<void> {
  const { now: saving } = store.getState().saving;
  const { open } = store.getState().document;
  if (saving.state !== 'rejected' || open === null) return;
  const { document: theirs, revision } = await api.getLevel(open.id);
  const { document, saving: now } = store.getState();
  if (document.open?.id !== open.id || now.now.state !== 'rejected') return;
  let level = theirs;
  const kept: Unsent[] = [];
  for (const edit of now.unsent.filter(({ key }) => key !== saving.key)) {
    const next = applyGuarded(level, edit.operations);
    if (next === undefined) continue;
    level = next;
    kept.push(edit);
  }
  const lost = now.unsent.length - 1 - kept.length;
  store.dispatch(documentActions.rebased({ level, revision, unsent: kept }));
  if (lost > 0) {
    const many = lost === 1 ? 'One edit' : `${String(lost)} edits`;
    store.dispatch(viewActions.troubled(`${many} made after it could not stand without it and went with it.`));
  }
}

/** Brings a level back that was deleted elsewhere while it is open here; the edits go out again. */
export async function bringBack(store: AppStore): Promise<void> {
  const { now: saving } = store.getState().saving;
  const { open } = store.getState().document;
  if (saving.state !== 'rejected' || open === null) return;
  await api.restoreLevel(open.id);
  store.dispatch(savingActions.happened({ what: 'cleared' }));
}
