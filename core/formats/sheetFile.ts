import { allNumbers, keptAt, kindOf, type Level } from '../level/index.ts';
import { csvText, meant, readTable, withUnit } from './csvTable.ts';
import { kindSheet, byColumn } from './sheet.ts';
import { gathering, kindCalled, nothingRead, type SheetReading } from './sheetReading.ts';

/** The Sheet of all kinds as CSV. */
export function kindSheetText(level: Level): string {
  const { columns, rows } = kindSheet(level);
  const names = columns.map(({ name }) => name);
  const role = (id: string): string => kindOf(level, id)?.role ?? '';
  return csvText([
    ['kind', 'name', 'role', ...names],
    ...rows.map(({ id, name, cells }) => [id, name, role(id), ...names.map((column) => cells.get(column)?.value ?? '')]),
  ]);
}

/** What a file of kinds would change. An empty cell changes nothing. */
export function readKindSheet(level: Level, text: string): SheetReading {
  const table = readTable(text);
  if (!table.ok) return nothingRead(level, table.why);
  const { heads, lines } = table;
  const at = heads.findIndex((head) => head === 'kind' || head === 'name');
  if (at < 0) return nothingRead(level, 'there is no column “kind” that says which kind a line is of');
  const { columns } = kindSheet(level);
  const known = new Map(columns.map((column) => [column.name, column]));
  const found = gathering(level);
  const stray = new Set(heads.filter((head) => !['kind', 'name', 'role', ''].includes(head) && meant(head, known) === undefined));
  for (const head of stray) found.refuse(1, head, 'no kind has a number of this name');
  lines.forEach((cells, index) => {
    const line = index + 2;
    if (cells.every((cell) => cell === '')) return;
    const kind = kindCalled(level, cells[at] ?? '');
    if (kind === undefined) {
      found.refuse(line, cells[at] ?? '', 'there is no kind of this name');
      return;
    }
    const name = kindOf(level, kind)?.name ?? kind;
    const numbers = byColumn(allNumbers(level, { kind, placements: [] }));
    heads.forEach((head, column) => {
      const cell = cells[column] ?? '';
      if (cell === '' || ['kind', 'name', 'role', ''].includes(head) || stray.has(head)) return;
      const number = meant(head, numbers);
      if (number === undefined) {
        found.refuse(line, cell, `${name} has no “${head}”`);
        return;
      }
      const [path = number.path] = keptAt(level, { kind, placements: [] }, number.path);
      found.number(line, name, number, path, withUnit(cell, head));
    });
  });
  return found.reading();
}
