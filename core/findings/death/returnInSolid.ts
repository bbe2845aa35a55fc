import type { Box } from '../../geometry/index.ts';
import { entry } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import type { LevelView } from '../view.ts';
import { grownBy, holds, hullOf, landingName, landings, pointAt, TOUCHES, wallsFor, whoeverLands } from '../where.ts';

/** Where the middle of a body cannot be, and what is in the way there. */
interface Wall {
  readonly box: Box;
  readonly solid: string | null;
  readonly thing: string | null;
}

/** Solids, and boxes of things that stay and are solid as they start, that stop players on all sides. */
function wallsIn({ level, things }: LevelView): Wall[] {
  const hull = hullOf(level);
  const ofThings = things.flatMap(({ id, x, y, moves, form: { kind } }): Wall[] => {
    const { solid } = kind;
    const starts = entry(level.placements, id)?.starts.type ?? 'ready';
    if (solid === null || moves || solid.sides.length < 4 || !kind.phases[starts].solid) return [];
    const [middleX, middleY] = [x + solid.x, y + solid.y];
    const box = grownBy(
      { left: middleX, right: middleX, bottom: middleY, top: middleY },
      solid.width / 2 + hull.x,
      solid.height / 2 + hull.y,
    );
    return [{ box, solid: null, thing: id }];
  });
  return [...wallsFor(level).map(({ id, box }) => ({ box, solid: id, thing: null })), ...ofThings];
}

/** Whether a body at a place is in a wall; one that is round may be nearer to a corner than to a side. */
function isIn({ level }: LevelView, { box }: Wall, x: number, y: number): boolean {
  if (!holds(box, x, y)) return false;
  if (level.view === 'side') return true;
  const { radius } = level.body;
  const [dx, dy] = [Math.max(box.left + radius - x, 0, x - box.right + radius), Math.max(box.bottom + radius - y, 0, y - box.top + radius)];
  return dx * dx + dy * dy < (radius - TOUCHES) * (radius - TOUCHES);
}

/** The nearest place beside a wall that is in no other and inside the level; null: there is none close by. */
function beside({ level }: LevelView, walls: readonly Wall[], wall: Wall, x: number, y: number): { x: number; y: number } | null {
  const { size } = level;
  const hull = hullOf(level);
  const { left, right, bottom, top } = wall.box;
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
  find: (view) => {
    const walls = wallsIn(view);
    return landings(view).flatMap((landing): Found[] => {
      // Who comes back at a thing is put beside its box: that is meant.
      const wall = walls.find((one) => one.thing !== landing.name && isIn(view, one, landing.x, landing.y));
      if (wall === undefined) return [];
      const to = beside(view, walls, wall, landing.x, landing.y);
      return [
        {
          subject: landing.at,
          at: landing.at,
          where: {
            points: pointAt(landing),
            solids: wall.solid === null ? [] : [wall.solid],
            placements: wall.thing === null ? [] : [wall.thing],
          },
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
    });
  },
};
