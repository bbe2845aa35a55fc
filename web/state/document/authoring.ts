import {
  allKinds,
  addKind,
  addPathLike,
  addPlacement,
  addVariant,
  entry,
  freeId,
  kindOf,
  lastOrder,
  type Level,
  movedBefore,
  newOrders,
  type KindBeginningId,
  valueAt,
  rounded,
} from '@dial/core/level';
import { idsIn } from '../view/aside.ts';
import { viewActions, type Selection } from '../slices/view.ts';
import { preview, tryEdit, type Recipe } from './edits.ts';
import { removeSpot, spotName, type PlanSpot } from './spots.ts';
import type { AppStore } from '../store.ts';

/** A box on the Plan: left, lower edge, width, height. Units. */
export interface PlanBox {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Places by hand are exact to a ten-thousandth: adding leaves no tail of digits in the document. */

const nameOf = (level: Level, kind: string): string => kindOf(level, kind)?.name ?? kind;
const openLevel = (store: AppStore): Level | null => store.getState().document.open?.level ?? null;

/** What the selection is called in the name of an edit. */
function selectionName(store: AppStore): string {
  const { open } = store.getState().document;
  const { selection } = store.getState().view;
  if (selection.solid !== null) return 'the solid';
  if (selection.spot !== null) return spotName(open?.level, selection.spot);
  const placed = open?.level.placements[selection.placements[0] ?? ''];
  if (selection.placements.length !== 1 || open === null || placed === undefined) return `${String(selection.placements.length)} things`;
  return nameOf(open.level, placed.kind);
}

/** Whether a thing stays where it is placed, so that it can be moved by hand: what follows a path goes where that goes. */
export const canBeMoved = (level: Level, id: string): boolean => entry(level.placements, id)?.travel === null;

/** What is chosen and not locked. */
function freeSelection(store: AppStore): Selection {
  const { selection, aside } = store.getState().view;
  const [things, solids] = [idsIn(aside.locked, 'placements'), idsIn(aside.locked, 'solids')];
  const { solid } = selection;
  return {
    ...selection,
    placements: selection.placements.filter((id) => !things.has(id)),
    solid: solid !== null && solids.has(solid) ? null : solid,
  };
}

/** Says that what is chosen is locked, when none of it can be changed by hand. */
function sayLocked(store: AppStore): void {
  store.dispatch(viewActions.troubled('What is chosen is locked on the Plan. Unlock it with K, or in the list beside the Plan.'));
}

/** The choice of some things: of their kind too, when they have one in common. */
export function chosenThings(level: Level, placements: readonly string[]): Partial<Selection> {
  const kinds = new Set(placements.map((id) => entry(level.placements, id)?.kind));
  return { kind: kinds.size === 1 ? ([...kinds][0] ?? null) : null, placements };
}

/** Brings the chosen things onto one line, or spreads them evenly between the outermost two. */
export function lineUp(store: AppStore, along: 'row' | 'column', evenly: boolean): void {
  const selection = freeSelection(store);
  const [across, way] = along === 'row' ? (['y', 'x'] as const) : (['x', 'y'] as const);
  tryEdit(store, evenly ? 'spread evenly' : `line up in a ${along}`, (draft) => {
    const things = selection.placements
      .flatMap((id) => entry(draft.placements, id) ?? [])
      .filter(({ travel }) => travel === null)
      .sort((a, b) => a[way] - b[way]);
    const [first, last] = [things[0], things.at(-1)];
    if (first === undefined || last === undefined) return;
    const start = first[way];
    const step = (last[way] - start) / Math.max(1, things.length - 1);
    things.forEach((thing, index) => {
      if (evenly) thing[way] = rounded(start + step * index);
      else thing[across] = first[across];
    });
  });
}

function moving(store: AppStore, dx: number, dy: number): Recipe {
  const selection = freeSelection(store);
  return (draft) => {
    for (const id of selection.placements) {
      const placement = entry(draft.placements, id);
      if (placement?.travel !== null) continue;
      placement.x = rounded(placement.x + dx);
      placement.y = rounded(placement.y + dy);
    }
    const solid = selection.solid === null ? undefined : entry(draft.solids, selection.solid);
    const spot = selection.spot === null ? undefined : (valueAt(draft, selection.spot) as PlanSpot | undefined);
    for (const one of [solid, spot]) {
      if (one === undefined) continue;
      one.x = rounded(one.x + dx);
      one.y = rounded(one.y + dy);
    }
  };
}

/** Shows the selection moved while it is being dragged. */
export function previewMove(store: AppStore, dx: number, dy: number): void {
  preview(store, moving(store, dx, dy));
}

export function moveSelection(store: AppStore, dx: number, dy: number): void {
  const { placements, solid, spot } = freeSelection(store);
  if (placements.length === 0 && solid === null && spot === null) {
    sayLocked(store);
    return;
  }
  tryEdit(store, `move ${selectionName(store)}`, moving(store, dx, dy));
}

export function removeSelection(store: AppStore): void {
  const selection = freeSelection(store);
  if (selection.spot !== null) {
    removeSpot(store, selection.spot);
    return;
  }
  if (selection.placements.length === 0 && selection.solid === null) {
    sayLocked(store);
    return;
  }
  const removed = tryEdit(store, `delete ${selectionName(store)}`, (draft) => {
    for (const id of selection.placements) Reflect.deleteProperty(draft.placements, id);
    if (selection.solid !== null) Reflect.deleteProperty(draft.solids, selection.solid);
  });
  if (removed) store.dispatch(viewActions.selected({ kind: selection.kind }));
}

/** Copies the selection a little aside, and selects the copies. */
export function duplicateSelection(store: AppStore): void {
  const { selection } = store.getState().view;
  if (selection.placements.length === 0 && selection.solid === null) return;
  const copies: string[] = [];
  let solid: string | null = null;
  const made = tryEdit(store, `duplicate ${selectionName(store)}`, (draft) => {
    // What travels goes along the path it is on: a copy has a path beside that, and copies of what share one share one.
    const beside = new Map<string, string>();
    const pathBeside = (path: string): string => {
      const [first] = entry(draft.paths, path)?.wayPoints ?? [];
      const id = beside.get(path) ?? (first === undefined ? path : addPathLike(draft, path, { x: first.x + 1, y: first.y - 1 }));
      beside.set(path, id);
      return id;
    };
    for (const id of selection.placements) {
      const placement = entry(draft.placements, id);
      if (placement === undefined) continue;
      const copy = freeId(draft.placements, placement.kind);
      const place = { x: placement.x + 1, y: placement.y - 1, order: lastOrder(draft.placements) };
      const { travel } = placement;
      const travels = travel === null ? null : { ...travel, path: pathBeside(travel.path) };
      draft.placements[copy] = { ...plainly(placement), ...place, travel: travels };
      copies.push(copy);
    }
    const box = selection.solid === null ? undefined : entry(draft.solids, selection.solid);
    if (box === undefined) return;
    solid = freeId(draft.solids, 'solid');
    draft.solids[solid] = { ...plainly(box), x: box.x + 1, y: box.y - 1, order: lastOrder(draft.solids) };
  });
  if (made) store.dispatch(viewActions.selected({ kind: selection.kind, placements: copies, solid }));
}

/** A value without the draft around it. */
const plainly = <Value>(value: Value): Value => JSON.parse(JSON.stringify(value)) as Value;

/** Puts a thing of a kind somewhere, and selects it. */
export function placeThing(store: AppStore, kind: string, x: number, y: number): void {
  const level = openLevel(store);
  if (level === null) return;
  let id = '';
  if (tryEdit(store, `place ${nameOf(level, kind)}`, (draft) => void (id = addPlacement(draft, kind, x, y)))) {
    store.dispatch(viewActions.selected({ kind, placements: [id] }));
  }
}

export function addSolid(store: AppStore, box: PlanBox, oneWay: boolean): void {
  let id = '';
  const made = tryEdit(store, oneWay ? 'draw a one-way platform' : 'draw a solid', (draft) => {
    id = freeId(draft.solids, 'solid');
    draft.solids[id] = { ...box, order: lastOrder(draft.solids), sides: oneWay ? ['top'] : ['top', 'bottom', 'left', 'right'] };
  });
  if (made) store.dispatch(viewActions.selected({ solid: id }));
}

/** Makes a kind that begins as one of several, giving an item where it does, and selects it. */
export function makeKind(store: AppStore, beginning: KindBeginningId, item?: string): void {
  let id = '';
  const made = tryEdit(store, `new kind: ${beginning}`, (draft) => void (id = addKind(draft, beginning, item)));
  if (made) store.dispatch(viewActions.selected({ kind: id }));
}

export function makeVariant(store: AppStore, basedOn: string): void {
  let id = '';
  const made = tryEdit(store, 'new kind based on another', (draft) => void (id = addVariant(draft, basedOn)));
  if (made) store.dispatch(viewActions.selected({ kind: id }));
}

/** Puts a kind before another in the Tray, or last. */
export function reorderKind(store: AppStore, kind: string, before: string | null): void {
  const level = openLevel(store);
  if (level === null || kind === before) return;
  const ids = movedBefore(
    allKinds(level).map(([id]) => id),
    kind,
    before,
  );
  tryEdit(store, `put ${nameOf(level, kind)} elsewhere in the Tray`, (draft) => {
    const one = (id: string) => entry(draft.kinds, id) ?? entry(draft.variants, id);
    for (const [id, order] of newOrders(ids, kind, (of) => one(of)?.order ?? 0)) {
      const found = one(id);
      if (found !== undefined) found.order = order;
    }
  });
}

/** Deletes a kind and everything placed of it. Kinds based on it, and rules that name it, keep it from being deleted. */
export function removeKind(store: AppStore, kind: string): void {
  const level = openLevel(store);
  if (level === null) return;
  const removed = tryEdit(store, `delete ${nameOf(level, kind)}`, (draft) => {
    for (const [id, placement] of Object.entries(draft.placements)) {
      if (placement.kind === kind) Reflect.deleteProperty(draft.placements, id);
    }
    Reflect.deleteProperty(draft.kinds, kind);
    Reflect.deleteProperty(draft.variants, kind);
    draft.death.resets = draft.death.resets.filter((id) => id !== kind);
  });
  if (removed) store.dispatch(viewActions.selected({}));
}
