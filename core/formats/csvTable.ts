import Papa from 'papaparse';
import { plainNumber } from './numerals.ts';

/** Files larger than this are refused, in characters. */
const MOST_TEXT = 5_000_000;
const MOST_LINES = 20_000;

/** A table as CSV (RFC 4180). Text that a spreadsheet would take for a formula is marked with an apostrophe. */
export function csvText(rows: readonly (readonly (string | number)[])[]): string {
  return Papa.unparse(
    rows.map((row) => [...row]),
    { escapeFormulae: true, newline: '\r\n' },
  ).concat('\r\n');
}

type Table = { readonly ok: true; readonly heads: readonly string[]; readonly lines: readonly (readonly string[])[] };

/** A table of text, its marks against formulas taken off; or why it cannot be read. */
export function readTable(text: string): Table | { readonly ok: false; readonly why: string } {
  if (text.length > MOST_TEXT) return { ok: false, why: `the file is larger than ${plainNumber(MOST_TEXT / 1e6)} million characters` };
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: false });
  const cells = data.map((row) => row.map((cell) => cell.trim().replace(/^'(?=[=+\-@])/, '')));
  const [heads, ...lines] = cells;
  if (heads === undefined || heads.every((head) => head === '')) return { ok: false, why: 'the file is empty' };
  if (lines.length > MOST_LINES) return { ok: false, why: `the file has more than ${String(MOST_LINES)} lines` };
  const names = heads.map((head) => head.toLowerCase());
  const twice = names.find((name, index) => name !== '' && names.indexOf(name) !== index);
  if (twice !== undefined) return { ok: false, why: `two columns are called “${twice}”` };
  return { ok: true, heads: names, lines };
}

/** A heading parted into what it names and its unit: `rests for (f)`. */
export function parted(head: string): { readonly name: string; readonly unit: string } {
  const match = /^(.*?)\s*\(([^()]*)\)$/.exec(head);
  return match === null ? { name: head, unit: '' } : { name: match[1] ?? '', unit: match[2] ?? '' };
}

/** The number a heading means among those a row has: by its whole name, else by its name when its unit is left out or another. */
export function meant<One>(head: string, numbers: ReadonlyMap<string, One>): One | undefined {
  const named = [...numbers].find(([name]) => name.toLowerCase() === head);
  if (named !== undefined) return named[1];
  const { name, unit } = parted(head);
  const alike = [...numbers].filter(([one]) => parted(one.toLowerCase()).name === name);
  return alike.length === 1 && (unit === '' || unit === 'px' || unit === 'px/s' || unit === 'f') ? alike[0]?.[1] : undefined;
}

/** The text of a cell with the unit that its heading states, where that is not the number's own. */
export function withUnit(text: string, head: string): string {
  const { unit } = parted(head);
  return ['px', 'px/s', 'f'].includes(unit) && /\d$/.test(text) ? text + unit : text;
}

/** The cells of a block copied from a spreadsheet: tabs between them, a line each. */
export function blockCells(text: string): string[][] {
  const { data } = Papa.parse<string[]>(text.replace(/\r?\n$/, ''), { delimiter: '\t' });
  return data.slice(0, MOST_LINES).map((row) => row.map((cell) => cell.trim()));
}
