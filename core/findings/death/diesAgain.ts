import type { Box } from '../../geometry/index.ts';
import { entry } from '../../level/index.ts';
import { deathsOf } from '../../session/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { counted, figure } from '../saying.ts';
import { only, trialOf } from '../trial.ts';
import type { LevelView, Thing } from '../view.ts';
import { bodyAt, landingName, landings, meets, pointAt, type Landing } from '../where.ts';
import { harmOf, harmUnder } from './harm.ts';

/** More places than this are not tried. */
const MOST_TRIED = 20;
/** Who waits longer than so many seconds for each life does not die again and again. */
const LONGEST = 20;
/** Dead so often, each time within so many seconds of control, somebody dies again and again. */
const [TIMES, SOON] = [3, 1];

/** Whether a thing kills, or takes so much that two touches are death. */
function isDeadly(view: LevelView, thing: Thing): boolean {
  const harm = harmOf(view, thing);
  const health = view.level.death.health ?? view.level.meters.health?.start ?? 100;
  return harm === 'kills' || 2 * harm >= health;
}

/** Where a thing may be in the course of a session; null: it has no shape, or it may be anywhere. */
function wayOf({ level }: LevelView, { id, x, y, box, moves }: Thing): Box | null {
  const travel = entry(level.placements, id)?.travel ?? null;
  if (box === null || (moves && travel === null)) return null;
  const places = travel === null ? [] : (entry(level.paths, travel.path)?.wayPoints ?? []);
  const [xs, ys] = [
    [x, ...places.map((one) => one.x)],
    [y, ...places.map((one) => one.y)],
  ];
  return {
    left: Math.min(...xs) + box.left - x,
    right: Math.max(...xs) + box.right - x,
    bottom: Math.min(...ys) + box.bottom - y,
    top: Math.max(...ys) + box.top - y,
  };
}

/** Things that somebody at a place, who presses nothing, may be killed by. */
function dangersFor(view: LevelView, deadly: readonly (readonly [Thing, Box | null])[], { x, y }: Landing): ReadonlySet<string> {
  const body = bodyAt(view.level, x, y + view.level.death.dropHeight);
  // From the side one falls.
  const ways = view.level.view === 'side' ? { ...body, bottom: -Infinity } : body;
  return new Set(deadly.flatMap(([{ id }, way]) => (way === null || meets(way, ways) ? [id] : [])));
}

export const diesAgain: Mistake = {
  code: 'dies-again',
  title: 'who comes back dies again and again',
  severity: 'breaks it',
  find: (view) => {
    const { level } = view;
    const { death } = level;
    const under = harmUnder(view);
    // Places within harm are told of as such.
    const places = landings(view).filter((landing) => landing.returns && under(landing) === undefined);
    const deadly = view.things.filter((thing) => isDeadly(view, thing)).map((thing) => [thing, wayOf(view, thing)] as const);
    const each = death.pause + death.grace + SOON;
    if (death.returns === 'never' || deadly.length === 0 || each > LONGEST) return [];
    return places.slice(0, MOST_TRIED).flatMap((landing): Found[] => {
      const { x, y } = landing;
      const dangers = dangersFor(view, deadly, landing);
      if (dangers.size === 0) return [];
      const { session, go } = trialOf(level, only(level, dangers), {
        start: { x, y },
        death: { ...death, returns: 'always', returnTo: { type: 'start' } },
      });
      go(each);
      // As the first life is short, so are those after it; if it is not, no more are tried.
      if (deathsOf(session).length > 0) go((TIMES - 1) * each);
      const deaths = deathsOf(session);
      if (deaths.length < TIMES) return [];
      const killer = view.things.find(({ id }) => id === deaths[0]?.placement);
      return [
        {
          subject: landing.at,
          at: landing.at,
          where: { points: pointAt(landing), placements: killer === undefined ? [] : [killer.id] },
          what: `Whoever comes back at ${landingName(landing)} dies again and again.`,
          why: `Without a key pressed one dies ${counted(deaths.length, 'time')} within ${figure(Number((TIMES * each).toFixed(1)), 's')}${killer === undefined ? '' : `, by ${killer.form.kind.name}`}: nobody is quicker than that.`,
          cause: [x, y, death.pause, death.grace, killer?.id ?? null],
        },
      ];
    });
  },
};
