import type { Unsent } from './opening.ts';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { savingAfter, type Saving, type SavingEvent } from './savingMachine.ts';
import { documentActions } from './document.ts';

interface SavingState {
  readonly revision: number;
  /** The newest revision heard of; ahead of `revision` while what was changed elsewhere is not taken in yet. */
  readonly heard: number;
  readonly unsent: readonly Unsent[];
  readonly now: Saving;
}

const initialState: SavingState = { revision: 0, heard: 0, unsent: [], now: { state: 'idle' } };

const slice = createSlice({
  name: 'saving',
  initialState,
  reducers: {
    happened: (state, { payload }: PayloadAction<SavingEvent>) => ({ ...state, now: savingAfter(state.now, payload) }),
    /** An edit is on the server. An answer that comes late never takes the page back to an older revision. */
    saved: (state, { payload }: PayloadAction<{ key: string; revision: number }>) => ({
      ...state,
      revision: Math.max(state.revision, payload.revision),
      unsent: state.unsent.filter(({ key }) => key !== payload.key),
      now: savingAfter(state.now, { what: 'saved' }),
    }),
    /** A newer revision was heard of. */
    heard: (state, { payload }: PayloadAction<number>) => ({ ...state, heard: Math.max(state.heard, payload) }),
  },
  extraReducers: (builder) => {
    builder
      .addCase(documentActions.opened, (_, { payload: { revision, kept } }) => ({
        ...initialState,
        revision,
        heard: revision,
        unsent: kept?.unsent ?? [],
      }))
      .addCase(documentActions.edited, (state, { payload: { change, key } }) => ({
        ...state,
        unsent: [...state.unsent, { key, operations: change.forward }],
      }))
      .addCase(documentActions.stepped, (state, { payload: { operations, key } }) => ({
        ...state,
        unsent: [...state.unsent, { key, operations }],
      }))
      .addCase(documentActions.rebased, (state, { payload: { revision, unsent } }) => ({
        ...state,
        revision,
        unsent,
        now: savingAfter(state.now, { what: 'cleared' }),
      }));
  },
});

export const savingActions = slice.actions;
export const savingReducer = slice.reducer;
