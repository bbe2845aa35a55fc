import type { Persona } from '../../level/index.ts';

/** Numbers of a persona that can be read off plays. */
export const FITTED = ['haste', 'reaction', 'reactionSpread', 'aimError', 'healsBelow', 'patience', 'caution'] as const;
export type FittedField = (typeof FITTED)[number];

/** An estimate, and how many observations it rests on; null with too few to say anything. */
export interface Estimate {
  readonly value: number | null;
  readonly observations: number;
}

export type Fit = Readonly<Record<FittedField, Estimate>>;

/** A persona with the numbers that were fitted; what could not be told is as in another. */
export function fittedPersona(base: Persona, name: string, fit: Fit): Persona {
  const fitted = Object.fromEntries(FITTED.flatMap((field) => (fit[field].value === null ? [] : [[field, fit[field].value]])));
  return { ...base, ...fitted, name };
}
