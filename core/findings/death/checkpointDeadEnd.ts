import { entry, inOrder, type Level } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { around, reachFromStart, reachIn, type Reach } from '../reach/reach.ts';
import { counted } from '../saying.ts';
import type { EffectAt, LevelView } from '../view.ts';
import { landingName, landings, pointAt } from '../where.ts';

type Goal = Level['ends']['goals'][string];

/** Whether an effect brings one nearer to a goal. */
function serves({ effect, rate }: EffectAt, goal: Goal): boolean {
  switch (goal.type) {
    case 'item':
      return effect.type === 'item' && effect.item === goal.item && effect.count > 0;
    case 'meter':
      return effect.type === 'meter' && effect.meter === goal.meter && (rate || effect.change !== 'take');
    case 'notice':
      return effect.type === 'notice' && effect.notice === goal.notice;
    case 'reach':
      return false;
  }
}

/** Whether the level can be won by those who come so far. */
function canBeWon({ level, effects }: LevelView, { comesInto, comesBy }: Reach): boolean {
  const byMeter = (goal: Goal): boolean =>
    goal.type === 'meter' && (level.players.sharedScore || (entry(level.meters, goal.meter)?.regeneration?.perSecond ?? 0) > 0);
  const byLimit = (goal: Goal): boolean =>
    goal.type === 'notice' &&
    Object.values(level.meters).some(({ atLower, atUpper }) => atLower === goal.notice || atUpper === goal.notice);
  return (
    effects.some((one) => one.effect.type === 'end' && one.effect.how === 'won' && comesBy(one)) ||
    inOrder(level.ends.goals).some(([, goal]) => {
      if (goal.type === 'reach') {
        const point = entry(level.points, goal.point);
        return point !== undefined && comesInto(around(point, goal.within));
      }
      return byMeter(goal) || byLimit(goal) || effects.some((one) => serves(one, goal) && comesBy(one));
    })
  );
}

export const checkpointDeadEnd: Mistake = {
  code: 'checkpoint-dead-end',
  title: 'a checkpoint after which the level cannot be finished',
  severity: 'breaks it',
  find: (view) => {
    const { level, effects } = view;
    const from = reachIn(view);
    const start = reachFromStart(view);
    // Only who comes back at checkpoints is held by one.
    const holds = level.death.returns !== 'never' && level.death.returnTo.type === 'checkpoint';
    if (!holds || from === null || start === null || !canBeWon(view, start)) return [];
    const set = new Set(effects.flatMap(({ effect }) => (effect.type === 'checkpoint' && effect.point !== null ? [effect.point] : [])));
    const bells = effects.some(({ effect }) => effect.type === 'checkpoint' && effect.point === null);
    return landings(view).flatMap((landing): Found[] => {
      const isSet = landing.point === null ? bells && landing.at !== '/start' : set.has(landing.point);
      const after = isSet ? from([landing]) : null;
      if (after === null || canBeWon(view, after)) return [];
      const goals = Object.keys(level.ends.goals).length;
      return [
        {
          subject: landing.at,
          at: landing.at,
          where: { points: pointAt(landing), placements: landing.point === null ? [landing.name] : [] },
          what: `After the checkpoint ${landingName(landing)} the level cannot be finished.`,
          why: `Whoever comes back there finds no way to ${goals === 1 ? 'the goal' : `any of ${counted(goals, 'goal')}`} and can only give up.`,
          cause: [landing.x, landing.y, level.ends.goals],
        },
      ];
    });
  },
};
