import { z } from 'zod';
import { fieldAt, levelFields, valueAt, type Level, type Quantity } from '../../level/index.ts';

/** A dial that a study turns: JSON Pointers of where its value is kept, in one place or in several at once. */
export const DialAt = z.strictObject({ paths: z.array(z.string().max(400)).min(1).max(5000) });
export type DialAt = z.infer<typeof DialAt>;

/** What a number of the level is and what limits it has; null: there is no number there. */
export function numberAtPath(level: Level, path: string): { readonly value: number; readonly quantity: Quantity } | null {
  const value = valueAt(level, path);
  const field = fieldAt(levelFields(), level, path);
  const number = field?.type === 'maybe' ? field.of : field;
  const leaf = number?.type === 'either' ? number.options.find(({ type }) => type === 'number') : number;
  return typeof value === 'number' && leaf?.type === 'number' ? { value, quantity: leaf.quantity } : null;
}

/** What a dial is and stands at; null: the level has it no more. */
export const dialIn = (level: Level, { paths: [path] }: DialAt) => numberAtPath(level, path ?? '');

/** More values than this of one dial say no more. */
export const MOST_VALUES = 200;

/** The values from one to another, in steps; the last is the one that is reached. Rounded to what the step shows. */
export function valuesFrom(from: number, to: number, step: number): number[] {
  const count = Math.floor((to - from) / step + 1e-9) + 1;
  return Array.from({ length: Math.max(0, Math.min(MOST_VALUES + 1, count)) }, (_, nth) => Number((from + nth * step).toFixed(9)));
}
