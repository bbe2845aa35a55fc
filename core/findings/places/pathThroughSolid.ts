import { clipWay, Span } from '../../geometry/index.ts';
import { entry, inOrder, pointer } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { quoted } from '../saying.ts';

/** A path along the edge of a solid does not go through it. Units. */
const DEEP = 0.05;

export const pathThroughSolid: Mistake = {
  code: 'path-through-solid',
  title: 'a path leads through a solid',
  severity: 'worth a look',
  find: ({ level, things }) => {
    const travelling = new Map<string, string[]>();
    for (const { id } of things) {
      const path = entry(level.placements, id)?.travel?.path;
      if (path !== undefined) travelling.set(path, [...(travelling.get(path) ?? []), id]);
    }
    const solids = inOrder(level.solids).filter(([, { sides }]) => sides.length === 4);
    const out = new Span();
    return inOrder(level.paths).flatMap(([id, { name, wayPoints, round }]): Found[] => {
      const placements = travelling.get(id);
      if (placements === undefined) return [];
      const way = round === 'loop' ? [...wayPoints, ...wayPoints.slice(0, 1)] : wayPoints;
      const through = solids.find(([, { x, y, width, height }]) =>
        way.slice(1).some((to, at) => {
          const from = way[at] ?? to;
          const box = { left: x + DEEP, right: x + width - DEEP, bottom: y + DEEP, top: y + height - DEEP };
          return box.left < box.right && box.bottom < box.top && clipWay(box, from.x, from.y, to.x, to.y, out);
        }),
      );
      if (through === undefined) return [];
      return [
        {
          subject: id,
          at: pointer(['paths', id]),
          where: { paths: [id], placements, solids: [through[0]] },
          what: `The path ${quoted(name)} leads through a solid.`,
          why: 'What travels along a path is stopped by nothing: it is seen to go through the wall.',
          cause: [way, through],
        },
      ];
    });
  },
};
