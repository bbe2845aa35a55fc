import type { StudyProgress } from '@dial/core/api';
import type { Level } from '@dial/core/level';
import type { HeatLayer } from '@dial/core/studies';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Summed } from '../simulation/crowd.ts';
import type { Side } from '../simulation/protocol.ts';
import { documentActions } from './document.ts';

/** Sizes of the crowd beside the run; none: it is off. */
export const CROWD_SIZES = [0, 30, 100, 300] as const;
export type CrowdSize = (typeof CROWD_SIZES)[number];

/** What the crowd beside the run comes to: of how many sessions so far, on which level. */
interface ShownCrowd extends Summed {
  readonly level: Level;
  readonly asked: number;
  /** Milliseconds from the run to the last of its sessions; null while they come in. */
  readonly took: number | null;
}

interface CrowdState {
  readonly size: CrowdSize;
  /** What of the crowd is shown over the Plan; null: nothing. */
  readonly heat: HeatLayer | null;
  readonly shown: Readonly<Record<Side, ShownCrowd | null>>;
  /** Why there is none, where it was asked for. */
  readonly trouble: string | null;
  /** How far studies on the server have come, by id, as far as this page has heard. */
  readonly studies: Readonly<Record<string, StudyProgress>>;
}

const NOBODY = { shown: { now: null, compared: null }, trouble: null };
const initialState: CrowdState = { size: 0, heat: null, studies: {}, ...NOBODY };

const slice = createSlice({
  name: 'crowd',
  initialState,
  reducers: {
    sizeChosen: (state, { payload }: PayloadAction<CrowdSize>) => ({ ...state, size: payload, ...NOBODY }),
    heatChosen: (state, { payload }: PayloadAction<HeatLayer | null>) => ({ ...state, heat: payload }),
    studiesMissed: (state) => ({ ...state, studies: {} }),
    studyCame: (state, { payload }: PayloadAction<StudyProgress>) => ({ ...state, studies: { ...state.studies, [payload.id]: payload } }),
    arrived: (state, { payload: { side, crowd } }: PayloadAction<{ side: Side; crowd: ShownCrowd | null }>) => ({
      ...state,
      shown: { ...state.shown, [side]: crowd },
      trouble: null,
    }),
    failed: (state, { payload }: PayloadAction<string>) => ({ ...state, ...NOBODY, trouble: payload }),
  },
  extraReducers: (builder) => {
    builder
      .addCase(documentActions.opened, (state) => ({ ...state, studies: {}, ...NOBODY }))
      .addCase(documentActions.comparedChanged, (state) => ({ ...state, shown: { ...state.shown, compared: null } }));
  },
});

export const crowdActions = slice.actions;
export const crowdReducer = slice.reducer;
