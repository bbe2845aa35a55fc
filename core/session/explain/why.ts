import { bodyOutline, gapBetween, outlineOf, valueIn } from '../../geometry/index.ts';
import { entry, inOrder, kindOfPlacement, type Condition, type Effect, type Kind, type Rule } from '../../level/index.ts';
import { phaseReason, wornOut } from '../rules/acting.ts';
import { holds, speedOf } from '../rules/conditions.ts';
import { LIFE, MOVEMENT, PHASES, type PhaseName } from '../compile/codes.ts';
import { itemThatStops } from '../rules/items.ts';
import { NONE } from '../state/lines.ts';
import { cellOf } from '../rules/meters.ts';
import { isChanged } from '../rules/modifiers.ts';
import { timesUsed } from '../rules/phases.ts';
import { idOf, placementOf } from '../state/naming.ts';
import type { Session } from '../state/running.ts';
import { CLOCK, NEVER } from '../state/state.ts';
import { countingSlot, distanceTo, exists, phaseFor, placeX, placeY } from '../state/things.ts';

/** One test that a rule makes before it acts, with the value it saw. */
export type RuleTest = { readonly passed: boolean } & (
  | { readonly test: 'there' }
  | { readonly test: 'alive' }
  /** How far the player is from touching it, or, for use, from its reach. Units; 0: it does. */
  | { readonly test: 'touching'; readonly distance: number; readonly reach: number | null }
  | { readonly test: 'who'; readonly tags: readonly string[] }
  | { readonly test: 'accepted' }
  | { readonly test: 'phase'; readonly phase: PhaseName; readonly secondsLeft: number | null }
  /** An item effect that refuses what does not fit would not fit: the rule is refused as a whole. */
  | { readonly test: 'fits'; readonly item: string; readonly gives: boolean }
  | { readonly test: 'condition'; readonly condition: Condition; readonly saw: number | boolean | null }
  /** What would keep an effect from doing anything, although the rule acts. */
  | {
      readonly test: 'effect';
      readonly effect: Effect;
      readonly stopped: 'no player' | 'not inside' | 'grace' | 'shield' | 'carry limit' | 'empty' | 'full';
      readonly secondsLeft: number | null;
    }
);

export interface RuleTests {
  readonly rule: string;
  /** How it is set off. */
  readonly setOffBy: Rule['setOffBy']['type'];
  readonly tests: readonly RuleTest[];
}

const kindAt = (session: Session, placement: number): Kind | undefined => {
  const id = idOf(session, placement);
  return id === null ? undefined : kindOfPlacement(session.compiled.level, id);
};

/** How far a player is from touching a thing, or only one of its shapes, as they lie when it has not turned. Units; Infinity where there is nothing to touch. */
export function distanceToTouch(session: Session, player: number, placement: number, only: string | null = null): number {
  const { compiled, state } = session;
  if (!exists(session, placement)) return Infinity;
  const [x, y] = [valueIn(state.playerX, player), valueIn(state.playerY, player)];
  const { body, view } = compiled.level;
  const own = bodyOutline(view, body, x, y);
  const all = kindAt(session, placement)?.shapes ?? {};
  const shapes = Object.entries(all).flatMap(([id, shape]) => (only === null || id === only ? [shape] : []));
  return Math.min(
    Infinity,
    ...shapes.map((shape) => gapBetween(own, outlineOf(shape, placeX(session, placement), placeY(session, placement)))),
  );
}

/** A distance that `distanceToTouch` does not come below, quickly told. Units. */
export function leastDistanceToTouch(session: Session, player: number, placement: number): number {
  const { compiled, state } = session;
  if (!exists(session, placement)) return Infinity;
  return distanceTo(session, player, placement) - compiled.bodyReach - valueIn(compiled.forms.reach, valueIn(state.form, placement));
}

