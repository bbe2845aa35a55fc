import type { Compiled } from './compile.ts';
import { LINE_TYPES, PHASES, REASONS, ENDINGS, type PhaseName, type Reason } from './codes.ts';

/** Columns of a raw ledger line; a line is `WIDTH` numbers. −1 stands for "none". */
export const WIDTH = 13;
export const COLUMN = {
  type: 0,
  step: 1,
  toucher: 2,
  placement: 3,
  rule: 4,
  subject: 5,
  reason: 6,
  asked: 7,
  applied: 8,
  before: 9,
  after: 10,
  cause: 11,
  other: 12,
} as const;

/** Where a session writes what happened. Without one it only counts. */
export interface Recorder {
  /** Takes a copy of the line's `WIDTH` numbers. */
  line(numbers: Float64Array): void;
  /** A player was inside a placement from one time to another, in seconds. */
  contact(toucher: number, placement: number, from: number, to: number): void;
}

/** Rows of numbers that grow by doubling. */
export interface Rows {
  count: number;
  readonly width: number;
  values: Float64Array;
}

function createRows(width: number): Rows {
  return { count: 0, width, values: new Float64Array(width * 64) };
}

/** Makes room for one more row and returns where it begins. */
function addRow(rows: Rows): number {
  const at = rows.count * rows.width;
  if (at + rows.width > rows.values.length) {
    const larger = new Float64Array(rows.values.length * 2);
    larger.set(rows.values);
    rows.values = larger;
  }
  rows.count += 1;
  return at;
}

export const CONTACT_WIDTH = 4;

/** A recorder that keeps all lines and contacts. */
export function createLedger(): Recorder & { readonly lines: Rows; readonly contacts: Rows } {
  const lines = createRows(WIDTH);
  const contacts = createRows(CONTACT_WIDTH);
  return {
    lines,
    contacts,
    line(numbers) {
      const at = addRow(lines);
      lines.values.set(numbers, at);
    },
    contact(toucher, placement, from, to) {
      const at = addRow(contacts);
      contacts.values[at] = toucher;
      contacts.values[at + 1] = placement;
      contacts.values[at + 2] = from;
      contacts.values[at + 3] = to;
    },
  };
}

interface Common {
  readonly index: number;
  readonly step: number;
  /** Seconds since the start: step ÷ rate. */
  readonly seconds: number;
  /** Index of the line that brought this one about. */
  readonly cause: number | null;
}

interface AtThing {
  /** `player 1`, or the id of a mover's placement. */
  readonly toucher: string;
  readonly placement: string;
  readonly rule: string;
}

/** One line of the ledger, with ids in place of numbers. */
export type LedgerLine = Common &
  (
    | (AtThing & { type: 'changed'; meter: string; asked: number; applied: number; before: number; after: number })
    | (AtThing & { type: 'rate'; meter: string; fromSeconds: number; asked: number; applied: number; after: number })
    | (AtThing & { type: 'refused'; reason: Reason; condition: string | null; secondsLeft: number | null })
    | { type: 'phase'; placement: string; phase: PhaseName; untilSeconds: number | null }
    | { type: 'limit'; toucher: string; meter: string; value: number }
    | { type: 'died'; toucher: string; placement: string | null }
    | { type: 'ended'; how: (typeof ENDINGS)[number] }
  );

/** Names a toucher: players by number, movers by placement id. */
export function toucherName(compiled: Compiled, toucher: number): string {
  if (toucher < compiled.playerCount) return `player ${String(toucher + 1)}`;
  return compiled.ids.placements[compiled.movers.placement[toucher - compiled.playerCount] as number] ?? '';
}

/** Reads line `index` of a recorded ledger. */
export function readLine(compiled: Compiled, lines: { readonly values: Float64Array }, index: number): LedgerLine {
  const get = (column: number): number => lines.values[index * WIDTH + column] as number;
  const at = (list: readonly string[], column: number): string => list[get(column)] ?? '';
  const secondsOf = (step: number): number => step / compiled.rate;
  const cause = get(COLUMN.cause);
  const common = { index, step: get(COLUMN.step), seconds: secondsOf(get(COLUMN.step)), cause: cause < 0 ? null : cause };
  const toucher = toucherName(compiled, get(COLUMN.toucher));
  const placement = at(compiled.ids.placements, COLUMN.placement);
  const thing = { toucher, placement, rule: compiled.ids.rules[get(COLUMN.rule)]?.rule ?? '' };
  const meter = at(compiled.ids.meters, COLUMN.subject);
  const other = get(COLUMN.other);
  const amounts = { asked: get(COLUMN.asked), applied: get(COLUMN.applied) };
  const type = LINE_TYPES[get(COLUMN.type)];
  switch (type) {
    case 'changed':
      return { ...common, ...thing, type, meter, ...amounts, before: get(COLUMN.before), after: get(COLUMN.after) };
    case 'rate':
      return { ...common, ...thing, type, meter, fromSeconds: secondsOf(other), ...amounts, after: get(COLUMN.after) };
    case 'refused':
      return {
        ...common,
        ...thing,
        type,
        reason: REASONS[get(COLUMN.reason)] ?? 'condition',
        condition: get(COLUMN.subject) < 0 ? null : at(compiled.ids.conditions, COLUMN.subject),
        secondsLeft: other < 0 ? null : secondsOf(other - get(COLUMN.step)),
      };
    case 'phase':
      return {
        ...common,
        type,
        placement,
        phase: PHASES[get(COLUMN.subject)] ?? 'ready',
        untilSeconds: other < 0 ? null : secondsOf(other),
      };
    case 'limit':
      return { ...common, type, toucher, meter, value: get(COLUMN.after) };
    case 'died':
      return { ...common, type, toucher, placement: placement === '' ? null : placement };
    default:
      return { ...common, type: 'ended', how: ENDINGS[get(COLUMN.subject)] ?? 'running' };
  }
}

export function readLines(compiled: Compiled, lines: Rows): LedgerLine[] {
  return Array.from({ length: lines.count }, (_, index) => readLine(compiled, lines, index));
}
