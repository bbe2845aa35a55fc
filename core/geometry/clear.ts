import { createGrid, Region, type Grid } from './grid.ts';
import { clipSlab, Span } from './sweep.ts';

/** An upright box. Units. */
export type Box = Readonly<Region>;

/** Upright boxes that stay, and a grid over them. */
export interface Boxes {
  readonly list: readonly Box[];
  readonly grid: Grid;
}

export function boxesOf(list: readonly Box[]): Boxes {
  return { list, grid: createGrid(Float64Array.from(list.flatMap(({ left, bottom, right, top }) => [left, bottom, right, top]))) };
}

/** Along a side, and so near it, nothing is inside. Units, and shares of a way. */
const HAIR = 1e-9;

/** Between which shares of a straight way it is inside of a box, its sides not counted; left in `out`. Answers whether anywhere. */
export function clipWay({ left, bottom, right, top }: Box, fromX: number, fromY: number, toX: number, toY: number, out: Span): boolean {
  out.enter = 0;
  out.leave = 1;
  return (
    clipSlab(fromX - (left + right) / 2, toX - fromX, (right - left) / 2 - HAIR, out) &&
    clipSlab(fromY - (bottom + top) / 2, toY - fromY, (top - bottom) / 2 - HAIR, out) &&
    out.leave - out.enter > HAIR
  );
}

/** So few boxes are looked at one by one, without the grid. */
const FEW = 24;

const between = new Region();
const span = new Span();

/** Whether a straight way goes through none of some boxes: along their sides it may go. */
export function isClear({ list, grid }: Boxes, fromX: number, fromY: number, toX: number, toY: number): boolean {
  between.left = Math.min(fromX, toX);
  between.right = Math.max(fromX, toX);
  between.bottom = Math.min(fromY, toY);
  between.top = Math.max(fromY, toY);
  if (list.length <= FEW) {
    for (let k = 0; k < list.length; k += 1) {
      const box = list[k] as Box;
      if (box.left > between.right || box.right < between.left || box.bottom > between.top || box.top < between.bottom) continue;
      if (clipWay(box, fromX, fromY, toX, toY, span)) return false;
    }
    return true;
  }
  const count = grid.query(between);
  for (let k = 0; k < count; k += 1) if (clipWay(list[grid.found[k] as number] as Box, fromX, fromY, toX, toY, span)) return false;
  return true;
}
