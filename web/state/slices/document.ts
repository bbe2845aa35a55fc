import type { Level } from '@dial/core/level';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Operation } from 'rfc6902';
import type { Compared, Opening, Unsent } from './opening.ts';
import type { Change } from '../document/changes.ts';

/** The level that is open, as it is after the last edit. */
export interface OpenLevel {
  readonly id: string;
  readonly level: Level;
  /** The level as it was when it was opened. */
  readonly begun: Level;
}

interface DocumentState {
  readonly open: OpenLevel | null;
  readonly compared: Compared | null;
  /** The level while a dial is being turned, not yet an edit. */
  readonly turning: Level | null;
  readonly undo: readonly Change[];
  readonly redo: readonly Change[];
  /** What was undone, redone or deleted last; null after another change. */
  readonly said: Said | null;
  /** How often something was said. */
  readonly saidTimes: number;
}

/** What was done, in words, and what leads back. */
interface Said {
  readonly words: string;
  readonly offers: Direction;
}

export type Direction = 'undo' | 'redo';

/** A change that was undone or redone, as a new patch. */
interface Step {
  readonly direction: Direction;
  readonly change: Change;
  readonly level: Level;
  readonly operations: readonly Operation[];
  readonly key: string;
}

const initialState: DocumentState = { open: null, compared: null, turning: null, undo: [], redo: [], said: null, saidTimes: 0 };

/** The state with another level; null stays null. */
const withLevel = (open: OpenLevel | null, level: Level): OpenLevel | null => (open === null ? null : { ...open, level });

/** How the name of an edit begins that takes something out of the level; a kind may be called that, too. */
const DELETING = 'delete ';
const deletes = ({ label, forward }: Change): boolean => label.startsWith(DELETING) && forward.some(({ op }) => op === 'remove');

const saying = ({ saidTimes }: DocumentState, words: string, offers: Direction): Pick<DocumentState, 'said' | 'saidTimes'> => ({
  said: { words, offers },
  saidTimes: saidTimes + 1,
});

const slice = createSlice({
  name: 'document',
  initialState,
  reducers: {
    opened: (_, { payload: { id, level, compared, kept } }: PayloadAction<Opening>) => ({
      ...initialState,
      open: { id, level, begun: level },
      compared,
      undo: kept?.undo ?? [],
      redo: kept?.redo ?? [],
    }),
    turned: (state, { payload }: PayloadAction<Level | null>) => ({ ...state, turning: payload }),
    edited: (state, { payload }: PayloadAction<{ level: Level; change: Change; key: string }>) => ({
      ...state,
      open: withLevel(state.open, payload.level),
      turning: null,
      undo: [...state.undo, payload.change],
      redo: [],
      ...(deletes(payload.change) ? saying(state, `Deleted ${payload.change.label.slice(DELETING.length)}`, 'undo') : { said: null }),
    }),
    stepped: (state, { payload: { direction, change, level } }: PayloadAction<Step>) => ({
      ...state,
      open: withLevel(state.open, level),
      turning: null,
      undo: direction === 'undo' ? state.undo.slice(0, -1) : [...state.undo, change],
      redo: direction === 'redo' ? state.redo.slice(0, -1) : [...state.redo, change],
      ...saying(state, `${direction === 'undo' ? 'Undone' : 'Redone'}: ${change.label}`, direction === 'undo' ? 'redo' : 'undo'),
    }),
    /** The server's level has moved on; ours is put on top of it. */
    rebased: (state, { payload }: PayloadAction<{ level: Level; revision: number; unsent: readonly Unsent[] }>) => ({
      ...state,
      open: withLevel(state.open, payload.level),
      turning: null,
    }),
    comparedChanged: (state, { payload }: PayloadAction<Compared | null>) => ({ ...state, compared: payload }),
  },
});

export const documentActions = slice.actions;
export const documentReducer = slice.reducer;
