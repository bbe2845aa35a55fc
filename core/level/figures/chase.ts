import type { Points } from '../document/basics.ts';
import { allKinds } from '../values/resolve.ts';
import type { Level } from '../document/schema.ts';
import type { Kind } from '../document/things.ts';

/** Seconds between two points of a chase. */
const STEP = 0.05;
/** A chase that is not over by then is not followed further. Seconds. */
const LONGEST = 12;

/** How a thing that is drawn to a player fares against one who flees straight away from it. */
export interface Chase {
  /** Distance (u) by time (s), from the moment it begins to be drawn. */
  readonly points: readonly (readonly [seconds: number, distance: number])[];
  readonly ends: 'taken' | 'gives up' | 'goes on';
  readonly seconds: number;
}

/** The value of a curve: straight between its points, level beyond the ends. */
function along(points: Points, at: number): number {
  const after = points.findIndex(([where]) => where >= at);
  const [toAt, to] = points[after] ?? points.at(-1) ?? [0, 0];
  const [fromAt, from] = points[after - 1] ?? [toAt, to];
  return after <= 0 || toAt === fromAt ? to : from + ((to - from) * (at - fromAt)) / (toAt - fromAt);
}

/** How near the places of thing and player are when it is taken: as stated, else when its widest round shape touches. */
function takenAt(level: Level, kind: Kind): number {
  if (kind.magnet?.takenAt != null) return kind.magnet.takenAt;
  const widths = Object.values(kind.shapes).map((shape) =>
    shape.type === 'circle' ? shape.radius : shape.type === 'box' ? Math.min(shape.width, shape.height) / 2 : 0,
  );
  return Math.max(0, ...widths) + (level.view === 'top' ? level.body.radius : level.body.width / 2);
}

/** The chase of a player who flees at a speed (u/s), begun at the edge of the magnet's reach; null without a magnet. */
export function chaseOf(level: Level, kind: Kind, fleeing: number): Chase | null {
  const { magnet } = kind;
  if (magnet === null) return null;
  const near = takenAt(level, kind);
  const lost = magnet.latched ? magnet.giveUp : Math.min(magnet.reach, magnet.giveUp);
  const points: [number, number][] = [[0, magnet.reach]];
  let distance = magnet.reach;
  for (let step = 1; step * STEP <= LONGEST; step++) {
    const [from, to] = [(step - 1) * STEP, step * STEP];
    distance += STEP * (fleeing - (along(magnet.speed, from) + along(magnet.speed, to)) / 2);
    points.push([to, Math.max(0, distance)]);
    if (distance <= near + 1e-9) return { points, ends: 'taken', seconds: to };
    if (distance > lost + 1e-9) return { points, ends: 'gives up', seconds: to };
  }
  return { points, ends: 'goes on', seconds: LONGEST };
}

/** Walk speed under the strongest change of it that a thing of the level gives for a time (u/s); walk speed when there is none. */
export function boostedSpeed(level: Level): number {
  const { speed } = level.body;
  const effects = allKinds(level).flatMap(([, { rules }]) => Object.values(rules).flatMap((rule) => Object.values(rule.effects)));
  const speeds = effects.map((effect) => {
    if (effect.type !== 'movement' || effect.of !== 'speed') return speed;
    return effect.change === 'multiply' ? speed * effect.value : effect.change === 'add' ? speed + effect.value : effect.value;
  });
  return Math.max(speed, ...speeds);
}
