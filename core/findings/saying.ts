import { plainNumber } from '../formats/index.ts';
import { entry, type Level } from '../level/index.ts';

/** What a meter is called. */
export const meterName = (level: Level, id: string): string => entry(level.meters, id)?.name ?? id;

export const quoted = (text: string): string => `“${text}”`;

/** So many of something: `1 thing`, `3 things`. */
export const counted = (count: number, one: string, many = `${one}s`): string => `${String(count)} ${count === 1 ? one : many}`;

export const figure = (value: number, unit = ''): string => `${plainNumber(value)}${unit === '' ? '' : ` ${unit}`}`;

/** Whether two words differ by one letter: another one, one more, one less, or two changed round. */
export function isNear(one: string, other: string): boolean {
  if (one === other || Math.abs(one.length - other.length) > 1) return false;
  if (one.toLowerCase() === other.toLowerCase()) return true;
  let from = 0;
  while (from < one.length && one[from] === other[from]) from += 1;
  let until = 0;
  while (until < Math.min(one.length, other.length) - from && one.at(-1 - until) === other.at(-1 - until)) until += 1;
  const [a, b] = [one.slice(from, one.length - until), other.slice(from, other.length - until)];
  return (a.length <= 1 && b.length <= 1) || (a.length === 2 && b.length === 2 && a[0] === b[1] && a[1] === b[0]);
}
