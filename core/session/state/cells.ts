import type { Region } from '../../geometry/index.ts';

/** Side of a cell. Units. */
const CELL = 8;

/**
 * Things that travel, by the cell of the level in which the middle of what they cover lies, so that only those near have to be looked
 * at. Each cell is a list that is linked both ways; −1 ends it, and is the cell of what is in none.
 */
export interface Cells {
  readonly columns: number;
  readonly rows: number;
  readonly head: Int32Array;
  readonly next: Int32Array;
  readonly before: Int32Array;
  readonly of: Int32Array;
  /** Furthest that anything reaches from the middle of what it covers, sideways and up. Units. */
  spreadX: number;
  spreadY: number;
  /** What `gatherNear` found, up to the count it answered. */
  readonly found: Int32Array;
}

export function createCells(width: number, height: number, things: number): Cells {
  const columns = Math.max(1, Math.ceil(width / CELL));
  const rows = Math.max(1, Math.ceil(height / CELL));
  return {
    columns,
    rows,
    head: new Int32Array(columns * rows).fill(-1),
    next: new Int32Array(things).fill(-1),
    before: new Int32Array(things).fill(-1),
    of: new Int32Array(things).fill(-1),
    spreadX: 0,
    spreadY: 0,
    found: new Int32Array(things),
  };
}

const indexOf = (place: number, count: number): number => Math.max(0, Math.min(count - 1, Math.floor(place / CELL)));

/** Takes a thing out of its cell. */
export function leaveCell(cells: Cells, thing: number): void {
  const cell = cells.of[thing] as number;
  if (cell < 0) return;
  const next = cells.next[thing] as number;
  const before = cells.before[thing] as number;
  if (before < 0) cells.head[cell] = next;
  else cells.next[before] = next;
  if (next >= 0) cells.before[next] = before;
  cells.of[thing] = -1;
}

/** Puts a thing into the cell of the middle of what it covers, a region and so far around it; what lies outside of the level is in the nearest. */
export function putInCell(cells: Cells, thing: number, { left, bottom, right, top }: Region, around: number): void {
  cells.spreadX = Math.max(cells.spreadX, (right - left) / 2 + around);
  cells.spreadY = Math.max(cells.spreadY, (top - bottom) / 2 + around);
  const cell = indexOf((bottom + top) / 2, cells.rows) * cells.columns + indexOf((left + right) / 2, cells.columns);
  if (cells.of[thing] === cell) return;
  leaveCell(cells, thing);
  const head = cells.head[cell] as number;
  cells.of[thing] = cell;
  cells.next[thing] = head;
  cells.before[thing] = -1;
  if (head >= 0) cells.before[head] = thing;
  cells.head[cell] = thing;
}

/** All things that may cover anything of a region. Answers how many; they are in `found`. */
export function gatherNear(cells: Cells, { left, bottom, right, top }: Region): number {
  const { columns, rows, head, next, found, spreadX, spreadY } = cells;
  const firstColumn = indexOf(left - spreadX, columns);
  const lastColumn = indexOf(right + spreadX, columns);
  const lastRow = indexOf(top + spreadY, rows);
  let count = 0;
  for (let row = indexOf(bottom - spreadY, rows); row <= lastRow; row += 1) {
    for (let column = firstColumn; column <= lastColumn; column += 1) {
      for (let thing = head[row * columns + column] as number; thing >= 0; thing = next[thing] as number) {
        found[count] = thing;
        count += 1;
      }
    }
  }
  return count;
}
