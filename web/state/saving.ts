import { parseLevel, type Level, valueAt } from '@dial/core/level';
import { applyPatch, type Operation } from 'rfc6902';
import { ApiError, api } from './api.ts';
import { benchActions, type ClashedValue, type Unsent } from './bench.ts';
import { applyGuarded } from './changes.ts';
import type { AppStore } from './store.ts';

const FIRST_WAIT = 500;
const LONGEST_WAIT = 8000;

/** Values of unsent edits whose guards no longer hold on the server's level. */
function clashes(unsent: readonly Unsent[], mine: Level, theirs: Level): ClashedValue[] {
  const paths = new Set(unsent.flatMap(({ operations }) => operations.filter(({ op }) => op !== 'test').map(({ path }) => path)));
  return [...paths]
    .map((path) => ({ path, mine: valueAt(mine, path), theirs: valueAt(theirs, path) }))
    .filter((value) => JSON.stringify(value.mine) !== JSON.stringify(value.theirs));
}

const withoutGuards = (operations: readonly Operation[]): Operation[] => operations.filter(({ op }) => op !== 'test');

/** Fetches the level as it is on the server and puts the unsent edits on top of it, or says where they clash. */
export async function catchUp(store: AppStore, levelId: string): Promise<void> {
  const theirs = await api.getLevel(levelId);
  const { open, unsent } = store.getState().bench;
  if (open?.id !== levelId) return;
  let level: Level | undefined = theirs.document;
  for (const { operations } of unsent) level = level === undefined ? undefined : applyGuarded(level, operations);
  if (level === undefined) {
    const values = clashes(unsent, open.level, theirs.document);
    if (values.length === 0) {
      // All of it is there already: it was sent as the page was left, and the page came back.
      store.dispatch(benchActions.rebased({ level: theirs.document, revision: theirs.revision, unsent: [] }));
      store.dispatch(benchActions.savingChanged({ state: 'saved' }));
    } else {
      store.dispatch(benchActions.savingChanged({ state: 'clash', theirs: theirs.document, revision: theirs.revision, values }));
    }
  } else {
    store.dispatch(benchActions.rebased({ level, revision: theirs.revision, unsent }));
  }
}

/**
 * Sends accepted edits to the server, one at a time and in order, each under a key of its own so that a reply lost on
 * the way is no clash. Runs for as long as the page does.
 */
export function startSaving(store: AppStore): void {
  let busy = false;
  let wait = FIRST_WAIT;

  const sendNext = async (): Promise<void> => {
    const { open, unsent, saving } = store.getState().bench;
    const [first] = unsent;
    if (busy || open === null || first === undefined || saving.state === 'clash') return;
    busy = true;
    store.dispatch(benchActions.savingChanged({ state: 'saving' }));
    try {
      const { revision } = await api.patchLevel(open.id, open.revision, first.key, first.operations);
      wait = FIRST_WAIT;
      if (store.getState().bench.open?.id !== open.id) return;
      store.dispatch(benchActions.saved({ key: first.key, revision }));
      if (store.getState().bench.unsent.length === 0) store.dispatch(benchActions.savingChanged({ state: 'saved' }));
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      if (error.status === 409) {
        await catchUp(store, open.id).catch((failure: unknown) => {
          store.dispatch(
            benchActions.savingChanged({ state: 'not saved', why: failure instanceof Error ? failure.message : String(failure) }),
          );
        });
      } else {
        store.dispatch(benchActions.savingChanged({ state: 'not saved', why: error.message }));
        await new Promise((resolve) => setTimeout(resolve, wait));
        wait = Math.min(wait * 2, LONGEST_WAIT);
      }
    } finally {
      busy = false;
      void sendNext();
    }
  };

  store.subscribe(() => {
    if (!busy && store.getState().bench.unsent.length > 0) void sendNext();
  });

  addEventListener('pagehide', () => {
    const { open, unsent } = store.getState().bench;
    // What is on its way already arrives by itself. The rest goes as one patch on the revision that one leads to, since
    // the page will not be there to send them one after the other.
    const underWay = busy ? 1 : 0;
    const operations = unsent.slice(underWay).flatMap((one) => one.operations);
    if (open === null || operations.length === 0) return;
    // No one is left to be told: if it fails, the server has what it acknowledged and no more.
    api.patchLevel(open.id, open.revision + underWay, crypto.randomUUID(), operations, true).catch(() => undefined);
  });
}

/** Waits until every edit is on the server. Rejects, saying why, when one cannot be sent. */
export function whenAllSent(store: AppStore): Promise<void> {
  return new Promise((resolve, reject) => {
    const settle = (): boolean => {
      const { open, unsent, saving } = store.getState().bench;
      const name = `“${open?.level.name ?? ''}”`;
      if (unsent.length === 0) resolve();
      else if (saving.state === 'not saved') reject(new Error(`${name} has changes that are not saved yet: ${saving.why}`));
      else if (saving.state === 'clash')
        reject(new Error(`${name} was changed elsewhere too; go back to it and choose which values stand.`));
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
  const failed = applyPatch(level, operations).some((error) => error !== null) || !parseLevel(level).ok;
  const again = operations.length === 0 || failed ? [] : [{ key: crypto.randomUUID(), operations }];
  store.dispatch(benchActions.rebased({ level: failed ? saving.theirs : level, revision: saving.revision, unsent: again }));
  store.dispatch(benchActions.savingChanged({ state: again.length === 0 ? 'saved' : 'saving' }));
  if (failed) store.dispatch(benchActions.troubled('Your values no longer fit this level, so theirs stand.'));
}
