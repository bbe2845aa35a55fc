import type { Mistake } from '../finding.ts';
import { counted } from '../saying.ts';
import type { LevelView } from '../view.ts';

const ends = ({ effects }: LevelView, how: 'won' | 'lost'): boolean =>
  effects.some(({ effect }) => effect.type === 'end' && effect.how === how);

export const cannotLose: Mistake = {
  code: 'cannot-lose',
  title: 'a level with goals that nobody can lose',
  severity: 'worth a look',
  find: (view) => {
    const { level, effects, meters } = view;
    const goals = Object.keys(level.ends.goals).length;
    const dies = meters.get('health')?.lowered === true || effects.some(({ effect }) => effect.type === 'kill');
    const final = level.death.returns !== 'always';
    if (goals === 0 || level.ends.timeLimit !== null || ends(view, 'lost') || (dies && final)) return [];
    return [
      {
        subject: 'ends',
        at: '/ends',
        what: 'Nobody can lose.',
        why: `The level states ${counted(goals, 'goal')}, but ${dies ? 'death is never final' : 'nothing harms'}, there is no time limit, and no rule ends the session as lost.`,
        cause: [goals, dies, final],
      },
    ];
  },
};

export const cannotWin: Mistake = {
  code: 'cannot-win',
  title: 'a level with an end that nobody can win',
  severity: 'worth a look',
  find: (view) => {
    const { ends: stated } = view.level;
    const lost = stated.timeLimit !== null || ends(view, 'lost');
    if (!lost || Object.keys(stated.goals).length > 0 || ends(view, 'won')) return [];
    return [
      {
        subject: 'ends',
        at: '/ends/goals',
        what: 'Nobody can win.',
        why: `The level states how it ends${stated.timeLimit === null ? '' : `, by time after ${String(stated.timeLimit)} s`}, but it has no goal and no rule that ends it as won.`,
        cause: [stated.timeLimit, lost],
      },
    ];
  },
};
