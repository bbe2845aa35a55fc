import {
  allKinds,
  allNumbers,
  entry,
  inOrder,
  isOwn,
  keptAt,
  numberAt,
  parseLevel,
  personaNumbers,
  segmentsOf,
  writeAt,
  type Level,
  type LevelNumber,
  type Owner,
  type Quantity,
} from '../level/index.ts';
import { placementName } from './words.ts';

/** One sort of number: what stands over it in the Sheet and in its file. */
export interface SheetColumn {
  /** What it is called, with its unit: `rests for (s)`. No two columns of a sheet have one name. */
  readonly name: string;
  readonly group: string;
  readonly range: Quantity;
}

export interface SheetCell {
  readonly value: number;
  /** Its own limits: those of one column may differ, as may what its numbers are amounts of. */
  readonly range: Quantity;
  /** JSON Pointer to where it is kept, as `writeAt` takes it. */
  readonly path: string;
  /** Differs from the kind it would follow otherwise. */
  readonly own: boolean;
  /** Follows another kind as it stands; writing it makes it its own. */
  readonly follows: boolean;
}

export interface SheetRow {
  readonly id: string;
  readonly name: string;
  /** The id of its kind; of a kind its own id; of a persona nothing. */
  readonly kind: string;
  readonly cells: ReadonlyMap<string, SheetCell>;
}

/** All numbers of many things in one table. */
export interface Sheet {
  readonly columns: readonly SheetColumn[];
  readonly rows: readonly SheetRow[];
}

const SIGN_WORDS: Readonly<Record<string, string>> = { '+': 'gives ', '−': 'takes ' };

/** Gives each number of a row the name of its column: what is called alike is counted. */
function named(numbers: readonly LevelNumber[]): (readonly [name: string, number: LevelNumber])[] {
  const seen = new Map<string, number>();
  return numbers.map((number) => {
    const unit = number.range.unit === '' ? '' : ` (${number.range.unit})`;
    const label = `${SIGN_WORDS[number.sign] ?? ''}${number.label}`;
    const count = (seen.get(label + unit) ?? 0) + 1;
    seen.set(label + unit, count);
    return [`${label}${count === 1 ? '' : ` ${String(count)}`}${unit}`, number];
  });
}

/** The columns of rows, group by group, each where it came first. */
function columnsOf(rows: readonly (readonly (readonly [string, LevelNumber])[])[]): SheetColumn[] {
  const columns = new Map<string, SheetColumn>();
  for (const row of rows) {
    for (const [name, { group, range }] of row) if (!columns.has(name)) columns.set(name, { name, group, range });
  }
  const groups = [...new Set([...columns.values()].map(({ group }) => group))];
  const rank = (group: string): number => (group === 'more' ? groups.length : groups.indexOf(group));
  return [...columns.values()].sort((a, b) => rank(a.group) - rank(b.group));
}

function cellOf(level: Level, owner: Owner, number: LevelNumber): SheetCell {
  const [path = number.path] = keptAt(level, owner, number.path);
  const own = isOwn(level, path);
  const follows = !own && ['variants', 'placements'].includes(segmentsOf(path)[0] ?? '') && path !== number.path;
  return { value: number.value, range: number.range, path, own, follows };
}

/** Every number of every kind: a row for each kind, a column for each sort of number. */
export function kindSheet(level: Level): Sheet {
  const rows = allKinds(level).map(([id, { name }]) => {
    const owner = { kind: id, placements: [] };
    return { id, name, owner, numbers: named(allNumbers(level, owner)) };
  });
  return {
    columns: columnsOf(rows.map(({ numbers }) => numbers)),
    rows: rows.map(({ id, name, owner, numbers }) => ({
      id,
      name,
      kind: id,
      cells: new Map(numbers.map(([column, number]) => [column, cellOf(level, owner, number)])),
    })),
  };
}

/** Every number of every persona: a row for each. */
export function personaSheet(level: Level): Sheet {
  const rows = inOrder(level.personas).map(([id, { name }]) => ({ id, name, numbers: named(personaNumbers(level, id)) }));
  return {
    columns: columnsOf(rows.map(({ numbers }) => numbers)),
    rows: rows.map(({ id, name, numbers }) => ({
      id,
      name,
      kind: '',
      cells: new Map(
        numbers.map(([column, { value, range, path }]) => [column, { value, range, path, own: false, follows: false }] as const),
      ),
    })),
  };
}

