import type { Level, Quantity } from '../level/index.ts';

/** A number for a dial's field: at most four decimals, none that say nothing. */
export const dialText = (value: number): string => String(Number(value.toFixed(4))).replace('-', '−');

/** Why what was typed is not taken, and what stands there still. An emptied field says what it wants. */
export function refusedWords(typed: string, why: string, value: number): string {
  const stays = `It stays at ${dialText(value)}.`;
  return typed.trim() === ''
    ? `A number is wanted here, such as ${dialText(value)}. ${stays}`
    : `“${typed.trim()}” was refused: ${why}. ${stays}`;
}

/** What may stand at a place: unit and limits. */
type Allowed = Pick<Quantity, 'unit' | 'min' | 'max' | 'integer'>;

/** `doubt` says why a number is hardly meant, though it may stand; null when there is no doubt. */
type Typed = { readonly ok: true; readonly value: number; readonly doubt: string | null } | { readonly ok: false; readonly why: string };

/** A product without the last digits that binary fractions leave: 0.4 × 0.05 is 0.02. */
const clean = (value: number): number => Number(value.toPrecision(12));

/**
 * Reads what was typed into a dial: a number, with or without its unit, or as `32px` or `90f` where that means something.
 * The sign the dial writes before its number may be left standing: −14 typed over −12 is fourteen to take.
 */
export function readTyped(typed: string, range: Allowed, scale: Level['scale'] | null, sign = ''): Typed {
  const trimmed = typed.trim().replace(/^-/, '−');
  const text = sign !== '' && trimmed.startsWith(sign) ? trimmed.slice(sign.length) : trimmed;
  const match = /^\s*([+\-−]?\s*(?:\d+[.,]?\d*|[.,]\d+))\s*([^\d\s]*)\s*$/.exec(text);
  if (match === null) return { ok: false, why: 'not a number' };
  const number = Number((match[1] ?? '').replace(/\s/g, '').replace('−', '-').replace(',', '.'));
  const suffix = (match[2] ?? '').toLowerCase();
  const known = new Set(['', range.unit.toLowerCase()]);
  let value = number;
  if (scale !== null && suffix === 'px' && range.unit === 'u') value = clean(number * scale.unitsPerPixel);
  else if (scale !== null && suffix === 'px/s' && range.unit === 'u/s') value = clean(number * scale.unitsPerPixel);
  else if (scale !== null && suffix === 'f' && range.unit === 's') value = clean(number / scale.framesPerSecond);
  else if (!known.has(suffix)) {
    const ways = range.unit === 'u' ? 'u or px' : range.unit === 's' ? 's or f (frames)' : range.unit === '' ? 'no unit' : range.unit;
    return { ok: false, why: `“${match[2] ?? ''}” is not a unit of this number; it takes ${ways}` };
  }
  if (!Number.isFinite(value)) return { ok: false, why: 'not a number' };
  if (value < range.min) return { ok: false, why: `at least ${dialText(range.min)}` };
  if (range.integer === true && !Number.isInteger(value)) return { ok: false, why: 'only whole numbers' };
  if (value > range.max) return { ok: false, why: `at most ${dialText(range.max)}` };
  const part = value !== number && number !== 0 && Math.abs(number) < 1;
  const doubt = part ? `${dialText(number)} ${suffix} is ${dialText(value)} ${range.unit}, less than one` : null;
  return { ok: true, value, doubt };
}

/** Reads a number out of a table: as it is typed, but never guessed where a comma could part thousands or decimals. */
export function readNumber(text: string, range: Allowed, scale: Level['scale'] | null, sign = ''): Typed {
  if (text.startsWith('=')) return { ok: false, why: 'a formula; only numbers are read' };
  if (/^[+\-−]?\d{1,3}(,\d{3})+(\.\d+)?$/.test(text.trim())) {
    return { ok: false, why: `“${text}” could be read two ways; write it without the comma` };
  }
  // Exponents, which spreadsheets write; anything that is not finite is refused by the limits.
  const plain = Number(text);
  const decimal = /^[+-]?[\d.]+e[+-]?\d+$/i.test(text) && Number.isFinite(plain) ? plain.toFixed(12) : text;
  return readTyped(decimal, range, scale, sign);
}
