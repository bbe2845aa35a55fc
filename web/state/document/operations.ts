import type { Quantity } from '@dial/core/level';

export const OPERATIONS = ['set to', 'add', 'multiply by'] as const;
/** What can be done to many numbers at once. */
export type Operation = (typeof OPERATIONS)[number];

/** What an operation makes of a value, without the tails of binary fractions. */
export function operated(operation: Operation, value: number, by: number, range: Pick<Quantity, 'integer'>): number {
  const made = operation === 'set to' ? by : operation === 'add' ? value + by : value * by;
  return range.integer === true && operation === 'multiply by' ? Math.round(made) : Number(made.toFixed(6));
}
