import {
  allNumbers,
  entry,
  freeId,
  kindOf,
  lastOrder,
  numberAt,
  pointer,
  type Level,
  type LevelNumber,
  type Placement,
} from '../level/index.ts';
import { csvText, meant, parted, readTable, withUnit } from './csvTable.ts';
import { byColumn, placementSheet, placeNumbers } from './sheet.ts';
import { gathering, kindCalled, nothingRead, type SheetReading } from './sheetReading.ts';
import { readNumber } from './typed.ts';
import { placementName } from './words.ts';
import { pairText } from './numerals.ts';

/** All placements as CSV: where they stand, and their own values; what follows the kind is left empty. */
export function placementSheetText(level: Level): string {
  const { columns, rows } = placementSheet(level, 'all');
  const names = columns.map(({ name }) => name);
  return csvText([
    ['placement', 'kind', ...names],
    ...rows.map(({ id, kind, cells }) => [
      id,
      kind,
      ...names.map((column) => {
        const cell = cells.get(column);
        return cell === undefined || cell.follows ? '' : cell.value;
      }),
    ]),
  ]);
}

interface PlacementFile {
  /** In the file, y counts down from the top of the level. */
  readonly yDown: boolean;
}

/** Thrown within a line of placements that cannot be taken as a whole. */
class Unfit extends Error {
  constructor(
    readonly text: string,
    why: string,
  ) {
    super(why);
  }
}

/** The numbers a line of a new placement can state about its place. */
const newNumbers = (id: string): LevelNumber[] =>
  ['x', 'y'].map((field) => numberAt(['placements', id, field], 'place', field, 0, 'coordinate'));

/** What the headings of a file of placements mean for one of a kind. */
function meanings(level: Level, kind: string, id: string, isNew: boolean) {
  const places = byColumn(isNew ? newNumbers(id) : placeNumbers(level, id));
  const values = byColumn(allNumbers(level, { kind, placements: isNew ? [] : [id] }));
  const base = pointer(['kinds', kind]);
  return (head: string): { readonly number: LevelNumber; readonly within: string | null } | undefined => {
    const place = meant(head, places);
    if (place !== undefined) return { number: place, within: null };
    const number = meant(head, values);
    return number?.path.startsWith(`${base}/`) === true ? { number, within: number.path.slice(base.length) } : undefined;
  };
}

/**
 * What a file of placements would change: a line that names a placement changes it, another adds one. Columns: kind, x, y,
 * and any number of the kind as an own value.
 */
export function readPlacements(level: Level, text: string, { yDown }: PlacementFile): SheetReading {
  const table = readTable(text);
  if (!table.ok) return nothingRead(level, table.why);
  const { heads, lines } = table;
  if (!heads.includes('kind')) return nothingRead(level, 'there is no column “kind” that says of which kind a line is');
  const placed = ['x', 'y'].map((name) => heads.findIndex((head) => parted(head).name === name));
  if (placed.some((at) => at < 0)) return nothingRead(level, 'there are no columns “x” and “y”');
  const found = gathering(level);
  const taken: Record<string, Placement> = { ...level.placements };
  const cellText = (number: LevelNumber, text: string): string => {
    const read = readNumber(text, number.range, level.scale);
    return yDown && number.label === 'y' && read.ok ? String(level.size.height - read.value) : text;
  };

  /** The cells of a line that state a number. */
  const stated = function* (cells: readonly string[], mean: ReturnType<typeof meanings>, name: string) {
    for (const [column, head] of heads.entries()) {
      const cell = cells[column] ?? '';
      if (cell === '' || head === '' || head === 'kind' || head === 'placement') continue;
      const meaning = mean(head);
      if (meaning === undefined) throw new Unfit(cell, `${name} has no “${head}” of its own`);
      yield { ...meaning, text: cellText(meaning.number, withUnit(cell, head)) };
    }
  };

  const change = (line: number, id: string, kind: string, cells: readonly string[]): void => {
    const name = placementName(level, id);
    for (const { number, within, text } of stated(cells, meanings(level, kind, id, false), name)) {
      found.number(line, name, number, within === null ? number.path : pointer(['placements', id, 'own', within]), text);
    }
  };

  const add = (line: number, wished: string, kind: string, cells: readonly string[]): void => {
    const id = /^[a-z][a-z0-9-]{0,63}$/.test(wished) && taken[wished] === undefined ? wished : freeId(taken, kind);
    const name = kindOf(level, kind)?.name ?? kind;
    if (placed.some((at) => (cells[at] ?? '') === '')) throw new Unfit(cells.join(', '), 'x or y is missing; nothing was placed');
    const added: Placement = { kind, order: lastOrder(taken), x: 0, y: 0, travel: null, own: {}, starts: { type: 'ready' } };
    for (const { number, within, text } of stated(cells, meanings(level, kind, id, true), name)) {
      const read = readNumber(text, number.range, level.scale, number.sign);
      if (!read.ok) throw new Unfit(text, `${name}, ${number.label}: ${read.why}; nothing was placed`);
      if (within !== null) added.own[within] = read.value;
      else added[number.label === 'x' ? 'x' : 'y'] = read.value;
    }
    taken[id] = added;
    const words = `new: ${name} at ${pairText(added.x, added.y)}`;
    found.write({ line, words, path: pointer(['placements', id]), value: added });
  };

  for (const [index, cells] of lines.entries()) {
    if (cells.every((cell) => cell === '')) continue;
    const called = cells[heads.indexOf('kind')] ?? '';
    const id = cells[heads.indexOf('placement')] ?? '';
    const kind = kindCalled(level, called);
    const there = entry(level.placements, id);
    try {
      if (kind === undefined) throw new Unfit(called, 'there is no kind of this name');
      if (there !== undefined && there.kind !== kind) throw new Unfit(id, `this placement is of another kind, ${there.kind}`);
      if (there === undefined) add(index + 2, id, kind, cells);
      else change(index + 2, id, kind, cells);
    } catch (error) {
      if (!(error instanceof Unfit)) throw error;
      found.refuse(index + 2, error.text, error.message);
    }
  }
  return found.reading();
}
