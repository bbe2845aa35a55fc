import type { Compiled } from '../compile/compile.ts';
import { thingId } from './names.ts';
import { ENDINGS, LINE, LINE_TYPES, MOVEMENT, PHASES, REASONS, type EndingName, type PhaseName, type Reason } from '../compile/codes.ts';

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

/** A raw line by its columns: numbers of whom and what it is about; −1 stands for "none". */
export type Line = Record<keyof typeof COLUMN, number>;

/** A line with nothing in it. */
export const blankLine = (): Line => ({
  type: 0,
  step: 0,
  toucher: -1,
  placement: -1,
  rule: -1,
  subject: -1,
  reason: -1,
  asked: 0,
  applied: 0,
  before: 0,
  after: 0,
  cause: -1,
  other: -1,
});

/** Where a session writes what happened. Without one it only counts. */
export interface Recorder {
  /** Takes a copy of the line: it is one object for all lines of a session. */
  line(line: Line): void;
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
    line(line) {
      const at = addRow(lines);
      const { values } = lines;
      values[at + COLUMN.type] = line.type;
      values[at + COLUMN.step] = line.step;
      values[at + COLUMN.toucher] = line.toucher;
      values[at + COLUMN.placement] = line.placement;
      values[at + COLUMN.rule] = line.rule;
      values[at + COLUMN.subject] = line.subject;
      values[at + COLUMN.reason] = line.reason;
      values[at + COLUMN.asked] = line.asked;
      values[at + COLUMN.applied] = line.applied;
      values[at + COLUMN.before] = line.before;
      values[at + COLUMN.after] = line.after;
      values[at + COLUMN.cause] = line.cause;
      values[at + COLUMN.other] = line.other;
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

/** Who, at what, by which rule: of the thing's kind, or of an item. */
interface AtThing {
  /** `player 1`, the id of a mover's placement, or null for nobody. */
  readonly toucher: string | null;
  readonly placement: string | null;
  readonly rule: string | null;
  /** The item whose rule it is. */
  readonly ofItem: string | null;
  /** Set off by leaving, because the player was put elsewhere: the cause is the line that did it. */
  readonly moved: boolean;
}

interface Place {
  readonly x: number;
  readonly y: number;
}

interface Change {
  readonly asked: number;
  readonly applied: number;
}

/** One line of the ledger, with ids in place of numbers. */
export type LedgerLine = Common &
  (
    | (AtThing & Change & { type: 'changed'; meter: string; before: number; after: number })
    | (AtThing & Change & { type: 'rate'; meter: string; fromSeconds: number; after: number })
    | (AtThing & { type: 'refused'; reason: Reason; condition: string | null; item: string | null; secondsLeft: number | null })
    | (AtThing & {
        type: 'nothing';
        reason: Reason;
        meter: string | null;
        item: string | null;
        asked: number;
        secondsLeft: number | null;
      })
    | { type: 'phase'; placement: string; player: string | null; phase: PhaseName; untilSeconds: number | null }
    | { type: 'limit'; toucher: string | null; meter: string; value: number }
    | (Place & { type: 'died'; toucher: string | null; placement: string | null })
    | (AtThing & { type: 'ended'; how: EndingName })
    | (AtThing & { type: 'movement'; of: string; begun: boolean; before: number; after: number; untilSeconds: number | null })
    | (AtThing & Change & { type: 'item'; item: string; before: number; after: number })
    | (AtThing & { type: 'launched'; strength: number; before: number; after: number })
    | (AtThing & Place & { type: 'moved' })
    | (AtThing & Place & { type: 'checkpoint' })
    | (AtThing & { type: 'shield'; begun: boolean; untilSeconds: number | null })
    | (AtThing & { type: 'notice'; notice: string })
    | (Place & { type: 'spawned'; toucher: string | null; placement: string; kind: string; by: string | null })
    | (Place & { type: 'relocated'; toucher: string | null; placement: string })
    | { type: 'crowded'; toucher: string | null; placement: string | null }
    | { type: 'stopped'; placement: string | null; links: number }
    | (Place & { type: 'displaced'; toucher: string | null; outside: boolean })
    | (Place & { type: 'returned'; toucher: string | null })
    | { type: 'present'; toucher: string | null; present: boolean }
    | { type: 'drawn'; toucher: string | null; placement: string; begun: boolean }
    | { type: 'flourish'; placement: string | null; flourish: string }
    | { type: 'held'; toucher: string | null; item: string | null }
    | { type: 'outside'; toucher: string | null; what: string }
  );

/** A line that says why a rule did not act, or why what it did came to nothing. */
export type StoppedLine = Extract<LedgerLine, { type: 'refused' | 'nothing' }>;

export const isStopped = (line: LedgerLine): line is StoppedLine => line.type === 'refused' || line.type === 'nothing';

/** As much of a compiled level as it takes to read the lines of its sessions: plain data, which may be sent along with them. */
export type LineNames = Pick<Compiled, 'ids' | 'rate' | 'playerCount'>;

/** What it takes to read lines, by itself. */
export const lineNames = ({ ids, rate, playerCount }: Compiled): LineNames => ({ ids, rate, playerCount });

/** Names a toucher: players by number, movers by their ids. */
function toucherName(names: LineNames, toucher: number): string | null {
  if (toucher < 0) return null;
  if (toucher < names.playerCount) return `player ${String(toucher + 1)}`;
  return thingId(names, toucher - names.playerCount);
}

const OUTSIDE = ['meter', 'item', 'notice', 'join', 'leave'] as const;
const MOVEMENT_NAMES = Object.keys(MOVEMENT);
/** Lines by which a player is somewhere else at once. */
const PUTS: ReadonlySet<number> = new Set([LINE.moved, LINE.returned]);

type Ids = LineNames['ids'];
type Get = (column: number) => number;

/** What stopped a rule. */
function refusedBy(ids: Ids, get: Get) {
  const reason = REASONS[get(COLUMN.reason)] ?? 'condition';
  const aboutItem = reason === 'empty' || reason === 'carry limit' || reason === 'no item';
  const subject = get(COLUMN.subject);
  return {
    reason,
    condition: reason === 'full' || reason === 'condition' ? (ids.conditions[subject] ?? null) : null,
    item: aboutItem ? (ids.items[subject] ?? null) : null,
  };
}

/** What brought an effect to nothing, and of which meter or item. */
function stoppedBy(ids: Ids, get: Get) {
  const subject = get(COLUMN.subject);
  return {
    reason: REASONS[get(COLUMN.reason)] ?? ('full' as const),
    meter: ids.meters[-2 - subject] ?? null,
    item: ids.items[subject] ?? null,
  };
}

/** Reads line `index` of a recorded ledger. */
export function readLine(compiled: LineNames, lines: { readonly values: Float64Array }, index: number): LedgerLine {
  const { ids } = compiled;
  const get = (column: number): number => lines.values[index * WIDTH + column] as number;
  const at = (list: readonly string[], column: number): string => list[get(column)] ?? '';
  const orNull = (list: readonly string[], column: number): string | null => list[get(column)] ?? null;
  const secondsOf = (step: number): number => step / compiled.rate;
  const cause = get(COLUMN.cause);
  const common = { index, step: get(COLUMN.step), seconds: secondsOf(get(COLUMN.step)), cause: cause < 0 ? null : cause };
  const toucher = toucherName(compiled, get(COLUMN.toucher));
  const placement = thingId(compiled, get(COLUMN.placement));
  const rule = ids.rules[get(COLUMN.rule)];
  const moved = rule?.item === null && cause >= 0 && PUTS.has(lines.values[cause * WIDTH + COLUMN.type] as number);
  const thing: AtThing = { toucher, placement, rule: rule?.rule ?? null, ofItem: rule?.item ?? null, moved };
  const meter = at(ids.meters, COLUMN.subject);
  const other = get(COLUMN.other);
  const untilSeconds = other < 0 ? null : secondsOf(other);
  const secondsLeft = other < 0 ? null : secondsOf(other - get(COLUMN.step));
  const change = { asked: get(COLUMN.asked), applied: get(COLUMN.applied) };
  const span = { before: get(COLUMN.before), after: get(COLUMN.after) };
  const place: Place = { x: span.before, y: span.after };
  const type = LINE_TYPES[get(COLUMN.type)];
  switch (type) {
    case 'changed':
      return { ...common, ...thing, type, meter, ...change, ...span };
    case 'rate':
      return { ...common, ...thing, type, meter, fromSeconds: secondsOf(other), ...change, after: span.after };
    case 'refused':
      return { ...common, ...thing, type, ...refusedBy(ids, get), secondsLeft };
    case 'nothing':
      return { ...common, ...thing, type, asked: change.asked, ...stoppedBy(ids, get), secondsLeft };
    case 'phase':
      return { ...common, type, placement: placement ?? '', player: toucher, phase: PHASES[get(COLUMN.subject)] ?? 'ready', untilSeconds };
    case 'limit':
      return { ...common, type, toucher, meter, value: span.after };
    case 'died':
      return { ...common, type, toucher, placement, ...place };
    case 'movement':
      return { ...common, ...thing, type, of: MOVEMENT_NAMES[get(COLUMN.subject)] ?? '', begun: change.asked === 1, ...span, untilSeconds };
    case 'item':
      return { ...common, ...thing, type, item: at(ids.items, COLUMN.subject), ...change, ...span };
    case 'launched':
      return { ...common, ...thing, type, strength: change.asked, ...span };
    case 'moved':
    case 'checkpoint':
      return { ...common, ...thing, type, ...place };
    case 'shield':
      return { ...common, ...thing, type, begun: get(COLUMN.subject) === 1, untilSeconds };
    case 'notice':
      return { ...common, ...thing, type, notice: at(ids.notices, COLUMN.subject) };
    case 'spawned': {
      const kind = at(ids.kinds, COLUMN.subject);
      return { ...common, type, toucher, placement: placement ?? '', kind, by: thingId(compiled, other), ...place };
    }
    case 'relocated':
      return { ...common, type, toucher, placement: placement ?? '', ...place };
    case 'crowded':
      return { ...common, type, toucher, placement };
    case 'stopped':
      return { ...common, type, placement, links: other };
    case 'displaced':
      return { ...common, type, toucher, outside: get(COLUMN.subject) === 1, ...place };
    case 'returned':
      return { ...common, type, toucher, ...place };
    case 'present':
      return { ...common, type, toucher, present: get(COLUMN.subject) === 1 };
    case 'drawn':
      return { ...common, type, toucher, placement: placement ?? '', begun: get(COLUMN.subject) === 1 };
    case 'flourish':
      return { ...common, type, placement, flourish: at(ids.flourishes, COLUMN.subject) };
    case 'held':
      return { ...common, type, toucher, item: orNull(ids.items, COLUMN.subject) };
    case 'outside':
      return { ...common, type, toucher, what: OUTSIDE[get(COLUMN.subject)] ?? '' };
    default:
      return { ...common, ...thing, type: 'ended', how: ENDINGS[get(COLUMN.subject)] ?? 'running' };
  }
}

export function readLines(compiled: LineNames, lines: Rows): LedgerLine[] {
  return Array.from({ length: lines.count }, (_, index) => readLine(compiled, lines, index));
}
