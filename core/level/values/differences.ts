import { compareText } from '../document/order.ts';
import { entry, pointer } from '../document/pointers.ts';

/** One place in which two levels differ. A value of undefined: there is none. */
export interface Difference {
  /** JSON Pointer. */
  readonly path: string;
  readonly was: unknown;
  readonly now: unknown;
}

const isMap = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Whether two documents say the same, whatever the order of their keys. */
export function same(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((one, index) => same(one, b[index]));
  if (!isMap(a) || !isMap(b)) return false;
  const keys = Object.keys(a);
  return keys.length === Object.keys(b).length && keys.every((key) => Object.hasOwn(b, key) && same(a[key], b[key]));
}

/**
 * Where two documents differ, in the order of their keys: the values themselves; of what came or went the whole entry, of
 * short lists such as the points of a curve the whole list.
 */
export function differencesOf(was: unknown, now: unknown): readonly Difference[] {
  return compare(was, now, null);
}

/** A key on the way to a value, and the way to the map it is in. */
interface Way {
  readonly key: string;
  readonly before: Way | null;
}

const keysOf = (way: Way | null): string[] => (way === null ? [] : [...keysOf(way.before), way.key]);

/** Differences in the order of their keys; only what differs is put in order. */
function compare(was: unknown, now: unknown, way: Way | null): readonly Difference[] {
  if (Object.is(was, now)) return NONE;
  if (!isMap(was) || !isMap(now)) return same(was, now) ? NONE : [{ path: pointer(keysOf(way)), was, now }];
  const found: [string, readonly Difference[]][] = [];
  const look = (key: string): void => {
    const within = compare(entry(was, key), entry(now, key), { key, before: way });
    if (within.length > 0) found.push([key, within]);
  };
  for (const key of Object.keys(was)) look(key);
  for (const key of Object.keys(now)) if (!Object.hasOwn(was, key)) look(key);
  found.sort(([a], [b]) => compareText(a, b));
  return found.flatMap(([, within]) => within);
}

const NONE: readonly Difference[] = [];
