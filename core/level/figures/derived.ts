import { inOrder } from '../document/order.ts';
import { entry } from '../document/pointers.ts';
import type { Effect, Rule } from '../document/rules.ts';
import type { Level, Meter } from '../document/schema.ts';
import type { Kind } from '../document/things.ts';

/** What the numbers of a rule come to. */
export type Derived =
  /** Blows, or seconds inside, from full health to death; Infinity where it comes back faster than it goes. */
  | { readonly type: 'hits to death'; readonly hits: number }
  | { readonly type: 'seconds to death'; readonly seconds: number }
  /** Most of a meter it can give in a minute, used whenever it is ready; Infinity where nothing holds it back. */
  | { readonly type: 'per minute'; readonly meter: string; readonly amount: number }
  /** Units further than without it, at full walk speed. */
  | { readonly type: 'distance gained'; readonly units: number }
  /** Share of time a change of movement can be in force, from 0 to 1. */
  | { readonly type: 'share of time'; readonly share: number };

/** Seconds from one use to the next at best; Infinity when there is only one. */
function secondsBetween({ becomes, uses, windUp, setOffBy }: Rule): number {
  if (becomes.type === 'spent' || uses !== null) return Infinity;
  const pulse = setOffBy.type === 'inside' && setOffBy.pulse !== null ? setOffBy.pulse.every : 0;
  return Math.max(pulse, (becomes.type === 'rests' ? becomes.seconds : 0) + (windUp?.seconds ?? 0));
}

function losing({ upper, regeneration }: Meter, start: number, amount: number, every: number | null): Derived {
  const full = upper ?? start;
  if (every === null) {
    // While it is being lost, a meter that pauses after a loss does not come back.
    const back = regeneration === null || regeneration.pauseAfterLoss > 0 ? 0 : regeneration.perSecond;
    return { type: 'seconds to death', seconds: amount > back ? full / (amount - back) : Infinity };
  }
  const between =
    regeneration === null || every === Infinity ? 0 : Math.max(0, every - regeneration.pauseAfterLoss) * regeneration.perSecond;
  if (amount >= full) return { type: 'hits to death', hits: 1 };
  // n blows with n − 1 times of coming back between them.
  return { type: 'hits to death', hits: amount > between ? Math.ceil((full - between) / (amount - between)) : Infinity };
}

function derived(level: Level, rule: Rule, effect: Effect): Derived[] {
  const rate = rule.setOffBy.type === 'inside' && rule.setOffBy.pulse === null;
  const between = secondsBetween(rule);
  if (effect.type === 'meter' && typeof effect.amount === 'number') {
    const meter = entry<Meter>(level.meters, effect.meter);
    if (meter === undefined) return [];
    if (effect.change === 'take' && effect.meter === 'health') {
      return [
        losing(
          { ...meter, upper: (meter.upper ?? meter.start) - meter.lower },
          meter.start - meter.lower,
          effect.amount,
          rate ? null : between,
        ),
      ];
    }
    if (effect.change !== 'add' || between === Infinity) return [];
    return [{ type: 'per minute', meter: effect.meter, amount: effect.amount * (rate ? 60 : between > 0 ? 60 / between : Infinity) }];
  }
  if (effect.type !== 'movement' || effect.lasts.type !== 'for') return [];
  const { seconds } = effect.lasts;
  const base = level.body.speed;
  const speed = effect.change === 'multiply' ? base * effect.value : effect.change === 'add' ? base + effect.value : effect.value;
  return [
    ...(effect.of === 'speed' ? [{ type: 'distance gained' as const, units: (Math.max(0, speed) - base) * seconds }] : []),
    ...(between === Infinity ? [] : [{ type: 'share of time' as const, share: between > seconds ? seconds / between : 1 }]),
  ];
}

/** What the numbers of a kind come to, rule by rule, for a player at full health and walk speed. */
export function derivedOf(level: Level, kind: Kind): readonly Derived[] {
  return inOrder(kind.rules).flatMap(([, rule]) => inOrder(rule.effects).flatMap(([, effect]) => derived(level, rule, effect)));
}
