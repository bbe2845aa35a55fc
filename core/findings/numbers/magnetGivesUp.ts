import type { Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { keptOf, subjectOf } from '../view.ts';

export const magnetGivesUp: Mistake = {
  code: 'magnet-gives-up',
  title: 'a magnet that gives up within its reach',
  severity: 'breaks it',
  find: ({ level, forms }) =>
    forms.flatMap((form) => {
      const { magnet, name } = form.kind;
      if (magnet === null || magnet.giveUp >= magnet.reach) return [];
      return [
        {
          subject: subjectOf(form),
          at: `/kinds/${form.kindId}/magnet/giveUp`,
          where: { placements: form.placements },
          what: `${name} gives up within its own reach.`,
          why: `It begins at ${figure(magnet.reach, 'u')} and gives up beyond ${figure(magnet.giveUp, 'u')}: in between it begins and gives up at once.`,
          cause: [magnet.reach, magnet.giveUp],
          mend: {
            words: `let it give up at ${figure(1.5 * magnet.reach, 'u')}`,
            changes: keptOf(level, form, '/magnet/giveUp').map((path) => ({ path, value: 1.5 * magnet.reach })),
          },
        },
      ];
    }),
};
