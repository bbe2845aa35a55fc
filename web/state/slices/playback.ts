import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { documentActions } from './document.ts';
import { simulatedActions } from './simulated.ts';

/** The needle, and how it runs. */
interface PlaybackState {
  readonly needleStep: number;
  /** Steps of the run, the most the needle can be at. */
  readonly steps: number;
  readonly playing: boolean;
  /** Session seconds in a second while the needle runs. */
  readonly pace: number;
}

const AT_THE_START = { needleStep: 0, steps: 0, playing: false };
const initialState: PlaybackState = { ...AT_THE_START, pace: 1 };

const slice = createSlice({
  name: 'playback',
  initialState,
  reducers: {
    needleMoved: (state, { payload }: PayloadAction<number>) => {
      state.needleStep = Math.max(0, Math.min(state.steps, Math.round(payload)));
    },
    playingChanged: (state, { payload }: PayloadAction<boolean>) => {
      state.playing = payload;
    },
    paceChanged: (state, { payload }: PayloadAction<number>) => {
      state.pace = payload;
    },
  },
  extraReducers: (builder) => {
    builder
      .addCase(documentActions.opened, () => initialState)
      .addCase(simulatedActions.runChosen, (state) => ({ ...state, ...AT_THE_START }))
      .addCase(simulatedActions.startFromChosen, (state) => {
        state.needleStep = 0;
      })
      .addCase(simulatedActions.simulatedRun, (state, { payload: { side, run } }) => {
        if (side !== 'now') return;
        state.steps = run.steps;
        state.needleStep = Math.min(state.needleStep, run.steps);
      });
  },
});

export const playbackActions = slice.actions;
export const playbackReducer = slice.reducer;