/** The value a condition is about, as it is now; null for chance. */
function seen(session: Session, condition: Condition, rule: number, player: number, placement: number): number | boolean | null {
  const { compiled, state } = session;
  const { ids } = compiled;
  switch (condition.type) {
    case 'below limit':
    case 'meter':
    case 'share':
      return valueIn(state.meter, cellOf(session, player, ids.meters.indexOf(condition.meter)));
    case 'item':
      return valueIn(state.items, player * ids.items.length + ids.items.indexOf(condition.item));
    case 'held':
      return state.held[player] === ids.items.indexOf(condition.item);
    case 'movement':
      return isChanged(session, player, MOVEMENT[condition.of]);
    case 'speed':
      return speedOf(session, player);
    case 'ground':
      return valueIn(state.floor, player) >= 0;
    case 'chance':
      return null;
    case 'times used':
      return timesUsed(session, placement, rule, player);
    case 'time':
      return valueIn(state.clock, CLOCK.step) * compiled.stepSeconds;
    case 'notice':
      return valueIn(state.noticed, ids.notices.indexOf(condition.notice)) > 0;
  }
}

/** Whether a rule would be refused since its items do not fit. */
function fitting(session: Session, player: number, rule: number): RuleTest[] {
  const { rules, effects, ids } = session.compiled;
  const effect = rules.hitsAll[rule] === 1 ? NONE : itemThatStops(session, player, rule);
  if (effect === NONE) return [];
  return [
    { test: 'fits', passed: false, item: ids.items[valueIn(effects.subject, effect)] ?? '', gives: valueIn(effects.value, effect) > 0 },
  ];
}

/** Effects that happen whoever is there. */
const NEEDS_NOBODY: ReadonlySet<Effect['type']> = new Set<Effect['type']>(['notice', 'spawn', 'end', 'flourish']);

type Stopped = Extract<RuleTest, { test: 'effect' }>['stopped'];

/** Which limit keeps an effect from doing anything to a player now; null when none does. */
function atLimit(session: Session, effect: Effect, player: number): Stopped | null {
  const { compiled, state } = session;
  const { level, ids } = compiled;
  if (effect.type === 'meter' && (effect.change === 'add' || effect.change === 'fill')) {
    const upper = entry(level.meters, effect.meter)?.upper ?? null;
    const value = valueIn(state.meter, cellOf(session, player, ids.meters.indexOf(effect.meter)));
    return upper !== null && value >= upper ? 'full' : null;
  }
  // One that refuses what does not fit stops the whole rule, which is a test of its own.
  if (effect.type !== 'item' || effect.atLimit !== 'take what fits') return null;
  const carried = valueIn(state.items, player * ids.items.length + ids.items.indexOf(effect.item));
  const most = entry(level.items, effect.item)?.most ?? null;
  if (effect.count > 0 && most !== null && carried >= most) return 'carry limit';
  return effect.count < 0 && carried === 0 ? 'empty' : null;
}

/** What would keep the effects of a rule from doing anything to a player now; `unmet`: it would not hit the player at all. */
function stoppedEffects(
  session: Session,
  effects: readonly Effect[],
  player: number,
  unmet: 'no player' | 'not inside' | null,
): RuleTest[] {
  const { compiled, state } = session;
  const now = valueIn(state.clock, CLOCK.step);
  const left = (until: number): number => (until - now) / compiled.rate;
  const [grace, shield] = [left(valueIn(state.graceUntil, player)), left(valueIn(state.shieldUntil, player))];
  return effects.flatMap((effect): RuleTest[] => {
    const stopped = (why: Stopped, secondsLeft: number | null = null): RuleTest[] => [
      { test: 'effect', passed: false, effect, stopped: why, secondsLeft },
    ];
    if (unmet !== null && !NEEDS_NOBODY.has(effect.type)) return stopped(unmet);
    const harms = effect.type === 'kill' || (effect.type === 'meter' && effect.change === 'take' && effect.meter === 'health');
    if (harms && grace > 0) return stopped('grace', grace);
    if ((effect.type === 'kill' || effect.type === 'meter') && harms && effect.blockable && shield > 0) return stopped('shield', shield);
    const limit = atLimit(session, effect, player);
    return limit === null ? [] : stopped(limit);
  });
}

