import { blockCells, readNumber, type Sheet, type SheetCell, type SheetColumn, type SheetRow, type Write } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { operated, type Operation } from '../state/document/operations.ts';
import { boundsOf, type Block } from './block.ts';

/** A cell with what stands over and beside it. */
export interface Place {
  readonly row: SheetRow;
  readonly column: SheetColumn;
  readonly cell: SheetCell;
}

/** A value to be written, and where it goes in words. */
interface CellWrite extends Write {
  readonly words: string;
}

export interface Gathered {
  readonly writes: readonly CellWrite[];
  readonly refused: readonly string[];
}

/** The cells of a block that hold a number, row by row. */
export function placesIn({ rows, columns }: Sheet, block: Block): Place[] {
  const { top, bottom, left, right } = boundsOf(block);
  return rows.slice(top, bottom + 1).flatMap((row) =>
    columns.slice(left, right + 1).flatMap((column) => {
      const cell = row.cells.get(column.name);
      return cell === undefined ? [] : [{ row, column, cell }];
    }),
  );
}

const words = ({ row, column }: Place): string => `${row.name}: ${column.name}`;

/** Sets, adds to or multiplies every number of a block. What follows another goes on following, unless all of the block does. */
export function operateOn(sheet: Sheet, block: Block, operation: Operation, by: number): Gathered {
  const chosen = placesIn(sheet, block);
  const leading = chosen.filter(({ cell }) => !cell.follows);
  const places = leading.length > 0 ? leading : chosen;
  const made = places.map((place) => ({ place, value: operated(operation, place.cell.value, by, place.cell.range) }));
  const wrong = made.flatMap(({ place, value }) => {
    const read = readNumber(String(value), place.cell.range, null);
    return read.ok ? [] : [`${words(place)}: ${read.why}`];
  });
  const right = made.filter(({ place, value }) => readNumber(String(value), place.cell.range, null).ok && value !== place.cell.value);
  return { writes: right.map(({ place, value }) => ({ path: place.cell.path, value, words: words(place) })), refused: wrong };
}

/** Puts a table of text into the cells from the corner of a block on; one value alone fills the block. */
export function pasteInto(sheet: Sheet, block: Block, text: string, scale: Level['scale']): Gathered {
  const lines = blockCells(text);
  const { top, left } = boundsOf(block);
  const [[only = ''] = []] = lines;
  const writes: CellWrite[] = [];
  const refused: string[] = [];
  const put = (row: number, column: number, typed: string): void => {
    const at = { row: sheet.rows[row], column: sheet.columns[column] };
    if (typed === '') return;
    const cell = at.row?.cells.get(at.column?.name ?? '');
    if (at.row === undefined || at.column === undefined || cell === undefined) {
      refused.push(
        `“${typed}”: ${at.row === undefined || at.column === undefined ? 'outside the table' : `${at.row.name} has no such number`}`,
      );
      return;
    }
    const place = { row: at.row, column: at.column, cell };
    const read = readNumber(typed, cell.range, scale);
    if (!read.ok) refused.push(`${words(place)}: ${read.why}`);
    else if (read.value !== cell.value) writes.push({ path: cell.path, value: read.value, words: words(place) });
  };
  if (lines.length === 1 && lines[0]?.length === 1) {
    const { bottom, right } = boundsOf(block);
    const holds = (row: number, column: number): boolean => sheet.rows[row]?.cells.has(sheet.columns[column]?.name ?? '') === true;
    for (let row = top; row <= bottom; row++) {
      for (let column = left; column <= right; column++) if (holds(row, column)) put(row, column, only);
    }
  } else {
    lines.forEach((cells, row) => cells.forEach((typed, column) => put(top + row, left + column, typed)));
  }
  return { writes, refused };
}

/** Puts the numbers of a block's first row into the rows below it. */
export function fillDown(sheet: Sheet, block: Block): Gathered {
  const { top, left, right } = boundsOf(block);
  const first = sheet.columns.slice(left, right + 1).map((column) => sheet.rows[top]?.cells.get(column.name)?.value);
  const writes = placesIn(sheet, block).flatMap((place) => {
    const value = first[sheet.columns.indexOf(place.column) - left];
    return value === undefined || value === place.cell.value ? [] : [{ path: place.cell.path, value, words: words(place) }];
  });
  return { writes, refused: [] };
}

/** A block as text that a spreadsheet takes. */
export function copied({ rows, columns }: Sheet, block: Block): string {
  const { top, bottom, left, right } = boundsOf(block);
  return rows
    .slice(top, bottom + 1)
    .map((row) => columns.slice(left, right + 1).map((column) => String(row.cells.get(column.name)?.value ?? '')))
    .map((cells) => cells.join('\t'))
    .join('\n');
}

export interface Arrangement {
  readonly search: string;
  readonly columns: string;
  readonly sortBy: string | null;
  readonly descending: boolean;
}

/**
 * The rows and columns asked for, in the order asked for. Columns in which no row left has a number are left out, and when
 * columns are asked for, the rows without any of them.
 */
export function arranged(sheet: Sheet, about: (row: SheetRow) => string, { search, columns, sortBy, descending }: Arrangement): Sheet {
  const has = (text: string, wanted: string): boolean =>
    wanted
      .toLowerCase()
      .split(/\s+/)
      .every((word) => text.toLowerCase().includes(word));
  const found = sheet.rows.filter((row) => has(about(row), search));
  const wanted = sheet.columns.filter(({ name, group }) => has(`${name} ${group}`, columns));
  const rows = columns.trim() === '' ? found : found.filter(({ cells }) => wanted.some(({ name }) => cells.has(name)));
  const shown = wanted.filter(({ name }) => rows.some(({ cells }) => cells.has(name)));
  if (sortBy === null) return { rows, columns: shown };
  const valueOf = (row: SheetRow): number => row.cells.get(sortBy)?.value ?? (descending ? -Infinity : Infinity);
  const sorted = [...rows].sort((a, b) => (valueOf(a) - valueOf(b)) * (descending ? -1 : 1) || 0);
  return { rows: sorted, columns: shown };
}
