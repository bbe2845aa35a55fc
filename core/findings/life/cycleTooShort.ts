import type { Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { keptOf, subjectOf } from '../view.ts';

export const cycleTooShort: Mistake = {
  code: 'cycle-too-short',
  title: 'a cycle that is on or off for less than a step',
  severity: 'breaks it',
  find: ({ level, forms }) =>
    forms.flatMap((form) => {
      const { cycle, name } = form.kind;
      if (cycle === null) return [];
      const least = 1 / level.rate;
      return (['on', 'off'] as const)
        .filter((part) => cycle[part] < least)
        .map((part) => ({
          subject: `${subjectOf(form)}/${part}`,
          at: `/kinds/${form.kindId}/cycle/${part}`,
          where: { placements: form.placements },
          what: `${name} is ${part} for less than a step.`,
          why: `A step lasts ${figure(Number(least.toFixed(4)), 's')} at ${figure(level.rate)} a second: ${figure(cycle[part], 's')} are taken for one step.`,
          cause: [cycle, level.rate],
          mend: {
            words: `let it be ${part} for half a second`,
            changes: keptOf(level, form, `/cycle/${part}`).map((path) => ({ path, value: 0.5 })),
          },
        }));
    }),
};
