import { apart } from '../../geometry/index.ts';
import { entry, inOrder, pointer, type Level } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { figure, quoted } from '../saying.ts';

type Goal = Level['ends']['goals'][string];

/** What somebody has of a goal as the session begins, and how much it asks for. */
interface Had {
  readonly had: string;
  readonly asks: string;
}

/** Null where that is too little. */
function hadAtStart(level: Level, goal: Goal): Had | null {
  switch (goal.type) {
    case 'meter': {
      const meter = entry(level.meters, goal.meter);
      if (meter === undefined || meter.start < goal.value) return null;
      return { had: `begins with ${figure(meter.start)} ${meter.name}`, asks: figure(goal.value) };
    }
    case 'item': {
      const item = entry(level.items, goal.item);
      if (item === undefined || item.start < goal.count) return null;
      return { had: `begins with ${figure(item.start)} ${item.name}`, asks: figure(goal.count) };
    }
    case 'reach': {
      const point = entry(level.points, goal.point);
      if (point === undefined) return null;
      const { starts, count } = level.players;
      const from = Array.from({ length: count }, (_, player) => entry(level.points, starts[player] ?? '') ?? level.start);
      const near = Math.min(...from.map((start) => apart(start, point)));
      if (near > goal.within) return null;
      return { had: `starts ${figure(near, 'u')} from ${quoted(point.name)}`, asks: `to be within ${figure(goal.within, 'u')}` };
    }
    case 'notice':
      return null;
  }
}

export const goalMetAtStart: Mistake = {
  code: 'goal-met-at-start',
  title: 'a goal that is met as the session begins',
  severity: 'breaks it',
  find: ({ level }) =>
    inOrder(level.ends.goals).flatMap(([id, goal]): Found[] => {
      const met = hadAtStart(level, goal);
      if (met === null) return [];
      return [
        {
          subject: id,
          at: pointer(['ends', 'goals', id]),
          what: 'The session is won as it begins.',
          why: `A player ${met.had}; the goal asks for ${met.asks}.`,
          cause: [goal, met],
          mend: null,
          ...(goal.type === 'reach' ? { where: { points: [goal.point] } } : {}),
        },
      ];
    }),
};
