import { entry, pointer } from '../document/pointers.ts';
import { kindOf, kindOfPlacement } from './resolve.ts';
import type { Amount, Condition, Effect } from '../document/rules.ts';
import type { Level, Meter } from '../document/schema.ts';

/** One number that a rescaling changes. */
export interface Rescaled {
  /** JSON Pointer into the level. */
  readonly path: string;
  readonly was: number;
  readonly now: number;
}

/** Where something within a kind, an item or the like is kept, by a pointer into it; null where it only follows another. */
type PlaceOf = (within: string) => string | null;

const under =
  (...path: readonly PropertyKey[]): PlaceOf =>
  (within) =>
    pointer(path) + within;

/** What a map of changes keeps: itself, or within a larger change. */
const changedIn =
  (path: readonly PropertyKey[], changes: Readonly<Record<string, unknown>>): PlaceOf =>
  (within) => {
    const key = Object.keys(changes).find((one) => one === within || within.startsWith(`${one}/`));
    return key === undefined ? null : pointer([...path, key]) + within.slice(key.length);
  };

interface Judged {
  readonly effects: Readonly<Record<string, Effect>>;
  readonly provided: Readonly<Record<string, Condition>>;
}

/**
 * All numbers that have to change so that a meter runs to another upper limit and everything that touches it weighs the
 * same: its limits, start and regeneration; amounts of effects, and curves of them; conditions and goals; starting states; health on
 * coming back. Shares of the limit stay. Of whole meters the numbers are rounded, amounts to no less than 1. Throws `RangeError`
 * for a meter that is not there, or has no upper limit to start from.
 */
export function rescaleMeter(level: Level, id: string, upper: number): readonly Rescaled[] {
  const meter = entry<Meter>(level.meters, id);
  if (meter?.upper == null || meter.upper === 0) throw new RangeError(`meter "${id}" has no upper limit to rescale from`);
  const factor = upper / meter.upper;
  const rescaled: Rescaled[] = [];
  const change = (path: string | null, was: number | null, least = -Infinity): void => {
    if (path === null || was === null || was === 0) return;
    const exact = was * factor;
    const now = meter.whole ? Math.max(least, Math.round(exact)) : Number(exact.toFixed(4));
    if (now !== was) rescaled.push({ path, was, now });
  };
  const amount = (placeOf: PlaceOf, at: string, of: Amount): void => {
    if (typeof of === 'number') change(placeOf(at), of, 1);
    else if ('points' in of) of.points.forEach(([, value], index) => change(placeOf(`${at}/points/${String(index)}/1`), value));
  };
  const rules = (placeOf: PlaceOf, map: Readonly<Record<string, Judged>>): void => {
    for (const [rule, { effects, provided }] of Object.entries(map)) {
      for (const [name, one] of Object.entries(effects)) {
        if (one.type !== 'meter' || one.meter !== id || one.change === 'fill') continue;
        amount(placeOf, pointer(['rules', rule, 'effects', name, 'amount']), one.amount);
      }
      for (const [name, one] of Object.entries(provided)) {
        if (one.type === 'meter' && one.meter === id) change(placeOf(pointer(['rules', rule, 'provided', name, 'value'])), one.value);
      }
    }
  };
  const own = under('meters', id);
  change(own('/lower'), meter.lower);
  change(own('/upper'), meter.upper);
  change(own('/start'), meter.start);
  change(own('/regeneration/perSecond'), meter.regeneration?.perSecond ?? null);
  for (const [kind, one] of Object.entries(level.kinds)) rules(under('kinds', kind), one.rules);
  for (const [kind, { changes }] of Object.entries(level.variants)) {
    rules(changedIn(['variants', kind, 'changes'], changes), kindOf(level, kind)?.rules ?? {});
  }
  for (const [placement, { own: values }] of Object.entries(level.placements)) {
    if (Object.keys(values).length === 0) continue;
    rules(changedIn(['placements', placement, 'own'], values), kindOfPlacement(level, placement)?.rules ?? {});
  }
  for (const [tag, one] of Object.entries(level.tagRules)) rules(under('tagRules', tag), one.rules);
  for (const [item, one] of Object.entries(level.items)) rules(under('items', item), one.rules);
  for (const [goal, one] of Object.entries(level.ends.goals)) {
    if (one.type === 'meter' && one.meter === id) change(pointer(['ends', 'goals', goal, 'value']), one.value);
  }
  for (const [name, { meters }] of Object.entries(level.tries)) {
    change(pointer(['tries', name, 'meters', id]), entry(meters, id) ?? null);
  }
  if (id === 'health') change('/death/health', level.death.health);
  return rescaled;
}
