import { entry } from './pointers.ts';

/** Compares two texts by code unit: the same everywhere, unlike any locale's order. */
export function compareText(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}

/** The entries of an id map by their order number, then by id. */
export function inOrder<Value extends { readonly order: number }>(map: Readonly<Record<string, Value>>): [string, Value][] {
  const known = ordered.get(map);
  if (known !== undefined) return [...known] as [string, Value][];
  const entries = sorted(map);
  if (Object.isFrozen(map)) ordered.set(map, entries);
  return Object.isFrozen(map) ? [...entries] : entries;
}

/** The order of maps that never change: an edit leaves most of them as they are. */
const ordered = new WeakMap<object, readonly [string, unknown][]>();

function sorted<Value extends { readonly order: number }>(map: Readonly<Record<string, Value>>): [string, Value][] {
  return Object.entries(map).sort(([idA, a], [idB, b]) => a.order - b.order || compareText(idA, idB));
}

/** The entries of a map that has no order of its own, by id. */
export function byId<Value>(map: Readonly<Record<string, Value>>): [string, Value][] {
  return Object.entries(map).sort(([a], [b]) => compareText(a, b));
}

/** The text of maps that never change, nor anything in them: of a document in which one dial is turned, all but a few. */
const texts = new WeakMap<object, string>();

/** JSON with sorted keys: equal documents give equal text, however they came to be. */
export function canonicalText(value: unknown): string {
  if (Array.isArray(value)) return '[' + value.map(canonicalText).join(',') + ']';
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  const known = texts.get(value);
  if (known !== undefined) return known;
  const map = value as Record<string, unknown>;
  const keys = Object.keys(map).sort(compareText);
  const text = '{' + keys.map((key) => JSON.stringify(key) + ':' + canonicalText(entry(map, key))).join(',') + '}';
  // Documents are frozen to the last part, or not at all.
  if (Object.isFrozen(map)) texts.set(map, text);
  return text;
}

/** The ids of a list with one put before another, or last. */
export function movedBefore(ids: readonly string[], id: string, before: string | null): string[] {
  const others = ids.filter((one) => one !== id);
  const at = before === null ? others.length : others.indexOf(before);
  return [...others.slice(0, at), id, ...others.slice(at)];
}

/**
 * The order numbers that must change for entries to stand in the order of `ids`, in which `moved` was put elsewhere: no
 * more than are no longer right.
 */
export function newOrders(
  ids: readonly string[],
  moved: string,
  orderOf: (id: string) => number,
): readonly (readonly [id: string, order: number])[] {
  const lowest = Math.min(0, ...ids.map(orderOf));
  let last = -Infinity;
  return ids.flatMap((id) => {
    const first = id === moved && last === -Infinity;
    const was = orderOf(id);
    const right = was > last && !first;
    last = right ? was : first ? lowest - 1 : last + 1;
    return right ? [] : [[id, last] as const];
  });
}
