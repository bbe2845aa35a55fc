import { createApi, fakeBaseQuery } from '@reduxjs/toolkit/query/react';
import { api, type LevelEntry, type RunEntry, type StudyEntry, type VersionEntry } from './api.ts';

/** What a question to the server came to: its answer, or the error it failed with. */
type Answer<Value> = { readonly data: Value } | { readonly error: unknown };

async function answer<Value>(ask: () => Promise<Value>): Promise<Answer<Value>> {
  try {
    return { data: await ask() };
  } catch (error) {
    return { error };
  }
}

/** The lists that the server keeps: fetched when one is shown, and anew when what they list has been changed from here. */
export const lists = createApi({
  reducerPath: 'lists',
  baseQuery: fakeBaseQuery<unknown>(),
  tagTypes: ['levels', 'runs', 'studies', 'versions'],
  endpoints: (build) => ({
    levels: build.query<readonly LevelEntry[], null>({ queryFn: () => answer(api.listLevels), providesTags: ['levels'] }),
    runs: build.query<readonly RunEntry[], string>({ queryFn: (level) => answer(() => api.listRuns(level)), providesTags: ['runs'] }),
    studies: build.query<readonly StudyEntry[], string>({
      queryFn: (level) => answer(() => api.listStudies(level)),
      providesTags: ['studies'],
    }),
    /** The newest first. */
    versions: build.query<readonly VersionEntry[], string>({
      queryFn: (level) => answer(async () => (await api.listVersions(level)).reverse()),
      providesTags: ['versions'],
    }),
  }),
});

export const { useLevelsQuery, useRunsQuery, useStudiesQuery, useVersionsQuery } = lists;