/**
 * Every test that the rules of a thing would make of a player at this moment of a session, in the order they are made,
 * each with what it saw. Nothing of the session changes. `player` counts from 0. Throws `RangeError` for a thing that is not there.
 */
export function whyNot(session: Session, player: number, placementId: string): readonly RuleTests[] {
  const { compiled, state } = session;
  const placement = placementOf(session, placementId);
  const kind = kindOfPlacement(compiled.level, placementId);
  if (kind === undefined) throw new RangeError(`there is no placement "${placementId}"`);
  if (placement < 0) return [{ rule: '', setOffBy: 'arriving', tests: [{ test: 'there', passed: false }] }];
  const form = valueIn(state.form, placement);
  const phase = phaseFor(session, placement, player);
  const slot = countingSlot(session, placement, player);
  const cycled = state.cycledOff[placement] === 1;
  const due = (cycled ? state.cycleDue[placement] : state.phaseDue[slot]) as number;
  const secondsLeft = due === NEVER ? null : (due - valueIn(state.clock, CLOCK.step)) / compiled.rate;
  const gap = distanceToTouch(session, player, placement);
  const tags = [...compiled.level.body.tags, ...(compiled.level.players.tags[player] ?? [])];
  const { ruleStart } = compiled.forms;
  const numbers = Array.from({ length: valueIn(ruleStart, form + 1) - valueIn(ruleStart, form) }, (_, at) => valueIn(ruleStart, form) + at);
  return numbers.map((rule): RuleTests => {
    const id = compiled.ids.rules[rule]?.rule ?? '';
    const document = entry(kind.rules, id);
    const setOffBy = document?.setOffBy.type ?? 'arriving';
    const byContact = setOffBy === 'arriving' || setOffBy === 'inside' || setOffBy === 'leaving';
    const reach = document?.setOffBy.type === 'use' ? document.setOffBy.reach : null;
    const [x, y] = [
      valueIn(state.playerX, player) - placeX(session, placement),
      valueIn(state.playerY, player) - placeY(session, placement),
    ];
    const own = document?.touching == null ? gap : distanceToTouch(session, player, placement, document.touching);
    const byNobody = setOffBy === 'every' || setOffBy === 'start';
    const unmet = document?.hits === 'all inside' ? (own > 0 ? 'not inside' : null) : byNobody ? 'no player' : null;
    const distance = reach === null ? own : Math.max(0, Math.sqrt(x * x + y * y) - reach);
    const conditionStart = valueIn(compiled.rules.conditionStart, rule);
    const conditions = document === undefined ? [] : inOrder(document.provided);
    const refusedBy = phaseReason(session, placement, rule, phase);
    return {
      rule: id,
      setOffBy,
      tests: [
        ...(byContact || reach !== null ? [{ test: 'touching' as const, passed: distance <= 0, distance, reach }] : []),
        { test: 'who', passed: compiled.rules.accepts[rule * compiled.classCount + player] === 1, tags },
        ...(compiled.forms.accepted[form] === 1 ? [] : [{ test: 'accepted' as const, passed: false }]),
        {
          test: 'phase',
          passed: refusedBy === NONE && !wornOut(session, placement, rule, player),
          phase: PHASES[phase] ?? 'ready',
          secondsLeft,
        },
        ...(state.life[player] === LIFE.alive ? [] : [{ test: 'alive' as const, passed: false }]),
        ...conditions.map(([, condition], at): RuleTest => ({
          test: 'condition',
          passed: holds(session, conditionStart + at, rule, player, placement, false),
          condition,
          saw: seen(session, condition, rule, player, placement),
        })),
        ...fitting(session, player, rule),
        ...stoppedEffects(session, document === undefined ? [] : inOrder(document.effects).map(([, effect]) => effect), player, unmet),
      ],
    };
  });
}
