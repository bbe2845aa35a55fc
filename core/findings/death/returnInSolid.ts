import type { Box } from '../../geometry/index.ts';
import type { Level } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { holds, hullOf, landingName, landings, pointAt, wallsFor, whoeverLands } from '../where.ts';

/** The nearest place beside a wall that is in no other and inside the level; null: there is none close by. */
function beside(level: Level, { left, right, bottom, top }: Box, x: number, y: number): { x: number; y: number } | null {
  const { size } = level;
  const walls = wallsFor(level);
  const hull = hullOf(level);
  const ways = [
    { x: left, y, far: x - left },
    { x: right, y, far: right - x },
    { x, y: bottom, far: y - bottom },
    { x, y: top, far: top - y },
  ]
    .map((way) => ({ x: Number(way.x.toFixed(3)), y: Number(way.y.toFixed(3)), far: way.far }))
    .filter((way) => way.x >= hull.x && way.x <= size.width - hull.x && way.y >= hull.y && way.y <= size.height - hull.y)
    .filter((way) => !walls.some(({ box }) => holds(box, way.x, way.y)))
    .sort((a, b) => a.far - b.far);
  return ways[0] ?? null;
}

export const returnInSolid: Mistake = {
  code: 'return-in-solid',
  title: 'a place where players are put lies in a solid',
  severity: 'breaks it',
  find: (view) =>
    landings(view).flatMap((landing): Found[] => {
      const wall = wallsFor(view.level).find(({ box }) => holds(box, landing.x, landing.y));
      if (wall === undefined) return [];
      const to = beside(view.level, wall.box, landing.x, landing.y);
      return [
        {
          subject: landing.at,
          at: landing.at,
          where: { points: pointAt(landing), solids: [wall.id] },
          what: `${landingName(landing)} lies in a solid.`,
          why: `${whoeverLands(landing)} is pushed out the shortest way, which may be the wrong side of it.`,
          cause: [landing.x, landing.y, wall.box],
          mend:
            to === null
              ? null
              : {
                  words: `move it beside the solid, to ${figure(to.x)}, ${figure(to.y)}`,
                  changes: [
                    { path: `${landing.at}/x`, value: to.x },
                    { path: `${landing.at}/y`, value: to.y },
                  ],
                },
        },
      ];
    }),
};
