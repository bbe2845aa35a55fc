import type { Level } from '@dial/core/level';

/** How many values differ between two documents, counted leaf by leaf. */
export function numbersOff(a: Level, b: Level): number {
  const count = (left: unknown, right: unknown): number => {
    if (Object.is(left, right)) return 0;
    if (typeof left !== 'object' || typeof right !== 'object' || left === null || right === null) return 1;
    const [one, other] = [left as Record<string, unknown>, right as Record<string, unknown>];
    return [...new Set([...Object.keys(one), ...Object.keys(other)])].reduce((sum, key) => sum + count(one[key], other[key]), 0);
  };
  return count(a, b);
}
