import type { AskedWalk, DrawnRun, Walks } from './opening.ts';
import { entry, type Level } from '@dial/core/level';
import { createRunWriter, type Thought } from '@dial/core/players';
import type { Moment } from '@dial/core/session';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { ShownMoment, ShownRun, Side } from '../simulation/protocol.ts';
import { documentActions } from './document.ts';

/** The id of a run that a walker made just now: it is kept nowhere. */
export const WALKED = 'route';

/** A walk to be drawn as a run, with nothing pressed yet: the worker walks it. */
export const toBeWalked = ({ rate, routes, ...level }: Level, { route, personas, seconds, seed = 1 }: AskedWalk): DrawnRun => {
  const names = personas?.map((id) => entry(level.personas, id)?.name ?? id).join(' and ');
  const name = names ?? entry(routes, route ?? '')?.name ?? 'walk';
  return { id: WALKED, route, personas, seconds, run: { ...createRunWriter(rate, 1).finish(name, ''), seed } };
};

/** Whether a run is walked anew on every change. */
export const isWalk = (run: DrawnRun | null): boolean => run?.route !== undefined || run?.personas !== undefined;

/** What a walk is asked for by, in an address and in the list of runs. Ids have no slash, no colon and no comma. */
export const walkOf = ({ route, personas }: Walks): string =>
  personas === undefined ? `walk:${route ?? ''}` : `persona:${personas.join(',')}${route === undefined ? '' : `/${route}`}`;

/** A session of a crowd, as it is asked for: its seed and where it is cut off go with it. */
export const sessionOf = (persona: string, seed: number, seconds: number): string =>
  `${walkOf({ personas: [persona] })}:${String(seed)}:${String(seconds)}`;

const figure = (text: string | undefined): number | undefined =>
  text !== undefined && /^\d+(\.\d+)?$/.test(text) ? Number(text) : undefined;

/** What was asked for, read back; null when it is no walk. */
export function walkAsked(wanted: string): AskedWalk | null {
  const [sort, rest = '', seed, seconds] = wanted.split(':');
  const [personas = '', route] = rest.split('/');
  if (sort === 'walk') return { route: rest };
  return sort === 'persona' ? { personas: personas.split(','), route, seed: figure(seed), seconds: figure(seconds) } : null;
}

/** What the run that is drawn is asked for by. */
export const askedBy = (run: DrawnRun | null): string => (run !== null && isWalk(run) ? walkOf(run) : (run?.id ?? ''));

interface SimulatedState {
  readonly run: DrawnRun | null;
  /** The stated starting state that runs and plays are tried from; null: as recorded, as the level has it. */
  readonly startFrom: string | null;
  /** The run through the level as it is, and through the compared version. */
  readonly shown: Readonly<Record<Side, ShownRun | null>>;
  /** All there is at the needle; and what a persona that plays knows and means there. */
  readonly moment: Moment | null;
  readonly thought: Thought | null;
}

const NOTHING = { shown: { now: null, compared: null }, moment: null, thought: null };
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
    momentShown: (state, { payload: { moment, thought } }: PayloadAction<ShownMoment>) => ({ ...state, moment, thought }),
  },
  extraReducers: (builder) => {
    builder
      .addCase(documentActions.opened, (_, { payload: { run } }) => ({ ...initialState, run }))
      .addCase(documentActions.comparedChanged, (state) => ({ ...state, shown: { ...state.shown, compared: null } }));
  },
});

export const simulatedActions = slice.actions;
export const simulatedReducer = slice.reducer;
