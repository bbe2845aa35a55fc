import type { Level } from '@dial/core/level';
import type { Run } from '@dial/core/players';
import type { Moment } from '@dial/core/session';
import { createSlice, original, type PayloadAction } from '@reduxjs/toolkit';
import type { Operation } from 'rfc6902';
import type { RunEntry } from './api.ts';
import { applyGuarded, type Change } from './changes.ts';
import type { ShownRun, Side } from './protocol.ts';
import { savingAfter, type Saving, type SavingEvent } from './savingMachine.ts';

/** What is chosen: a kind, things of it or of several kinds, a solid, or a spot. */
export interface Selection {
  readonly kind: string | null;
  readonly placements: readonly string[];
  readonly solid: string | null;
  /** JSON Pointer to a place: the start, a point, or a way-point of a path or a route. */
  readonly spot: string | null;
}

const NOTHING: Selection = { kind: null, placements: [], solid: null, spot: null };

/** The one thing chosen; null when there is none, or several. */
export function onlyPlacement({ placements }: Selection): string | null {
  return placements.length === 1 ? (placements[0] ?? null) : null;
}

/** An accepted edit on its way to the server. */
export interface Unsent {
  readonly key: string;
  readonly operations: readonly Operation[];
}

export interface OpenLevel {
  readonly id: string;
  readonly level: Level;
  readonly revision: number;
  /** The newest revision heard of; ahead of `revision` while what was changed elsewhere is not taken in yet. */
  readonly heard: number;
  /** The level as it was when it was opened. */
  readonly begun: Level;
  readonly compared: { readonly id: number; readonly name: string; readonly level: Level } | null;
  readonly runs: readonly RunEntry[];
  /** The run that is drawn; of a walked route the route's id too: it is walked anew on every change. */
  readonly run: { readonly id: string; readonly run: Run; readonly route?: string } | null;
}

/** Things and solids set aside on the Plan, by JSON Pointer. It is how one looks at the level, not part of it. */
export interface Aside {
  /** Cannot be moved, resized or deleted by hand. */
  readonly locked: readonly string[];
  /** Not drawn while tuning. */
  readonly hidden: readonly string[];
}

/** What this browser has kept of a level since it was last open. */
export type Kept = Pick<BenchState, 'aside' | 'undo' | 'redo' | 'unsent'>;

/** What a press on the Plan does. */
export type PlanTool = 'select' | 'place' | 'solid' | 'one-way' | 'point' | 'path' | 'route' | 'measure';

/** What lies over the Bench, at most one at a time. */
export type Panel = 'commands' | 'new kind' | 'versions' | 'files';

/** What stands under the Plan: the session over time, all that happened, or what differs from the compared version. */
export type Evidence = 'strip' | 'ledger' | 'ghost';

export interface BenchState {
  readonly open: OpenLevel | null;
  /** The level while a dial is being turned, not yet an edit. */
  readonly turning: Level | null;
  readonly undo: readonly Change[];
  readonly redo: readonly Change[];
  readonly unsent: readonly Unsent[];
  readonly saving: Saving;
  readonly selection: Selection;
  /** Whether what is turned is meant for the chosen things only, not for all of their kind. */
  readonly onlyThese: boolean;
  readonly tool: PlanTool;
  readonly aside: Aside;
  /** The list of all that is placed, beside the Plan. */
  readonly listShown: boolean;
  readonly panel: Panel | null;
  readonly evidence: Evidence;
  /** Where the level differs from the compared version, drawn over the Plan. */
  readonly differencesShown: boolean;
  /** The stated starting state that runs and plays are tried from; null: as recorded, as the level has it. */
  readonly startFrom: string | null;
  readonly needleStep: number;
  readonly playing: boolean;
  /** Session seconds in a second while the needle runs. */
  readonly pace: number;
  readonly simulated: Readonly<Record<Side, ShownRun | null>>;
  readonly moment: Moment | null;
  /** What was undone or redone last, in words, and how often that has been; null after another change. */
  readonly stepped: { readonly words: string; readonly serial: number } | null;
  /** Something that went wrong and is shown until the next change. */
  readonly trouble: string | null;
}

