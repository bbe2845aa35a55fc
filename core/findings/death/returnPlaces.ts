import type { Box } from '../../geometry/index.ts';
import { whoMatches, type Level } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { figure, quoted } from '../saying.ts';
import { bodyAt, holds, hullOf, landings, touchesAt, wallsFor, type Landing } from '../where.ts';
import type { LevelView, Thing } from '../view.ts';

const places = (landing: Landing): { readonly points: string[] } => ({ points: landing.point === null ? [] : [landing.point] });
const called = ({ name, point }: Landing): string => (point === null ? name : quoted(name));
const arrive = ({ returns }: Landing): string => (returns ? 'Whoever comes back there' : 'Whoever is put there');

/** What a thing does to whoever stands at it: kills, takes so much, or nothing. */
function harmOf({ players }: LevelView, { form: { kind } }: Thing): 'kills' | number {
  let taken = 0;
  if (!kind.phases.ready.sensing) return 0;
  for (const rule of Object.values(kind.rules)) {
    const { type } = rule.setOffBy;
    if ((type !== 'arriving' && type !== 'inside') || !players.some((tags) => whoMatches(rule.who, tags))) continue;
    for (const effect of Object.values(rule.effects)) {
      if (effect.type === 'kill') return 'kills';
      if (effect.type === 'meter' && effect.meter === 'health' && effect.change === 'take')
        taken += typeof effect.amount === 'number' ? effect.amount : 1;
    }
  }
  return taken;
}

export const returnInHarm: Mistake = {
  code: 'return-in-harm',
  title: 'a place where players are put lies in harm',
  severity: 'probably not meant',
  find: (view) => {
    const harms = view.things.filter((thing) => !thing.moves && harmOf(view, thing) !== 0);
    return landings(view).flatMap((landing): Found[] => {
      const over = harms.find((thing) => touchesAt(view.level, thing, landing.x, landing.y));
      if (over === undefined) return [];
      const harm = harmOf(view, over);
      const does = harm === 'kills' ? 'is killed' : `loses ${figure(harm)} health`;
      return [
        {
          subject: landing.at,
          at: landing.at,
          where: { ...places(landing), placements: [over.id] },
          what: `${called(landing)} lies in ${over.form.kind.name}.`,
          why: `${arrive(landing)} ${does} at once, as soon as grace is over.`,
          cause: [landing.x, landing.y, over.x, over.y, harm],
          ...(harm === 'kills' ? { severity: 'breaks it' as const } : {}),
        },
      ];
    });
  },
};

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
          where: { ...places(landing), solids: [wall.id] },
          what: `${called(landing)} lies in a solid.`,
          why: `${arrive(landing)} is pushed out the shortest way, which may be the wrong side of it.`,
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

export const returnOutside: Mistake = {
  code: 'return-outside',
  title: 'a place where players are put lies outside the level',
  severity: 'breaks it',
  find: (view) => {
    const { size } = view.level;
    return landings(view).flatMap((landing): Found[] => {
      const body = bodyAt(view.level, landing.x, landing.y);
      if (body.left >= -1e-9 && body.bottom >= -1e-9 && body.right <= size.width + 1e-9 && body.top <= size.height + 1e-9) return [];
      const [halfX, halfY] = [(body.right - body.left) / 2, (body.top - body.bottom) / 2];
      const to = {
        x: Math.max(halfX, Math.min(size.width - halfX, landing.x)),
        y: Math.max(halfY, Math.min(size.height - halfY, landing.y)),
      };
      return [
        {
          subject: landing.at,
          at: landing.at,
          where: places(landing),
          what: `${called(landing)} lies outside the level.`,
          why: `It is at ${figure(landing.x)}, ${figure(landing.y)}, with the player's body beyond the edge of ${figure(size.width)} × ${figure(size.height, 'u')}.`,
          cause: [landing.x, landing.y, size],
          mend: {
            words: 'move it inside',
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
