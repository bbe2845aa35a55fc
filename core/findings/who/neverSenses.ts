import type { Mistake } from '../finding.ts';
import { isTouched, keptOf, subjectOf } from '../view.ts';

export const neverSenses: Mistake = {
  code: 'never-senses',
  title: 'a thing that is to be touched never senses',
  severity: 'breaks it',
  find: ({ level, forms }) =>
    forms.flatMap((form) => {
      const { kind } = form;
      if (!Object.values(kind.rules).some(isTouched)) return [];
      const noShape = Object.keys(kind.shapes).length === 0;
      if (!noShape && kind.phases.ready.sensing) return [];
      return [
        {
          subject: subjectOf(form),
          at: noShape ? `/kinds/${form.kindId}/shapes` : `/kinds/${form.kindId}/phases/ready/sensing`,
          where: { placements: form.placements },
          what: noShape ? `${kind.name} has no sensing shape.` : `${kind.name} does not sense while it is ready.`,
          why: 'Its rules wait for somebody who touches it: none of them is ever set off.',
          cause: [noShape, kind.phases.ready.sensing],
          mend: noShape
            ? null
            : {
                words: 'let it sense while it is ready',
                changes: keptOf(level, form, '/phases/ready/sensing').map((path) => ({ path, value: true })),
              },
        },
      ];
    }),
};
