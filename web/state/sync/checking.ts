import { reasonOf } from '@dial/core/level';
import { lists } from '../server/lists.ts';
import { viewActions } from '../slices/view.ts';
import type { AppStore } from '../store.ts';
import { beginStudy } from './studying.ts';

/** Lets the server judge all targets of the level as it is, once it has all edits, with as many sessions as each states. */
export async function checkInFull(store: AppStore): Promise<void> {
  const { open } = store.getState().document;
  if (open === null) return;
  try {
    await beginStudy(store, open.id, (revision) => ({
      name: `check of revision ${String(revision)}`,
      settings: { kind: 'check' },
      version: null,
    }));
  } catch (error) {
    store.dispatch(viewActions.troubled(`The targets could not be checked: ${reasonOf(error)}`));
  } finally {
    store.dispatch(lists.util.invalidateTags(['studies']));
  }
}
