import { addPlacement, extentOf, kindOf, type Level, rounded } from '@dial/core/level';
import type { PlanBox } from './authoring.ts';
import { viewActions } from '../slices/view.ts';
import { preview, tryEdit, type Recipe } from './edits.ts';
import type { PlanSpot } from './spots.ts';
import type { AppStore } from '../store.ts';

/** More than this are not stamped at once. */
export const MOST_STAMPED = 500;

/** Places along a straight line, so far apart; the first where it begins. */
export function rowSpots(from: PlanSpot, to: PlanSpot, gap: number): PlanSpot[] {
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  const count = Math.min(MOST_STAMPED, Math.floor(length / gap + 1e-9) + 1);
  const [stepX, stepY] = length === 0 ? [0, 0] : [((to.x - from.x) / length) * gap, ((to.y - from.y) / length) * gap];
  return Array.from({ length: count }, (_, index) => ({ x: rounded(from.x + stepX * index), y: rounded(from.y + stepY * index) }));
}

/** Places over a box, row by row, so far apart. */
export function areaSpots({ x, y, width, height }: PlanBox, gap: number): PlanSpot[] {
  const columns = Math.floor(width / gap + 1e-9) + 1;
  const rows = Math.floor(height / gap + 1e-9) + 1;
  const spots: PlanSpot[] = [];
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns && spots.length < MOST_STAMPED; column++)
      spots.push({ x: rounded(x + column * gap), y: rounded(y + row * gap) });
  }
  return spots;
}

/** So many places along a straight line, evenly, one at each end. */
export function evenRow(from: PlanSpot, to: PlanSpot, wanted: number): PlanSpot[] {
  const count = Math.min(MOST_STAMPED, wanted);
  const share = (index: number): number => (count < 2 ? 0 : index / (count - 1));
  return Array.from({ length: count }, (_, index) => ({
    x: rounded(from.x + (to.x - from.x) * share(index)),
    y: rounded(from.y + (to.y - from.y) * share(index)),
  }));
}

/** So many places spread over a box in rows as far apart as the things in them, as nearly as it goes. */
export function evenArea({ x, y, width, height }: PlanBox, wanted: number): PlanSpot[] {
  const count = Math.min(MOST_STAMPED, wanted);
  if (width === 0 || height === 0) return evenRow({ x, y }, { x: x + width, y: y + height }, count);
  const rows = Math.max(1, Math.min(count, Math.round(Math.sqrt((count * height) / width))));
  return Array.from({ length: rows }, (_, row) => {
    const [first, next] = [Math.floor((row * count) / rows), Math.floor(((row + 1) * count) / rows)];
    const at = rounded(y + (rows < 2 ? height / 2 : (height * row) / (rows - 1)));
    return evenRow({ x, y: at }, { x: x + width, y: at }, next - first);
  }).flat();
}

/** How far apart things of a kind are stamped unless one says otherwise: a little more than it is wide. */
export function usualGap(level: Level, kind: string): number {
  const widths = Object.values(kindOf(level, kind)?.shapes ?? {}).map((shape) => 2 * extentOf(shape).most);
  return Math.max(0.5, Math.ceil(Math.max(0, ...widths) * 1.25 * 4) / 4);
}

function stamping(kind: string, spots: readonly PlanSpot[], placed: string[]): Recipe {
  return (draft) => {
    for (const { x, y } of spots) placed.push(addPlacement(draft, kind, x, y));
  };
}

/** Shows things of a kind where they would be stamped. */
export function previewStamps(store: AppStore, kind: string, spots: readonly PlanSpot[]): void {
  preview(store, stamping(kind, spots, []));
}

/** Puts things of a kind in many places at once, and selects them. */
export function stamp(store: AppStore, kind: string, spots: readonly PlanSpot[]): void {
  const { open } = store.getState().document;
  const placed: string[] = [];
  const name = open === null ? kind : (kindOf(open.level, kind)?.name ?? kind);
  const made = tryEdit(store, `place ${String(spots.length)} × ${name}`, (draft) => {
    placed.length = 0;
    stamping(kind, spots, placed)(draft);
  });
  if (made) store.dispatch(viewActions.selected({ kind, placements: placed }));
}
