import { entry, inOrder, pointer } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { around, reachFromStart } from '../reach/reach.ts';
import { figure, quoted } from '../saying.ts';
import { holds, wallsFor } from '../where.ts';
import type { EffectAt, LevelView } from '../view.ts';

/** How often the things of an effect's rule act at most in one session. */
function timesOf({ rule, item }: EffectAt): number {
  if (item !== null || rule === null) return Infinity;
  const { becomes, uses, setOffBy } = rule.rule;
  if (setOffBy.type === 'start') return rule.form.placements.length;
  const each = becomes.type === 'spent' ? 1 : (uses ?? Infinity);
  // One that is spawned may come again and again.
  return rule.form.placements.length === 0 ? Infinity : each * rule.form.placements.length;
}

/** The most of a meter that can be had. */
function mostOf({ level, effects }: LevelView, id: string): number {
  const meter = entry(level.meters, id);
  if (meter === undefined) return 0;
  let most = (meter.regeneration?.perSecond ?? 0) > 0 ? Infinity : meter.start;
  for (const one of effects) {
    const { effect } = one;
    if (effect.type === 'lives' && id === 'lives' && effect.count > 0) most += effect.count * timesOf(one);
    if (effect.type !== 'meter' || effect.meter !== id || effect.change === 'take') continue;
    if (effect.change !== 'add' || one.rate || typeof effect.amount !== 'number') most = Infinity;
    else most += effect.amount * timesOf(one);
  }
  return Math.min(meter.upper ?? Infinity, most);
}

function mostItems({ level, effects }: LevelView, id: string): number {
  const item = entry(level.items, id);
  if (item === undefined) return 0;
  let most = item.start;
  for (const one of effects)
    if (one.effect.type === 'item' && one.effect.item === id && one.effect.count > 0) most += one.effect.count * timesOf(one);
  return Math.min(item.most ?? Infinity, most);
}

export const goalOutOfReach: Mistake = {
  code: 'goal-out-of-reach',
  title: 'a goal that cannot be reached by what is in the level',
  severity: 'breaks it',
  find: (view) => {
    const { level, posted } = view;
    const many = level.players.count > 1 && level.players.sharedScore;
    return inOrder(level.ends.goals).flatMap(([id, goal]): Found[] => {
      const at = pointer(['ends', 'goals', id]);
      const lacking = (field: string, what: string, why: string, cause: unknown, to: number | null): Found[] => [
        {
          subject: id,
          at: `${at}/${field}`,
          what,
          why,
          cause: [goal, cause],
          mend: to === null || to <= 0 ? null : { words: `ask for ${figure(to)}`, changes: [{ path: `${at}/${field}`, value: to }] },
        },
      ];
      switch (goal.type) {
        case 'meter': {
          const most = many ? Infinity : mostOf(view, goal.meter);
          const name = entry(level.meters, goal.meter)?.name ?? goal.meter;
          if (most >= goal.value) return [];
          return lacking(
            'value',
            `The goal of ${figure(goal.value)} ${name} is out of reach.`,
            `All there is comes to ${figure(most)}.`,
            most,
            most,
          );
        }
        case 'item': {
          const most = mostItems(view, goal.item);
          const name = entry(level.items, goal.item)?.name ?? goal.item;
          if (most >= goal.count) return [];
          return lacking(
            'count',
            `The goal of ${figure(goal.count)} ${name} is out of reach.`,
            `No more than ${figure(most)} can be carried at once.`,
            most,
            most,
          );
        }
        case 'notice':
          if (posted.has(goal.notice)) return [];
          return lacking(
            'notice',
            `The goal waits for ${quoted(goal.notice)}, which nothing posts.`,
            'No rule, item or meter of this level posts it.',
            null,
            null,
          );
        case 'reach': {
          const point = entry(level.points, goal.point);
          const wall =
            point === undefined
              ? undefined
              : wallsFor(level).find(({ box }) =>
                  holds(
                    {
                      left: box.left + goal.within,
                      right: box.right - goal.within,
                      bottom: box.bottom + goal.within,
                      top: box.top - goal.within,
                    },
                    point.x,
                    point.y,
                  ),
                );
          if (point === undefined) return [];
          const reach = reachFromStart(view);
          const noWay = reach !== null && !reach.comesInto(around(point, goal.within));
          if (wall === undefined && !noWay) return [];
          return [
            {
              ...(lacking(
                'point',
                wall === undefined ? `No way leads to the goal ${quoted(point.name)}.` : `The goal ${quoted(point.name)} lies in a solid.`,
                `Nobody comes within ${figure(goal.within, 'u')} of it.`,
                [point, wall?.box ?? null],
                null,
              )[0] as Found),
              where: { points: [goal.point], solids: wall === undefined ? [] : [wall.id] },
            },
          ];
        }
      }
    });
  },
};
