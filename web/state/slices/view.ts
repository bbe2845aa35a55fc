import type { Aside } from './opening.ts';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { documentActions } from './document.ts';
import { simulatedActions } from './simulated.ts';

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

/** What a press on the Plan does. */
export type PlanTool = 'select' | 'place' | 'solid' | 'one-way' | 'point' | 'path' | 'route' | 'measure';

/** What lies over the Bench, at most one at a time. */
type Panel = 'commands' | 'new kind' | 'versions' | 'files';

/** What stands under the Plan: the session over time, all that happened, what differs from the compared version, or what is found. */
export type Evidence = 'strip' | 'ledger' | 'ghost' | 'findings';

interface ViewState {
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
  /** Something that went wrong and is shown until the next change. */
  readonly trouble: string | null;
}

const initialState: ViewState = {
  selection: NOTHING,
  onlyThese: false,
  tool: 'select',
  aside: { locked: [], hidden: [] },
  listShown: false,
  panel: null,
  evidence: 'strip',
  differencesShown: false,
  trouble: null,
};

const withoutTrouble = (state: ViewState): ViewState => ({ ...state, trouble: null });

const slice = createSlice({
  name: 'view',
  initialState,
  reducers: {
    selected: (state, { payload }: PayloadAction<Partial<Selection>>) => ({ ...state, selection: { ...NOTHING, ...payload } }),
    asideChanged: (state, { payload }: PayloadAction<Aside>) => ({ ...state, aside: payload }),
    listToggled: (state) => ({ ...state, listShown: !state.listShown }),
    meantFor: (state, { payload }: PayloadAction<'kind' | 'these'>) => ({ ...state, onlyThese: payload === 'these' }),
    toolChosen: (state, { payload }: PayloadAction<PlanTool>) => ({ ...state, tool: payload }),
    panelShown: (state, { payload }: PayloadAction<Panel | null>) => ({ ...state, panel: payload }),
    differencesToggled: (state) => ({ ...state, differencesShown: !state.differencesShown }),
    evidenceChosen: (state, { payload }: PayloadAction<Evidence>) => ({ ...state, evidence: payload }),
    /** Shows one sort of evidence, or the Strip when it is shown already. */
    evidenceToggled: (state, { payload }: PayloadAction<Evidence>) => ({
      ...state,
      evidence: state.evidence === payload ? ('strip' as const) : payload,
    }),
    troubled: (state, { payload }: PayloadAction<string | null>) => ({ ...state, trouble: payload }),
  },
  extraReducers: (builder) => {
    builder
      .addCase(documentActions.opened, (state, { payload: { kept } }) => ({
        ...initialState,
        aside: kept?.aside ?? initialState.aside,
        listShown: state.listShown,
      }))
      .addCase(documentActions.edited, withoutTrouble)
      .addCase(documentActions.stepped, withoutTrouble)
      .addCase(simulatedActions.runChosen, withoutTrouble);
  },
});

export const viewActions = slice.actions;
export const viewReducer = slice.reducer;
