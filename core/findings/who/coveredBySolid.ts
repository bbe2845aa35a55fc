import type { Mistake } from '../finding.ts';
import { liesIn } from '../where.ts';
import { boxAround, isTouched, keptOf, phasesOf, sizeOf, subjectOf } from '../view.ts';

export const coveredBySolid: Mistake = {
  code: 'covered-by-solid',
  title: 'the solid box of a kind keeps everybody off its sensing shapes',
  severity: 'breaks it',
  find: (view) => {
    const { level, forms, things } = view;
    // A box that travels, or turns solid, may come to be around somebody.
    const moving = new Set(things.filter(({ moves }) => moves).map(({ form }) => form));
    return forms.flatMap((form) => {
      const { solid, shapes, phases, rules, name } = form.kind;
      const around = boxAround(form.kind);
      if (solid === null || around === null || solid.sides.length < 4 || !Object.values(rules).some(isTouched)) return [];
      if (moving.has(form) || phasesOf(view, form).some((phase) => !phases[phase].solid)) return [];
      const [halfX, halfY] = [solid.width / 2, solid.height / 2];
      const walls = { left: solid.x - halfX, right: solid.x + halfX, bottom: solid.y - halfY, top: solid.y + halfY };
      if (!liesIn(around, walls)) return [];
      const [width, height] = sizeOf(around);
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
              ...keptOf(level, form, '/solid/width').map((path) => ({ path, value: width })),
              ...keptOf(level, form, '/solid/height').map((path) => ({ path, value: height })),
              ...keptOf(level, form, '/solid/x').map((path) => ({ path, value: (around.left + around.right) / 2 })),
              ...keptOf(level, form, '/solid/y').map((path) => ({ path, value: (around.bottom + around.top) / 2 })),
            ],
          },
        },
      ];
    });
  },
};
