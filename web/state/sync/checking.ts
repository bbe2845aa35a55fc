import { reasonOf } from '@dial/core/level';
import { newId } from '../../browser/ids.ts';
import { api } from '../server/api.ts';
import { lists } from '../server/lists.ts';
import { viewActions } from '../slices/view.ts';
import type { AppStore } from '../store.ts';
import { whenAllSent } from './saving.ts';

/** Lets the server judge all targets of the level as it is, once it has all edits, with as many sessions as each states. */
export async function checkInFull(store: AppStore): Promise<void> {
  const { open } = store.getState().document;
  if (open === null) return;
  try {
    await whenAllSent(store);
    const name = `check of revision ${String(store.getState().saving.revision)}`;
    await api.putStudy(open.id, newId(), { name, settings: { kind: 'check' }, version: null });
  } catch (error) {
    store.dispatch(viewActions.troubled(`The targets could not be checked: ${reasonOf(error)}`));
  } finally {
    store.dispatch(lists.util.invalidateTags(['studies']));
  }
}
