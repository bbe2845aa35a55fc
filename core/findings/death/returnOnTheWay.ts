import { outlineDistance, type Corner } from '../../geometry/index.ts';
import { entry } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { figure, quoted } from '../saying.ts';
import { hullOf, landingName, landings, pointAt } from '../where.ts';
import { boxAround, sizeOf, subjectOf, type Thing } from '../view.ts';
import { harmOf } from './harm.ts';

const cornerOf = ({ x, y }: { readonly x: number; readonly y: number }): Corner => [x, y];

export const returnOnTheWay: Mistake = {
  code: 'return-on-the-way',
  title: 'a place where players come back lies on the path of something that harms',
  severity: 'probably not meant',
  find: (view) => {
    const { level, things } = view;
    // Of things of one form on one path the first tells of all.
    const patrolling = new Map<string, Thing>();
    for (const thing of things) {
      const travel = entry(level.placements, thing.id)?.travel ?? null;
      const key = travel === null ? null : `${subjectOf(thing.form)} ${travel.path}`;
      if (key !== null && !patrolling.has(key)) patrolling.set(key, thing);
    }
    const patrols = [...patrolling.values()].flatMap((thing) => {
      const path = entry(level.paths, entry(level.placements, thing.id)?.travel?.path ?? '');
      const around = boxAround(thing.form.kind);
      if (path === undefined || around === null || harmOf(view, thing) === 0) return [];
      const way = path.round === 'loop' ? [...path.wayPoints, ...path.wayPoints.slice(0, 1)] : path.wayPoints;
      return [{ thing, path, way, reach: Math.min(...sizeOf(around)) / 2 + hullOf(level).x }];
    });
    return landings(view)
      .filter(({ returns }) => returns)
      .flatMap((landing): Found[] => {
        const met = patrols.find(({ way, reach }) =>
          way.slice(1).some((to, at) => outlineDistance([[landing.x, landing.y]], [cornerOf(way[at] ?? to), cornerOf(to)]) < reach),
        );
        if (met === undefined) return [];
        const { thing, path } = met;
        const grace = level.death.grace;
        return [
          {
            subject: landing.at,
            at: landing.at,
            where: { points: pointAt(landing), placements: [thing.id] },
            what: `${landingName(landing)} lies on the path ${quoted(path.name)} of ${thing.form.kind.name}.`,
            why: `Whoever comes back there is met by it, ${grace > 0 ? `once ${figure(grace, 's')} of grace are over` : 'without any grace'}, without having done anything.`,
            cause: [landing.x, landing.y, path.wayPoints, thing.form.kindId],
          },
        ];
      });
  },
};
