import { byId } from '../document/order.ts';
import { pointer } from '../document/pointers.ts';

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
  const found: Difference[] = [];
  const compare = (a: unknown, b: unknown, way: readonly string[]): void => {
    if (Object.is(a, b)) return;
    if (isMap(a) && isMap(b)) {
      for (const [key] of byId({ ...a, ...b })) compare(a[key], b[key], [...way, key]);
    } else if (!same(a, b)) found.push({ path: pointer(way), was: a, now: b });
  };
  compare(was, now, []);
  return found;
}
