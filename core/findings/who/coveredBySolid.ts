import { boxAround } from '../../level/index.ts';
import type { Mistake } from '../finding.ts';
import { isTouched, keptOf, subjectOf } from '../view.ts';

export const coveredBySolid: Mistake = {
  code: 'covered-by-solid',
  title: 'the solid box of a kind keeps everybody off its sensing shapes',
  severity: 'breaks it',
  find: ({ level, forms }) =>
    forms.flatMap((form) => {
      const { solid, shapes, phases, rules, name } = form.kind;
      const around = boxAround({ shapes });
      if (solid === null || around === null || solid.sides.length < 4 || !phases.ready.solid) return [];
      if (!Object.values(rules).some(isTouched)) return [];
      const within = (at: number, half: number, own: number, ownHalf: number): boolean => Math.abs(own - at) + ownHalf < half - 1e-4;
      if (!within(solid.x, solid.width / 2, around.x, around.width / 2) || !within(solid.y, solid.height / 2, around.y, around.height / 2))
        return [];
      return [
        {
          subject: subjectOf(form),
          at: `/kinds/${form.kindId}/solid`,
          where: { placements: form.placements },
          what: `The solid box of ${name} covers all its sensing shapes.`,
          why: 'Whoever comes against it is stopped before touching it: its rules are never set off.',
          cause: [solid, shapes],
          mend: {
            words: 'make the solid box as small as what senses',
            changes: [
              ...keptOf(level, form, '/solid/width').map((path) => ({ path, value: around.width })),
              ...keptOf(level, form, '/solid/height').map((path) => ({ path, value: around.height })),
              ...keptOf(level, form, '/solid/x').map((path) => ({ path, value: around.x })),
              ...keptOf(level, form, '/solid/y').map((path) => ({ path, value: around.y })),
            ],
          },
        },
      ];
    }),
};
