import { entry } from './pointers.ts';

/** Compares two texts by code unit: the same everywhere, unlike any locale's order. */
export function compareText(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}

/** The entries of an id map by their order number, then by id. */
export function inOrder<Value extends { readonly order: number }>(map: Readonly<Record<string, Value>>): [string, Value][] {
  return Object.entries(map).sort(([idA, a], [idB, b]) => a.order - b.order || compareText(idA, idB));
}

/** The entries of a map that has no order of its own, by id. */
export function byId<Value>(map: Readonly<Record<string, Value>>): [string, Value][] {
  return Object.entries(map).sort(([a], [b]) => compareText(a, b));
}

/** JSON with sorted keys: equal documents give equal text, however they came to be. */
export function canonicalText(value: unknown): string {
  if (Array.isArray(value)) return '[' + value.map(canonicalText).join(',') + ']';
  if (typeof value === 'object' && value !== null) {
    const map = value as Record<string, unknown>;
    const keys = Object.keys(map).sort(compareText);
    return '{' + keys.map((key) => JSON.stringify(key) + ':' + canonicalText(entry(map, key))).join(',') + '}';
  }
  return JSON.stringify(value);
}
