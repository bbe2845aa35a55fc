import type { StudyAsked } from '@dial/core/api';
import { newId } from '../../browser/ids.ts';
import { api } from '../server/api.ts';
import type { AppStore } from '../store.ts';
import { whenAllSent } from './saving.ts';

/** Begins a study of the level as it is here, once the server has all edits of it: told its revision then. Answers the study's id. Rejects, saying why, when it cannot be begun. */
export async function beginStudy(store: AppStore, level: string, study: (revision: number) => StudyAsked): Promise<string> {
  await whenAllSent(store);
  const id = newId();
  await api.putStudy(level, id, study(store.getState().saving.revision));
  return id;
}
