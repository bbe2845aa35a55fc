import { parseLevel, valueAt, type Level } from '@dial/core/level';
import { applyPatch, type Operation } from 'rfc6902';
import { newId } from '../browser/ids.ts';
import { ApiError, api, reasonOf } from './api.ts';
import { benchActions, type BenchState, type Unsent } from './bench.ts';
import { applyGuarded } from './changes.ts';
import { maySend, waitAfter, type ClashedValue } from './savingMachine.ts';
import type { AppStore } from './store.ts';

/** Values of unsent edits whose guards no longer hold on the server's level. */
function clashes(unsent: readonly Unsent[], mine: Level, theirs: Level): ClashedValue[] {
  const paths = new Set(unsent.flatMap(({ operations }) => operations.filter(({ op }) => op !== 'test').map(({ path }) => path)));
  return [...paths]
    .map((path) => ({ path, mine: valueAt(mine, path), theirs: valueAt(theirs, path) }))
    .filter((value) => JSON.stringify(value.mine) !== JSON.stringify(value.theirs));
}

const withoutGuards = (operations: readonly Operation[]): Operation[] => operations.filter(({ op }) => op !== 'test');

/** Fetches the level as it is on the server and puts the unsent edits on top of it, or says where they clash. */
async function catchUp(store: AppStore, levelId: string): Promise<void> {
  const { document: theirs, revision } = await api.getLevel(levelId);
  const { open, unsent } = store.getState().bench;
  // What was fetched before a newer answer came in is no news.
  if (open?.id !== levelId || revision < open.revision) return;
  let level: Level | undefined = theirs;
  for (const { operations } of unsent) level = level === undefined ? undefined : applyGuarded(level, operations);
  if (level !== undefined) {
    store.dispatch(benchActions.rebased({ level, revision, unsent }));
    return;
  }
  const values = clashes(unsent, open.level, theirs);
  // Without a difference, all of it is there already: it was sent as the page was left, and the page came back.
  if (values.length === 0) store.dispatch(benchActions.rebased({ level: theirs, revision, unsent: [] }));
  else store.dispatch(benchActions.saving({ what: 'clashed', theirs, revision, values }));
}

/** Sends one edit and takes in what comes of it. */
async function send(store: AppStore, { key, operations }: Unsent): Promise<void> {
  const { open } = store.getState().bench;
  if (open === null) return;
  store.dispatch(benchActions.saving({ what: 'send', key }));
  const fail = (error: unknown): void => {
    if (store.getState().bench.open?.id !== open.id) return;
    const status = error instanceof ApiError ? error.status : 0;
    store.dispatch(benchActions.saving({ what: 'failed', status, why: reasonOf(error) }));
  };
  try {
    const { revision } = await api.patchLevel(open.id, open.revision, key, operations);
    if (store.getState().bench.open?.id !== open.id) return;
    store.dispatch(benchActions.saved({ key, revision }));
  } catch (error) {
    if (error instanceof ApiError && error.status === 409) await catchUp(store, open.id).catch(fail);
    else fail(error);
    // A level that was caught up with is clear again; the edit goes out anew on top of it.
  }
}

/** Whether a change made elsewhere was heard of that is not here, and no edit of ours is on its way. */
const isBehind = ({ open, unsent }: BenchState): boolean => open !== null && unsent.length === 0 && open.heard > open.revision;

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
    const { open: before } = store.getState().bench;
    try {
      await catchUp(store, before?.id ?? '');
      // A server that has not what was heard of, such as one put back to a backup, is not asked again and again.
      if (store.getState().bench.open?.revision === before?.revision) fetchLater();
    } catch (error) {
      fetchLater();
      store.dispatch(benchActions.troubled(`Edits made elsewhere cannot be fetched: ${reasonOf(error)}`));
    }
  };
  const go = (): void => {
    const { bench } = store.getState();
    const { open, unsent, saving } = bench;
    const [first] = unsent;
    if (busy || open === null) return;
    if (first === undefined ? !isBehind(bench) || fetchAgain !== undefined : timer !== undefined || !maySend(saving)) return;
    busy = true;
    void (first === undefined ? fetchHeard() : send(store, first)).finally(() => {
      busy = false;
      const { saving: now } = store.getState().bench;
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
    const { open, unsent } = store.getState().bench;
    if (open === null) return;
    // The page will not be there to send them one after the other, so all go at once, each under its own key and on the
    // revision that the one before will lead to. What does not get there is kept in the browser, under the same key.
    unsent.forEach(({ key, operations }, index) => {
      if (busy && index === 0) return; // It is on its way already.
      api.patchLevel(open.id, open.revision + index, key, operations, true).catch(() => undefined); // No one is left to be told.
    });
  });
}

/** Waits until every edit is on the server. Rejects, saying why, when one cannot be sent. */
export function whenAllSent(store: AppStore): Promise<void> {
  return new Promise((resolve, reject) => {
    const settle = (): boolean => {
      const { open, unsent, saving } = store.getState().bench;
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
  const { saving, unsent } = store.getState().bench;
  if (saving.state !== 'clash') return;
  const level = structuredClone(saving.theirs);
  const operations = keep === 'mine' ? unsent.flatMap((one) => withoutGuards(one.operations)) : [];
  const applied = applyPatch(level, operations).every((error) => error === null);
  const parsed = applied ? parseLevel(level) : null;
  const mine = parsed?.ok === true ? parsed.value : null;
  const again = operations.length === 0 || mine === null ? [] : [{ key: newId(), operations }];
  store.dispatch(benchActions.rebased({ level: mine ?? saving.theirs, revision: saving.revision, unsent: again }));
  if (mine === null) store.dispatch(benchActions.troubled('Your values no longer fit this level, so theirs stand.'));
}

/** Takes back an edit that the server does not take; those made after it stay, as far as they can stand without it. */
export async function takeBackRejected(store: AppStore): Promise<void> {
  const { saving, open } = store.getState().bench;
  if (saving.state !== 'rejected' || open === null) return;
  const { document: theirs, revision } = await api.getLevel(open.id);
  const now = store.getState().bench;
  if (now.open?.id !== open.id || now.saving.state !== 'rejected') return;
  let level = theirs;
  const kept: Unsent[] = [];
  for (const edit of now.unsent.filter(({ key }) => key !== saving.key)) {
    const next = applyGuarded(level, edit.operations);
    if (next === undefined) continue;
    level = next;
    kept.push(edit);
  }
  const lost = now.unsent.length - 1 - kept.length;
  store.dispatch(benchActions.rebased({ level, revision, unsent: kept }));
  if (lost > 0) {
    const many = lost === 1 ? 'One edit' : `${String(lost)} edits`;
    store.dispatch(benchActions.troubled(`${many} made after it could not stand without it and went with it.`));
  }
}

/** Brings a level back that was deleted elsewhere while it is open here; the edits go out again. */
export async function bringBack(store: AppStore): Promise<void> {
  const { saving, open } = store.getState().bench;
  if (saving.state !== 'rejected' || open === null) return;
  await api.restoreLevel(open.id);
  store.dispatch(benchActions.saving({ what: 'cleared' }));
}
