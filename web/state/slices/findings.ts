import type { Finding } from '@dial/core/findings';
import { whyMeant, type Level } from '@dial/core/level';
import { createSelector, createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { documentActions } from './document.ts';

interface FindingsState {
  /** What is found, and in which level; null: not looked for yet. */
  readonly found: { readonly level: Level; readonly findings: readonly Finding[] } | null;
  /** Id of the one that is pointed at: drawn on the Plan. */
  readonly pointed: string | null;
}

const initialState: FindingsState = { found: null, pointed: null };

const slice = createSlice({
  name: 'findings',
  initialState,
  reducers: {
    came: (state, { payload }: PayloadAction<NonNullable<FindingsState['found']>>) => ({ ...state, found: payload }),
    pointed: (state, { payload }: PayloadAction<string | null>) => ({ ...state, pointed: payload }),
  },
  extraReducers: (builder) => {
    builder.addCase(documentActions.opened, () => initialState);
  },
});

/** What is found and not set aside, the gravest first. */
export const openFindings = createSelector(
  (state: { readonly findings: FindingsState }) => state.findings.found,
  (found): readonly Finding[] => found?.findings.filter(({ meant }) => meant === null) ?? [],
);

const crowdShows = (state: {
  readonly crowd: { readonly shown: { readonly now: { readonly findings: readonly Finding[] } | null } };
}): readonly Finding[] | undefined => state.crowd.shown.now?.findings;

/** What the crowd beside the run shows, with whether the level as it is now sets it aside. */
export const shownFindings = createSelector(
  crowdShows,
  (state: { readonly document: { readonly open: { readonly level: Level } | null } }) => state.document.open?.level.meant,
  (findings, meant = {}): readonly Finding[] => (findings ?? []).map((one) => ({ ...one, meant: whyMeant(meant, one) })),
);

export const findingsActions = slice.actions;
export const findingsReducer = slice.reducer;
