import type { Mistake } from '../finding.ts';
import { ends } from '../view.ts';

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
