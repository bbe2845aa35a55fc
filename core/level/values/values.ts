import { entry, pointer, segmentsOf, setAt, valueAt } from '../document/pointers.ts';
import { kindOf, kindOfPlacement } from './resolve.ts';
import type { Level } from '../document/schema.ts';
import type { Kind } from '../document/things.ts';

type Changes = Record<string, unknown>;

/** Where the values of a kind are kept that are turned: in the kind itself, in what it changes of another, or as own values of things. */
export interface Owner {
  readonly kind: string;
  /** Placements whose own values are meant; none: the kind's. */
  readonly placements: readonly string[];
}

/** The pointers to where a value of a kind is kept, one for each owner. `within` is a pointer into the kind. */
export function pathsOf(level: Level, { kind, placements }: Owner, within: string): readonly string[] {
  if (placements.length > 0) return placements.map((id) => pointer(['placements', id, 'own', within]));
  return [entry(level.variants, kind) === undefined ? pointer(['kinds', kind]) + within : pointer(['variants', kind, 'changes', within])];
}

/** A pointer to something that is kept as a change of a kind: which map of changes, what within the kind, and the kind as it is. */
function changeAt(
  level: Level,
  path: string,
): { readonly changes: Changes; readonly within: string; readonly kind: Kind | undefined } | null {
  const [map, id = '', field, within, ...rest] = segmentsOf(path);
  if (within === undefined || rest.length > 0) return null;
  if (map === 'variants' && field === 'changes') {
    return { changes: entry(level.variants, id)?.changes ?? {}, within, kind: kindOf(level, id) };
  }
  if (map === 'placements' && field === 'own') {
    return { changes: entry(level.placements, id)?.own ?? {}, within, kind: kindOfPlacement(level, id) };
  }
  return null;
}

/** The value at a pointer; of what is not changed, the value it follows. */
export function readAt(level: Level, path: string): unknown {
  const change = changeAt(level, path);
  return change === null ? valueAt(level, path) : valueAt(change.kind, change.within);
}

/** Whether the value at a pointer differs from the kind it would follow otherwise. */
export function isOwn(level: Level, path: string): boolean {
  const change = changeAt(level, path);
  return change !== null && Object.keys(change.changes).some((key) => key === change.within || change.within.startsWith(`${key}/`));
}

const above = (path: string): string => path.slice(0, path.lastIndexOf('/'));

/** Puts a value into a map of changes. No change lies within another: their order would matter, and maps have none. */
function writeChange(changes: Changes, within: string, kind: Kind | undefined, value: unknown): void {
  const around = Object.keys(changes).find((key) => within.startsWith(`${key}/`));
  if (around !== undefined) {
    setAt(changes[around] as object, within.slice(around.length), value);
    return;
  }
  if (value === undefined) {
    const [name] = segmentsOf(within).slice(-1);
    const rest = Object.entries(valueAt(kind, above(within)) ?? {}).filter(([one]) => one !== name);
    writeChange(changes, above(within), kind, Object.fromEntries(rest));
    return;
  }
  for (const key of Object.keys(changes)) if (key.startsWith(`${within}/`)) Reflect.deleteProperty(changes, key);
  changes[within] = value;
}

/** Sets the value at a pointer of a draft made from `level`; `undefined` removes it. */
export function writeAt(level: Level, draft: Level, path: string, value: unknown): void {
  const change = changeAt(level, path);
  if (change === null) {
    setAt(draft, path, value);
    return;
  }
  writeChange(valueAt(draft, above(path)) as Changes, change.within, change.kind, value);
}

/** Lets a value follow its kind again. */
export function forgetAt(draft: Level, path: string): void {
  const changes = valueAt(draft, above(path)) as Changes;
  const within = segmentsOf(path).at(-1) ?? '';
  for (const key of Object.keys(changes)) {
    if (key === within || within.startsWith(`${key}/`) || key.startsWith(`${within}/`)) Reflect.deleteProperty(changes, key);
  }
}
