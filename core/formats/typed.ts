import type { Level, Quantity } from '../level/index.ts';
import { dialText } from './numerals.ts';

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

/** What a number of a unit may be typed in, where that is more than the unit. */
const WAYS: Readonly<Record<string, string>> = { u: 'u or px', s: 's or f (frames)' };

/** A number typed with a suffix, in the unit of the dial; null when the suffix means nothing there. */
function inUnit(number: number, suffix: string, unit: string, scale: Level['scale'] | null): number | null {
  if (suffix === '' || suffix === unit.toLowerCase()) return number;
  if (scale === null) return null;
  const lengths: Readonly<Record<string, string>> = { px: 'u', 'px/s': 'u/s' };
  if (lengths[suffix] === unit) return clean(number * scale.unitsPerPixel);
  return suffix === 'f' && unit === 's' ? clean(number / scale.framesPerSecond) : null;
}

/** Why a number is not within what a dial may have; null when it is. */
function outside(value: number, { min, max, integer }: Allowed): string | null {
  if (!Number.isFinite(value)) return 'not a number';
  if (value < min) return `at least ${dialText(min)}`;
  if (integer === true && !Number.isInteger(value)) return 'only whole numbers';
  return value > max ? `at most ${dialText(max)}` : null;
}

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
  const value = inUnit(number, suffix, range.unit, scale);
  if (value === null) {
    const ways = WAYS[range.unit] ?? (range.unit === '' ? 'no unit' : range.unit);
    return { ok: false, why: `“${match[2] ?? ''}” is not a unit of this number; it takes ${ways}` };
  }
  const why = outside(value, range);
  if (why !== null) return { ok: false, why };
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
