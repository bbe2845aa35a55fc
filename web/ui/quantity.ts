/** What a dial needs to know of its number. */
export interface DialRange {
  readonly unit: string;
  readonly min: number;
  readonly max: number;
  readonly low: number;
  readonly high: number;
  readonly step: number;
}

/** How the game this level stands for measures: for typing px and frames. */
export interface GameScale {
  readonly unitsPerPixel: number;
  readonly framesPerSecond: number;
}

/** Decimals that a step of this size needs. */
export function decimals(step: number): number {
  const text = String(step);
  const point = text.indexOf('.');
  return point < 0 ? 0 : text.length - point - 1;
}

/** Rounds to a multiple of the step, without the tails of binary fractions. */
export function snap(value: number, step: number): number {
  return Number((Math.round(value / step) * step).toFixed(decimals(step)));
}

export const clamp = (value: number, range: DialRange): number => Math.max(range.min, Math.min(range.max, value));

/** A number for a dial's field: at most four decimals, none that say nothing. */
export const dialText = (value: number): string => String(Number(value.toFixed(4))).replace('-', '−');

type Typed = { readonly ok: true; readonly value: number } | { readonly ok: false; readonly why: string };

/**
 * Reads what was typed into a dial: a number, with or without its unit, or as `32px` or `90f` where that means something.
 * The sign the dial writes before its number may be left standing: −14 typed over −12 is fourteen to take.
 */
export function readTyped(typed: string, range: DialRange, scale: GameScale | null, sign = ''): Typed {
  const trimmed = typed.trim().replace(/^-/, '−');
  const text = sign !== '' && trimmed.startsWith(sign) ? trimmed.slice(sign.length) : trimmed;
  const match = /^\s*([+\-−]?\s*(?:\d+[.,]?\d*|[.,]\d+))\s*([^\d\s]*)\s*$/.exec(text);
  if (match === null) return { ok: false, why: 'not a number' };
  const number = Number((match[1] ?? '').replace(/\s/g, '').replace('−', '-').replace(',', '.'));
  const suffix = (match[2] ?? '').toLowerCase();
  const known = new Set(['', range.unit.toLowerCase()]);
  let value = number;
  if (scale !== null && suffix === 'px' && range.unit === 'u') value = number * scale.unitsPerPixel;
  else if (scale !== null && suffix === 'px/s' && range.unit === 'u/s') value = number * scale.unitsPerPixel;
  else if (scale !== null && suffix === 'f' && range.unit === 's') value = number / scale.framesPerSecond;
  else if (!known.has(suffix)) {
    const ways = range.unit === 'u' ? 'u or px' : range.unit === 's' ? 's or f (frames)' : range.unit === '' ? 'no unit' : range.unit;
    return { ok: false, why: `“${match[2] ?? ''}” is not a unit of this number; it takes ${ways}` };
  }
  if (!Number.isFinite(value)) return { ok: false, why: 'not a number' };
  if (value < range.min) return { ok: false, why: `at least ${dialText(range.min)}` };
  if (value > range.max) return { ok: false, why: `at most ${dialText(range.max)}` };
  return { ok: true, value };
}
