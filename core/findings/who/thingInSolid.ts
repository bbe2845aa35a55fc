import { inOrder, pointer } from '../../level/index.ts';
import type { Mistake } from '../finding.ts';
import { quoted } from '../saying.ts';
import { liesIn } from '../where.ts';
import { isTouched } from '../view.ts';

export const thingInSolid: Mistake = {
  code: 'thing-in-solid',
  title: 'a thing is walled in by a solid',
  severity: 'breaks it',
  find: ({ level, things }) => {
    const solids = inOrder(level.solids).filter(([, { sides }]) => sides.length === 4);
    return things.flatMap(({ id, form, box, moves }) => {
      if (box === null || moves || !Object.values(form.kind.rules).some(isTouched)) return [];
      const around = solids.find(([, { x, y, width, height }]) => liesIn(box, { left: x, right: x + width, bottom: y, top: y + height }));
      if (around === undefined) return [];
      const [solid] = around;
      return [
        {
          subject: id,
          at: pointer(['placements', id]),
          where: { placements: [id], solids: [solid] },
          what: `${form.kind.name} is walled in.`,
          why: `It lies within the solid ${quoted(solid)} with all its sensing shapes: nobody can touch it.`,
          cause: [box, around],
        },
      ];
    });
  },
};
