import { onGrain } from '@dial/core/level';
/** What a dial needs to know of its number. */
export interface DialRange {
  readonly unit: string;
  readonly min: number;
  readonly max: number;
  readonly low: number;
  readonly high: number;
  readonly step: number;
}

/** Decimals that a step of this size needs. */
export function decimals(step: number): number {
  const text = String(step);
  const point = text.indexOf('.');
  return point < 0 ? 0 : text.length - point - 1;
}

/** Rounds to a multiple of the step, without the tails of binary fractions. */
export function snap(value: number, step: number): number {
  return onGrain(value, step, decimals(step));
}

export const clamp = (value: number, range: DialRange): number => Math.max(range.min, Math.min(range.max, value));
