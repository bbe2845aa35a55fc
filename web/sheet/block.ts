/** A cell by its place in the table as it is shown. */
export interface Spot {
  readonly row: number;
  readonly column: number;
}

/** What is chosen: from the cell where it began to the cell it was drawn out to, which is the active one. */
export interface Block {
  readonly from: Spot;
  readonly to: Spot;
}

export interface Bounds {
  readonly top: number;
  readonly bottom: number;
  readonly left: number;
  readonly right: number;
}

export function boundsOf({ from, to }: Block): Bounds {
  return {
    top: Math.min(from.row, to.row),
    bottom: Math.max(from.row, to.row),
    left: Math.min(from.column, to.column),
    right: Math.max(from.column, to.column),
  };
}

const PAGE = 12;

/** Where a key leads from a cell, in a table of so many rows and columns; null when it leads nowhere. */
export function movedBy(key: string, far: boolean, { row, column }: Spot, rows: number, columns: number): Spot | null {
  const last = { row: rows - 1, column: columns - 1 };
  const ways: Readonly<Record<string, Spot>> = {
    ArrowUp: { row: far ? 0 : row - 1, column },
    ArrowDown: { row: far ? last.row : row + 1, column },
    ArrowLeft: { row, column: far ? 0 : column - 1 },
    ArrowRight: { row, column: far ? last.column : column + 1 },
    PageUp: { row: row - PAGE, column },
    PageDown: { row: row + PAGE, column },
    Home: { row: far ? 0 : row, column: 0 },
    End: { row: far ? last.row : row, column: last.column },
  };
  const way = Object.hasOwn(ways, key) ? ways[key] : undefined;
  if (way === undefined) return null;
  return { row: Math.max(0, Math.min(last.row, way.row)), column: Math.max(0, Math.min(last.column, way.column)) };
}
