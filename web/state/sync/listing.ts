import type { RunEntry } from '../server/api.ts';
import { lists } from '../server/lists.ts';
import type { AppStore } from '../store.ts';

/** The runs kept of a level, fetched anew. Throws `ApiError`. */
export const fetchRuns = (store: AppStore, level: string): Promise<readonly RunEntry[]> =>
  store.dispatch(lists.endpoints.runs.initiate(level, { forceRefetch: true, subscribe: false })).unwrap();

/** What a list holds has been changed: it is fetched anew where it is shown. */
export const listChanged = (store: AppStore, list: 'levels' | 'runs' | 'versions'): void =>
  void store.dispatch(lists.util.invalidateTags([list]));
