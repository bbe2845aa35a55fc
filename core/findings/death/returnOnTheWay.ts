import { boxAround, entry } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { figure, quoted } from '../saying.ts';
import { hullOf, landings } from '../where.ts';
import { isTouched, takesPlayer, type LevelView, type Thing } from '../view.ts';

/** Whether touching a thing harms a player. */
const harms = (view: LevelView, { form: { kind } }: Thing): boolean =>
  Object.values(kind.rules).some(
    (rule) =>
      isTouched(rule) &&
      takesPlayer(view, rule) &&
      Object.values(rule.effects).some(
        (one) => one.type === 'kill' || (one.type === 'meter' && one.meter === 'health' && one.change === 'take'),
      ),
  );

type At = { readonly x: number; readonly y: number };

/** How far a place is from a straight way. */
function farFrom({ x, y }: At, from: At, to: At): number {
  const [wayX, wayY] = [to.x - from.x, to.y - from.y];
  const length = wayX * wayX + wayY * wayY;
  const share = length === 0 ? 0 : Math.max(0, Math.min(1, ((x - from.x) * wayX + (y - from.y) * wayY) / length));
  const [dx, dy] = [x - from.x - share * wayX, y - from.y - share * wayY];
  return Math.sqrt(dx * dx + dy * dy);
}

export const returnOnTheWay: Mistake = {
  code: 'return-on-the-way',
  title: 'a place where players come back lies on the path of something that harms',
  severity: 'probably not meant',
  find: (view) => {
    const { level, things } = view;
    const patrols = things.flatMap((thing) => {
      const travel = entry(level.placements, thing.id)?.travel ?? null;
      const path = travel === null ? undefined : entry(level.paths, travel.path);
      const around = boxAround(thing.form.kind);
      if (path === undefined || around === null || !harms(view, thing)) return [];
      const way = path.round === 'loop' ? [...path.wayPoints, ...path.wayPoints.slice(0, 1)] : path.wayPoints;
      return [{ thing, path, way, reach: Math.min(around.width, around.height) / 2 + hullOf(level).x }];
    });
    return landings(view)
      .filter(({ returns }) => returns)
      .flatMap((landing): Found[] => {
        const met = patrols.find(({ way, reach }) => way.slice(1).some((to, at) => farFrom(landing, way[at] ?? to, to) < reach));
        if (met === undefined) return [];
        const { thing, path } = met;
        const grace = level.death.grace;
        return [
          {
            subject: landing.at,
            at: landing.at,
            where: { points: landing.point === null ? [] : [landing.point], placements: [thing.id] },
            what: `${landing.point === null ? landing.name : quoted(landing.name)} lies on the path ${quoted(path.name)} of ${thing.form.kind.name}.`,
            why: `Whoever comes back there is met by it, ${grace > 0 ? `once ${figure(grace, 's')} of grace are over` : 'without any grace'}, without having done anything.`,
            cause: [landing.x, landing.y, path.wayPoints, thing.form.kindId],
          },
        ];
      });
  },
};
