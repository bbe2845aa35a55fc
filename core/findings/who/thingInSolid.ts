import { inOrder, pointer } from '../../level/index.ts';
import type { Mistake } from '../finding.ts';
import { quoted } from '../saying.ts';
import { grownBy, hullOf } from '../where.ts';
import { isTouched } from '../view.ts';

export const thingInSolid: Mistake = {
  code: 'thing-in-solid',
  title: 'a thing is walled in by a solid',
  severity: 'breaks it',
  find: ({ level, things }) => {
    const solids = inOrder(level.solids).filter(([, { sides }]) => sides.length === 4);
    return things.flatMap(({ id, form, box, moves }) => {
      if (box === null || moves || !Object.values(form.kind.rules).some(isTouched)) return [];
      // Whose outline lies inside by more than nothing is not touched from outside.
      const around = solids.find(
        ([, { x, y, width, height }]) => box.left > x && box.right < x + width && box.bottom > y && box.top < y + height,
      );
      if (around === undefined) return [];
      const [solid, { x, y, width, height }] = around;
      const hull = hullOf(level);
      const free = grownBy({ left: x, right: x + width, bottom: y, top: y + height }, hull.x, hull.y);
      return [
        {
          subject: id,
          at: pointer(['placements', id]),
          where: { placements: [id], solids: [solid] },
          what: `${form.kind.name} is walled in.`,
          why: `It lies within the solid ${quoted(solid)} with all its sensing shapes: nobody can touch it.`,
          cause: [box, free],
        },
      ];
    });
  },
};
