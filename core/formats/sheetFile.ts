import { allKinds, allNumbers, inOrder, keptAt, kindOf, personaNumbers, type Level, type LevelNumber } from '../level/index.ts';
import { csvText, meant, readTable, withUnit } from './csvTable.ts';
import { byColumn, kindSheet, personaSheet, type Sheet } from './sheet.ts';
import { gathering, nothingRead, type SheetReading } from './sheetReading.ts';

/** What the lines of a file are of. */
interface Things {
  readonly what: 'kind' | 'persona';
  /** Columns beside its numbers, by what stands over them; these are only read by people. */
  readonly said: Readonly<Record<string, (id: string) => string>>;
  readonly sheet: Sheet;
  readonly named: readonly (readonly [id: string, name: string])[];
  numbersOf: (id: string) => LevelNumber[];
  keptAt: (id: string, path: string) => string;
}

const kindsOf = (level: Level): Things => ({
  what: 'kind',
  said: { role: (id) => kindOf(level, id)?.role ?? '' },
  sheet: kindSheet(level),
  named: allKinds(level).map(([id, { name }]) => [id, name]),
  numbersOf: (id) => allNumbers(level, { kind: id, placements: [] }),
  keptAt: (id, path) => keptAt(level, { kind: id, placements: [] }, path)[0] ?? path,
});

const personasOf = (level: Level): Things => ({
  what: 'persona',
  said: {},
  sheet: personaSheet(level),
  named: inOrder(level.personas).map(([id, { name }]) => [id, name]),
  numbersOf: (id) => personaNumbers(level, id),
  keptAt: (_, path) => path,
});

function textOf({ what, said, sheet: { columns, rows } }: Things): string {
  const names = columns.map(({ name }) => name);
  return csvText([
    [what, 'name', ...Object.keys(said), ...names],
    ...rows.map(({ id, name, cells }) => [
      id,
      name,
      ...Object.values(said).map((say) => say(id)),
      ...names.map((column) => cells.get(column)?.value ?? ''),
    ]),
  ]);
}

function readingOf(level: Level, { what, said, sheet, named, numbersOf, keptAt: kept }: Things, text: string): SheetReading {
  const table = readTable(text);
  if (!table.ok) return nothingRead(level, table.why);
  const { heads, lines } = table;
  const at = heads.findIndex((head) => head === what || head === 'name');
  if (at < 0) return nothingRead(level, `there is no column “${what}” that says which ${what} a line is of`);
  const known = new Map(sheet.columns.map((column) => [column.name, column]));
  const found = gathering(level);
  const words = [what, 'name', '', ...Object.keys(said)];
  const stray = new Set(heads.filter((head) => !words.includes(head) && meant(head, known) === undefined));
  for (const head of stray) found.refuse(1, head, `no ${what} has a number of this name`);
  lines.forEach((cells, index) => {
    const line = index + 2;
    if (cells.every((cell) => cell === '')) return;
    const called = (cells[at] ?? '').toLowerCase();
    const [id, name] = named.find((one) => one[0] === called || one[1].toLowerCase() === called) ?? [];
    if (id === undefined || name === undefined) {
      found.refuse(line, cells[at] ?? '', `there is no ${what} of this name`);
      return;
    }
    const numbers = byColumn(numbersOf(id));
    heads.forEach((head, column) => {
      const cell = cells[column] ?? '';
      if (cell === '' || words.includes(head) || stray.has(head)) return;
      const number = meant(head, numbers);
      if (number === undefined) found.refuse(line, cell, `${name} has no “${head}”`);
      else found.number(line, name, number, kept(id, number.path), withUnit(cell, head));
    });
  });
  return found.reading();
}

/** The Sheet of all kinds as CSV. */
export const kindSheetText = (level: Level): string => textOf(kindsOf(level));

/** The Sheet of all personas as CSV. */
export const personaSheetText = (level: Level): string => textOf(personasOf(level));

/** What a file of kinds would change. An empty cell changes nothing. */
export const readKindSheet = (level: Level, text: string): SheetReading => readingOf(level, kindsOf(level), text);

/** What a file of personas would change. An empty cell changes nothing. */
export const readPersonaSheet = (level: Level, text: string): SheetReading => readingOf(level, personasOf(level), text);
