import type { DrawnRun } from './opening.ts';
import type { Level, Route } from '@dial/core/level';
import { createRunWriter } from '@dial/core/players';
import type { Moment } from '@dial/core/session';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { ShownRun, Side } from '../simulation/protocol.ts';
import { documentActions } from './document.ts';

/** The id of a run that a walker made just now: it is kept nowhere. */
export const WALKED = 'route';

/** A route to be drawn as a run, with nothing pressed yet: the worker walks it. */
export const toBeWalked = ({ rate }: Level, id: string, { name }: Route): DrawnRun => ({
  id: WALKED,
  route: id,
  run: createRunWriter(rate, 1).finish(name, ''),
});

/** What a walk of a route is asked for by, in an address and in the list of runs. */
export const walkOf = (route: string): string => `walk:${route}`;

/** What the run that is drawn is asked for by. */
export const askedBy = (run: DrawnRun | null): string => (run?.route === undefined ? (run?.id ?? '') : walkOf(run.route));

interface SimulatedState {
  readonly run: DrawnRun | null;
  /** The stated starting state that runs and plays are tried from; null: as recorded, as the level has it. */
  readonly startFrom: string | null;
  /** The run through the level as it is, and through the compared version. */
  readonly shown: Readonly<Record<Side, ShownRun | null>>;
  /** All there is at the needle. */
  readonly moment: Moment | null;
}

const NOTHING = { shown: { now: null, compared: null }, moment: null };
const initialState: SimulatedState = { run: null, startFrom: null, ...NOTHING };

const slice = createSlice({
  name: 'simulated',
  initialState,
  reducers: {
    runChosen: (state, { payload }: PayloadAction<DrawnRun | null>) => ({ ...state, run: payload, ...NOTHING }),
    /** The run on the Strip is another, and yet the same one: what is shown of it stays until it has been simulated. */
    runChanged: (state, { payload }: PayloadAction<DrawnRun>) => ({ ...state, run: payload }),
    startFromChosen: (state, { payload }: PayloadAction<string | null>) => ({ ...state, startFrom: payload }),
    simulatedRun: (state, { payload: { side, run } }: PayloadAction<{ side: Side; run: ShownRun }>) => ({
      ...state,
      run: side === 'now' && run.walk !== null && state.run !== null ? { ...state.run, walked: run.walk.run } : state.run,
      shown: { ...state.shown, [side]: run },
    }),
    momentShown: (state, { payload }: PayloadAction<Moment | null>) => ({ ...state, moment: payload }),
  },
  extraReducers: (builder) => {
    builder
      .addCase(documentActions.opened, (_, { payload: { run } }) => ({ ...initialState, run }))
      .addCase(documentActions.comparedChanged, (state) => ({ ...state, shown: { ...state.shown, compared: null } }));
  },
});

export const simulatedActions = slice.actions;
export const simulatedReducer = slice.reducer;