/** The numbers a placement has whatever its kind. */
export function placeNumbers(level: Level, id: string): LevelNumber[] {
  const placement = entry(level.placements, id);
  if (placement === undefined) return [];
  const { x, y, travel, starts } = placement;
  const at = ['placements', id];
  return [
    numberAt([...at, 'x'], 'place', 'x', x, 'coordinate'),
    numberAt([...at, 'y'], 'place', 'y', y, 'coordinate'),
    ...(travel === null ? [] : [numberAt([...at, 'travel', 'startOffset'], 'place', 'start offset', travel.startOffset, 'startOffset')]),
    ...(starts.type === 'resting' ? [numberAt([...at, 'starts', 'seconds'], 'place', 'rests at the start', starts.seconds, 'rest')] : []),
  ];
}

/**
 * Where placements stand, and the numbers that are own values of at least one of them: of the placements with own
 * values, or of all.
 */
export function placementSheet(level: Level, which: 'own' | 'all'): Sheet {
  const ofKinds = new Map<string, (readonly [string, LevelNumber])[]>();
  const followed = (kind: string): (readonly [string, LevelNumber])[] => {
    const numbers = ofKinds.get(kind) ?? named(allNumbers(level, { kind, placements: [] }));
    ofKinds.set(kind, numbers);
    return numbers;
  };
  const placed = inOrder(level.placements).filter(([, { own }]) => which === 'all' || Object.keys(own).length > 0);
  const rows = placed.map(([id, { kind, own }]) => {
    const owner = { kind, placements: [id] };
    const numbers = Object.keys(own).length === 0 ? followed(kind) : named(allNumbers(level, owner));
    // A number kept elsewhere, in the rules of a tag, cannot be a thing's own.
    const kept = numbers.filter(([, number]) => keptAt(level, owner, number.path)[0] !== number.path);
    return { id, kind, owner, place: named(placeNumbers(level, id)), numbers: kept };
  });
  const changed = rows.flatMap(({ id, owner, numbers }) =>
    Object.keys(entry(level.placements, id)?.own ?? {}).length === 0
      ? []
      : [numbers.filter(([, number]) => cellOf(level, owner, number).own)],
  );
  const columns = columnsOf([...rows.map(({ place }) => place), ...changed]);
  const known = new Set(columns.map(({ name }) => name));
  return {
    columns,
    rows: rows.map(({ id, kind, owner, place, numbers }) => ({
      id,
      name: placementName(level, id),
      kind,
      cells: new Map(
        [...place, ...numbers].flatMap(([column, number]) => (known.has(column) ? [[column, cellOf(level, owner, number)] as const] : [])),
      ),
    })),
  };
}

/** Numbers of one row by the names of their columns. */
export function byColumn(numbers: readonly LevelNumber[]): ReadonlyMap<string, LevelNumber> {
  return new Map(named(numbers));
}

/** A value to be written at a JSON Pointer, and who is told if it cannot be. */
export interface Write {
  readonly path: string;
  readonly value: unknown;
}

/** A pointer in which own values and changes are spelled out, so that it can be compared with where a problem is. */
const spelled = (path: string): string =>
  segmentsOf(path)
    .map((segment) => (segment.startsWith('/') ? segment : `/${segment}`))
    .join('');

const within = (inner: string, outer: string): boolean => inner === outer || inner.startsWith(`${outer}/`);

const MOST_ROUNDS = 20;

/** Writes what leaves the level valid, and says of the rest why not. The level itself is not changed. */
export function writeAll<One extends Write>(
  level: Level,
  writes: readonly One[],
): { readonly level: Level; readonly written: readonly One[]; readonly refused: readonly { readonly write: One; readonly why: string }[] } {
  let left = writes;
  const refused: { write: One; why: string }[] = [];
  for (let round = 0; left.length > 0; round++) {
    const draft = structuredClone(level);
    for (const { path, value } of left) writeAt(level, draft, path, structuredClone(value));
    const parsed = parseLevel(draft);
    if (parsed.ok) return { level: draft, written: left, refused };
    const blamed = new Map<One, string>();
    for (const problem of parsed.problems) {
      for (const write of left) {
        const path = spelled(write.path);
        if (within(problem.path, path) || within(path, problem.path)) blamed.set(write, problem.message);
      }
    }
    const [first] = parsed.problems;
    if (blamed.size === 0 || round === MOST_ROUNDS) {
      for (const write of left) blamed.set(write, first?.message ?? 'the level would not be valid');
    }
    refused.push(...[...blamed].map(([write, why]) => ({ write, why })));
    left = left.filter((write) => !blamed.has(write));
  }
  return { level, written: [], refused };
}
