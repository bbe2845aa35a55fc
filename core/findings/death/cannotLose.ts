import type { Mistake } from '../finding.ts';
import { counted } from '../saying.ts';
import { ends } from '../view.ts';

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
