import { apart, turn } from '../../geometry/index.ts';
import { inOrder, type Level } from '../../level/index.ts';
import { deathsOf } from '../../session/index.ts';
import { harmOf } from '../death/harm.ts';
import type { Found, Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { only, trialOf, type Trial } from '../trial.ts';
import { isTouched, takesPlayer, type LevelView, type Thing } from '../view.ts';
import { holds, hullOf, wallsFor } from '../where.ts';

/** More than so many are not tried. */
const MOST_TRIED = 60;
/** A throw is followed for so many seconds; and one that has not begun after so many does not begin. */
const [FOLLOWED, BEGINS] = [4, 0.5];
/** A throw that a solid takes so much of within so short a way goes against it. Share, and units. */
const [TAKEN, SHORT] = [0.5, 1];

/** A thing that throws players in a direction that is always the same. */
interface Thrower {
  readonly thing: Thing;
  readonly at: string;
  readonly strength: number;
  readonly cos: number;
  readonly sin: number;
}

function throwersIn(view: LevelView): Thrower[] {
  const ofForm = new Map<unknown, Omit<Thrower, 'thing'>>();
  for (const { form, rule, at } of view.rules) {
    if (!isTouched(rule) || !takesPlayer(view, rule)) continue;
    for (const [id, effect] of inOrder(rule.effects)) {
      if (effect.type !== 'launch' || effect.direction.type !== 'fixed' || typeof effect.strength !== 'number') continue;
      ofForm.set(form, { at: `${at}/effects/${id}/strength`, strength: effect.strength, ...turn(effect.direction.degrees) });
    }
  }
  return view.things.flatMap((thing): Thrower[] => {
    const thrower = thing.moves ? undefined : ofForm.get(thing.form);
    return thrower === undefined ? [] : [{ thing, ...thrower }];
  });
}

/** Where a player touches a thing that throws: on its box, if it is solid; standing in it, seen from the side; else in its middle. */
function placeAt(level: Level, { x, y, box, form: { kind } }: Thing): { x: number; y: number } {
  const { y: halfHeight } = hullOf(level);
  if (kind.solid !== null) return { x: x + kind.solid.x, y: y + kind.solid.y + kind.solid.height / 2 + halfHeight + 0.05 };
  return level.view === 'side' && box !== null ? { x: (box.left + box.right) / 2, y: box.bottom + halfHeight } : { x, y };
}

interface Astray {
  readonly how: 'kills' | 'edge' | 'solid';
  readonly by: string | null;
  readonly far: number;
}

/** Where a throw goes wrong; null: it does not. */
function follow(level: Level, trial: Trial, { thing, strength, cos, sin }: Thrower): Astray | null {
  const { rate } = trial.session.compiled;
  const hull = hullOf(level);
  const along = (): number => trial.velocity().x * cos + trial.velocity().y * sin;
  const from = placeAt(level, thing);
  trial.begin(from.x, from.y);
  let thrown = false;
  for (let step = 1; step <= FOLLOWED * rate; step += 1) {
    const before = along();
    const goesOn = trial.step();
    const { x, y } = trial.at();
    const far = apart(from, trial.at());
    if (!trial.isAlive()) return thrown ? { how: 'kills', by: deathsOf(trial.session)[0]?.placement ?? null, far } : null;
    if (!goesOn) return null;
    thrown ||= along() > TAKEN * strength;
    if (!thrown && step > BEGINS * rate) return null;
    if (!thrown) continue;
    if (before < TAKEN * strength || along() > before * TAKEN) continue;
    const { width, height } = level.size;
    const atEdge =
      x - hull.x < 0.05 || x + hull.x > width - 0.05 || (y - hull.y < 0.05 && level.view === 'top') || y + hull.y > height - 0.05;
    if (atEdge) return { how: 'edge', by: null, far };
    if (far < SHORT) return { how: 'solid', by: null, far };
  }
  return null;
}

function told({ how, far }: Astray, name: string, killer: string): [what: string, why: string] {
  switch (how) {
    case 'kills':
      return [
        `${name} throws players into ${killer}.`,
        `Whoever touches it and presses nothing comes down in it ${figure(Number(far.toFixed(1)), 'u')} away, and dies.`,
      ];
    case 'edge':
      return [
        `${name} throws players out of the level.`,
        `Its edge stops them after ${figure(Number(far.toFixed(1)), 'u')}, with half of the throw and more still in them.`,
      ];
    case 'solid':
      return [
        `${name} throws players against a solid.`,
        `It stops them after ${figure(Number(far.toFixed(1)), 'u')}: of the throw nothing is left.`,
      ];
  }
}

export const launchAstray: Mistake = {
  code: 'launch-astray',
  title: 'a launch that throws out of the level, into a solid or into a kill zone',
  severity: 'probably not meant',
  find: (view) => {
    const { level, things } = view;
    const throwers = throwersIn(view).slice(0, MOST_TRIED);
    if (throwers.length === 0) return [];
    const deadly = things.filter((thing) => !thing.moves && harmOf(view, thing) === 'kills');
    const trial = trialOf(level, only(level, new Set([...throwers.map(({ thing }) => thing.id), ...deadly.map(({ id }) => id)])));
    const walls = wallsFor(level);
    return throwers.flatMap((thrower): Found[] => {
      const { thing, at, strength, cos, sin } = thrower;
      const place = placeAt(level, thing);
      if (walls.some(({ box }) => holds(box, place.x, place.y))) return [];
      const astray = follow(level, trial, thrower);
      if (astray === null) return [];
      const killer = things.find(({ id }) => id === astray.by);
      const [what, why] = told(astray, thing.form.kind.name, killer?.form.kind.name ?? 'its death');
      return [
        {
          subject: thing.id,
          at,
          where: { placements: killer === undefined ? [thing.id] : [thing.id, killer.id] },
          what,
          why,
          cause: [strength, cos, sin, thing.x, thing.y, astray.how, astray.by],
        },
      ];
    });
  },
};
