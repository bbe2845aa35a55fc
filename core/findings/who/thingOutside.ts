import { pointer } from '../../level/index.ts';
import type { Mistake } from '../finding.ts';
import { figure } from '../saying.ts';

export const thingOutside: Mistake = {
  code: 'thing-outside',
  title: 'a thing lies outside the level',
  severity: 'breaks it',
  find: ({ level: { size }, things }) =>
    things.flatMap(({ id, form, box, moves, x, y }) => {
      if (box === null || moves || (box.right >= 0 && box.top >= 0 && box.left <= size.width && box.bottom <= size.height)) return [];
      const inside = (at: number, side: number): number => Math.max(1, Math.min(side - 1, at));
      return [
        {
          subject: id,
          at: pointer(['placements', id]),
          where: { placements: [id] },
          what: `${form.kind.name} lies outside the level.`,
          why: `It is placed at ${figure(x)}, ${figure(y)}; the level is ${figure(size.width)} × ${figure(size.height, 'u')}, and nobody comes there.`,
          cause: [x, y, size],
          mend: {
            words: 'put it inside, at the nearest place',
            changes: [
              { path: pointer(['placements', id, 'x']), value: inside(x, size.width) },
              { path: pointer(['placements', id, 'y']), value: inside(y, size.height) },
            ],
          },
        },
      ];
    }),
};