const initialState: BenchState = {
  open: null,
  turning: null,
  undo: [],
  redo: [],
  unsent: [],
  saving: { state: 'idle' },
  selection: NOTHING,
  onlyThese: false,
  tool: 'select',
  aside: { locked: [], hidden: [] },
  listShown: false,
  panel: null,
  evidence: 'strip',
  differencesShown: false,
  startFrom: null,
  needleStep: 0,
  playing: false,
  pace: 1,
  simulated: { now: null, compared: null },
  moment: null,
  stepped: null,
  trouble: null,
};

/** Takes over a level that an accepted patch has led to, and queues the patch. */
function accept(state: BenchState, level: Level, operations: readonly Operation[], key: string): BenchState {
  if (state.open === null) return state;
  return { ...state, open: { ...state.open, level }, turning: null, unsent: [...state.unsent, { key, operations }], trouble: null };
}

/** The state behind the draft that the toolkit hands to a reducer. */
const plain = (state: object): BenchState => original(state) as BenchState;

const slice = createSlice({
  name: 'bench',
  initialState,
  // Levels and recordings are replaced whole, so the reducers return new states and immer has nothing to draft.
  reducers: {
    opened: (
      state,
      { payload: { kept, ...open } }: PayloadAction<Omit<OpenLevel, 'heard' | 'begun'> & { readonly kept?: Kept }>,
    ): BenchState => ({
      ...initialState,
      ...kept,
      open: { ...open, heard: open.revision, begun: open.level },
      listShown: plain(state).listShown,
    }),
    runChosen: (state, { payload }: PayloadAction<Pick<OpenLevel, 'runs' | 'run'>>) => {
      const { open, ...rest } = plain(state);
      if (open === null) return state;
      return {
        ...rest,
        open: { ...open, ...payload },
        simulated: { now: null, compared: null },
        moment: null,
        needleStep: 0,
        playing: false,
        trouble: null,
      };
    },
    /** The run on the Strip is another, and yet the same one: what is shown of it stays until it has been simulated. */
    runChanged: (state, { payload: run }: PayloadAction<NonNullable<OpenLevel['run']>>) => {
      const { open, ...rest } = plain(state);
      return open === null ? state : { ...rest, open: { ...open, run } };
    },
    runsListed: (state, { payload: runs }: PayloadAction<OpenLevel['runs']>) => {
      const { open, ...rest } = plain(state);
      return open === null ? state : { ...rest, open: { ...open, runs } };
    },
    comparedChanged: (state, { payload }: PayloadAction<OpenLevel['compared']>) => {
      const { open, simulated, ...rest } = plain(state);
      if (open === null) return state;
      return { ...rest, open: { ...open, compared: payload }, simulated: { ...simulated, compared: null } };
    },
    turned: (state, { payload }: PayloadAction<Level | null>) => ({ ...plain(state), turning: payload }),
    edited: (state, { payload }: PayloadAction<{ level: Level; change: Change; key: string }>) => ({
      ...accept(plain(state), payload.level, payload.change.forward, payload.key),
      undo: [...plain(state).undo, payload.change],
      redo: [],
      stepped: null,
    }),
    undone: (state, { payload: key }: PayloadAction<string>) => step(plain(state), 'undo', key),
    redone: (state, { payload: key }: PayloadAction<string>) => step(plain(state), 'redo', key),
    saving: (state, { payload }: PayloadAction<SavingEvent>) => ({ ...plain(state), saving: savingAfter(plain(state).saving, payload) }),
    /** An edit is on the server. An answer that comes late never takes the page back to an older revision. */
    saved: (state, { payload }: PayloadAction<{ key: string; revision: number }>) => {
      const { open, unsent, saving, ...rest } = plain(state);
      if (open === null) return state;
      return {
        ...rest,
        open: { ...open, revision: Math.max(open.revision, payload.revision) },
        unsent: unsent.filter(({ key }) => key !== payload.key),
        saving: savingAfter(saving, { what: 'saved' }),
      };
    },
    /** The server's level has moved on; ours is put on top of it. */
    rebased: (state, { payload }: PayloadAction<{ level: Level; revision: number; unsent: readonly Unsent[] }>) => {
      const { open, saving, ...rest } = plain(state);
      if (open === null) return state;
      return {
        ...rest,
        open: { ...open, level: payload.level, revision: payload.revision },
        unsent: payload.unsent,
        turning: null,
        saving: savingAfter(saving, { what: 'cleared' }),
      };
    },
    /** A newer revision was heard of. */
    heard: (state, { payload }: PayloadAction<number>) => {
      const { open, ...rest } = plain(state);
      return open === null ? state : { ...rest, open: { ...open, heard: Math.max(open.heard, payload) } };
    },
    selected: (state, { payload }: PayloadAction<Partial<Selection>>) => ({ ...plain(state), selection: { ...NOTHING, ...payload } }),
    needleMoved: (state, { payload }: PayloadAction<number>) => {
      const most = plain(state).simulated.now?.steps ?? 0;
      return { ...plain(state), needleStep: Math.max(0, Math.min(most, Math.round(payload))) };
    },
    playingChanged: (state, { payload }: PayloadAction<boolean>) => ({ ...plain(state), playing: payload }),
    paceChanged: (state, { payload }: PayloadAction<number>) => ({ ...plain(state), pace: payload }),
    simulatedRun: (state, { payload }: PayloadAction<{ side: Side; run: ShownRun }>) => {
      const bench = plain(state);
      const simulated = { ...bench.simulated, [payload.side]: payload.run };
      return { ...bench, simulated, needleStep: Math.min(bench.needleStep, simulated.now?.steps ?? bench.needleStep) };
    },
    asideChanged: (state, { payload }: PayloadAction<Aside>) => ({ ...plain(state), aside: payload }),
    listToggled: (state) => ({ ...plain(state), listShown: !plain(state).listShown }),
    meantFor: (state, { payload }: PayloadAction<'kind' | 'these'>) => ({ ...plain(state), onlyThese: payload === 'these' }),
    toolChosen: (state, { payload }: PayloadAction<PlanTool>) => ({ ...plain(state), tool: payload }),
    panelShown: (state, { payload }: PayloadAction<Panel | null>) => ({ ...plain(state), panel: payload }),
    differencesToggled: (state) => ({ ...plain(state), differencesShown: !plain(state).differencesShown }),
    startFromChosen: (state, { payload }: PayloadAction<string | null>) => ({ ...plain(state), startFrom: payload, needleStep: 0 }),
    /** Shows one sort of evidence, or the Strip when it is shown already. */
    evidenceToggled: (state, { payload }: PayloadAction<Evidence>) => ({
      ...plain(state),
      evidence: plain(state).evidence === payload ? ('strip' as const) : payload,
    }),
    momentShown: (state, { payload }: PayloadAction<Moment | null>) => ({ ...plain(state), moment: payload }),
    troubled: (state, { payload }: PayloadAction<string | null>) => ({ ...plain(state), trouble: payload }),
  },
});

/** Undoes or redoes one change, as a new guarded patch. */
function step(state: BenchState, direction: 'undo' | 'redo', key: string): BenchState {
  const change = state[direction].at(-1);
  if (state.open === null || change === undefined) return state;
  const operations = direction === 'undo' ? change.backward : change.forward;
  const level = applyGuarded(state.open.level, operations);
  if (level === undefined) {
    return {
      ...state,
      trouble: `“${change.label}” cannot be ${direction === 'undo' ? 'undone' : 'redone'}: the value has been changed since.`,
    };
  }
  const words = `${direction === 'undo' ? 'Undone' : 'Redone'}: ${change.label}`;
  const stepped = { words, serial: (state.stepped?.serial ?? 0) + 1 };
  const accepted = { ...accept(state, level, operations, key), stepped };
  return direction === 'undo'
    ? { ...accepted, undo: state.undo.slice(0, -1), redo: [...state.redo, change] }
    : { ...accepted, redo: state.redo.slice(0, -1), undo: [...state.undo, change] };
}

export const benchActions = slice.actions;
export const benchReducer = slice.reducer;
