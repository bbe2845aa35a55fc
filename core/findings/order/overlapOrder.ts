import type { Box } from '../../geometry/index.ts';
import { canonicalText, type Condition, type Effect, type Level } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import type { Trial } from '../trial.ts';
import { isTouched, takesPlayer, type Form, type LevelView, type Thing } from '../view.ts';
import { hullOf, meets } from '../where.ts';
import { bothOrders } from './bothOrders.ts';

/** So many pairs are tried, and of the same two kinds so many. */
const [MOST_TRIED, OF_A_SORT] = [24, 1];
/** Everything a player has is at stake. */
const ALL = '*';

/** What of a player an effect changes; null: nothing that another could come before. */
function changed(effect: Effect): string | null {
  switch (effect.type) {
    case 'meter':
      return `meter ${effect.meter}`;
    case 'item':
      return `item ${effect.item}`;
    case 'lives':
      return 'meter lives';
    case 'kill':
    case 'move':
    case 'shield':
      return ALL;
    default:
      return null;
  }
}

/** What of a player a condition asks for; null: nothing that an effect of another thing changes. */
function asked(condition: Condition): string | null {
  if (condition.type === 'meter' || condition.type === 'below limit') return `meter ${condition.meter}`;
  return condition.type === 'item' ? `item ${condition.item}` : null;
}

interface Stake {
  readonly changes: ReadonlySet<string>;
  readonly asks: ReadonlySet<string>;
}

function stakeOf(view: LevelView, { kind }: Form): Stake {
  const rules = Object.values(kind.rules).filter((rule) => isTouched(rule) && takesPlayer(view, rule));
  return {
    changes: new Set(rules.flatMap(({ effects }) => Object.values(effects).flatMap((effect) => changed(effect) ?? []))),
    asks: new Set(rules.flatMap(({ provided }) => Object.values(provided).flatMap((condition) => asked(condition) ?? []))),
  };
}

/** Whether what one does may be other for what another has done before. */
function mayConcern(one: Stake, other: Stake): boolean {
  if (one.changes.size === 0 || other.changes.size === 0) return false;
  const all = one.changes.has(ALL) || other.changes.has(ALL);
  return (
    all ||
    [...one.changes].some((what) => other.changes.has(what) || other.asks.has(what)) ||
    [...one.asks].some((what) => other.changes.has(what))
  );
}

function pairsIn(view: LevelView): [Thing, Thing][] {
  const stakes = new Map(view.forms.map((form) => [form, stakeOf(view, form)]));
  const stake = ({ form }: Thing): Stake => stakes.get(form) ?? { changes: new Set(), asks: new Set() };
  const still = view.things
    .filter((thing) => !thing.moves && thing.box !== null && stake(thing).changes.size > 0)
    .sort((a, b) => (a.box as Box).left - (b.box as Box).left);
  const tried = new Map<string, number>();
  const pairs: [Thing, Thing][] = [];
  still.forEach((one, at) => {
    for (let next = at + 1; next < still.length && pairs.length < MOST_TRIED; next += 1) {
      const other = still[next] as Thing;
      if ((other.box as Box).left > (one.box as Box).right) break;
      if (!meets(one.box as Box, other.box as Box) || !mayConcern(stake(one), stake(other))) continue;
      const sort = [view.forms.indexOf(one.form), view.forms.indexOf(other.form)].sort((a, b) => a - b).join(' ');
      const times = tried.get(sort) ?? 0;
      if (times >= OF_A_SORT) continue;
      tried.set(sort, times + 1);
      pairs.push([one, other]);
    }
  });
  return pairs;
}

/** By how much meters may differ only because a rate stops at a limit in this step or in the next. */
function unsaidOf({ level, effects }: LevelView): number {
  const rates = effects.flatMap(({ effect, rate }) =>
    rate && effect.type === 'meter' && typeof effect.amount === 'number' ? [effect.amount] : [],
  );
  return (2 * Math.max(0, ...rates)) / level.rate + 0.01;
}

/** Walks into where two boxes overlap, stays a second, and walks on. */
function walkInto({ size, view, body, rate }: Level, one: Box, other: Box): (trial: Trial) => void {
  const hull = hullOf({ view, body } as Level);
  const left = Math.min(one.left, other.left) - hull.x - 0.5;
  const right = Math.max(one.right, other.right) + hull.x + 0.5;
  const way = left >= hull.x ? 1 : right <= size.width - hull.x ? -1 : 0;
  const [low, high] = [Math.max(one.bottom, other.bottom), Math.min(one.top, other.top)];
  const middle = (Math.max(one.left, other.left) + Math.min(one.right, other.right)) / 2;
  const y = view === 'side' ? low + hull.y : (low + high) / 2;
  return (trial) => {
    trial.begin(way === 0 ? middle : way > 0 ? left : right, y);
    for (let step = 0; step < 4 * rate && way !== 0 && (middle - trial.at().x) * way > 0; step += 1) trial.step(way);
    trial.go(1);
    trial.go(0.5, way);
  };
}

export const overlapOrder: Mistake = {
  code: 'overlap-order',
  title: 'things that overlap, where the order of placements decides',
  severity: 'probably not meant',
  find: (view) => {
    const { level } = view;
    const pairs = pairsIn(view);
    if (pairs.length === 0) return [];
    const unsaid = unsaidOf(view);
    // From above nothing but the things matters; from the side one needs something to stand on.
    const more = level.view === 'top' ? { solids: {} } : {};
    const orders = bothOrders(level, new Set(pairs.flatMap((pair) => pair.map(({ id }) => id))), more, unsaid);
    return pairs.flatMap(([one, other]): Found[] => {
      const differs = orders.differ(walkInto(level, one.box as Box, other.box as Box));
      if (differs === null) return [];
      const [a, b] = [one, other].sort((p, q) => (p.id < q.id ? -1 : 1)) as [Thing, Thing];
      return [
        {
          subject: `${a.id}/${b.id}`,
          at: `/placements/${b.id}`,
          where: { placements: [a.id, b.id] },
          what: `Where ${a.form.kind.name} and ${b.form.kind.name} overlap, their order decides.`,
          why: `Both act in the same step, in the order of placements. Walked into, the one order or the other comes to ${differs}.`,
          cause: [one.box, other.box, canonicalText(one.form.kind.rules), canonicalText(other.form.kind.rules)],
        },
      ];
    });
  },
};
