import { entry, inOrder, pointer, type Destination, type Level, type Shape } from '../level/index.ts';
import type { Box } from '../geometry/index.ts';
import { turn } from '../geometry/index.ts';
import type { LevelView, Thing } from './view.ts';

/** Half of the player's body. */
export function hullOf({ view, body }: Level): { readonly x: number; readonly y: number } {
  return view === 'top' ? { x: body.radius, y: body.radius } : { x: body.width / 2, y: body.height / 2 };
}

/** Touching from outside is not being in it. Units. */
const TOUCHES = 1e-4;

export const meets = (a: Box, b: Box): boolean =>
  a.left < b.right - TOUCHES && a.right > b.left + TOUCHES && a.bottom < b.top - TOUCHES && a.top > b.bottom + TOUCHES;

export const grownBy = ({ left, right, bottom, top }: Box, x: number, y = x): Box => ({
  left: left - x,
  right: right + x,
  bottom: bottom - y,
  top: top + y,
});

export const bodyAt = (level: Level, x: number, y: number): Box =>
  grownBy({ left: x, right: x, bottom: y, top: y }, hullOf(level).x, hullOf(level).y);

/** Whether a body at a place lies over a shape of a thing at another, as near as circles and boxes tell. */
function covers(shape: Shape, thing: { readonly x: number; readonly y: number }, level: Level, x: number, y: number): boolean {
  const { cos, sin } = turn(shape.type === 'circle' ? 0 : -shape.rotation);
  const [awayX, awayY] = [x - thing.x - shape.x, y - thing.y - shape.y];
  const [atX, atY] = [cos * awayX - sin * awayY, sin * awayX + cos * awayY];
  const hull = hullOf(level);
  const [halfX, halfY] =
    shape.type === 'box'
      ? [shape.width / 2, shape.height / 2]
      : shape.type === 'circle'
        ? [0, 0]
        : [Math.max(...shape.points.map(([px]) => Math.abs(px))) / 2, Math.max(...shape.points.map(([, py]) => Math.abs(py))) / 2];
  const reach = shape.type === 'circle' ? shape.radius : 0;
  const [dx, dy] = [Math.max(0, Math.abs(atX) - halfX), Math.max(0, Math.abs(atY) - halfY)];
  if (level.view === 'top') return Math.sqrt(dx * dx + dy * dy) < reach + hull.x - TOUCHES;
  const [boxX, boxY] = [Math.max(0, dx - hull.x), Math.max(0, dy - hull.y)];
  return (
    Math.sqrt(boxX * boxX + boxY * boxY) < Math.max(reach, TOUCHES) - (reach > 0 ? TOUCHES : 0) &&
    (reach > 0 || (dx < hull.x && dy < hull.y))
  );
}

/** Whether a body at a place touches a thing where it is placed. */
export const touchesAt = (level: Level, { form: { kind }, ...thing }: Thing, x: number, y: number): boolean =>
  Object.values(kind.shapes).some((shape) => covers(shape, thing, level, x, y));

/** A place where players are put. */
export interface Landing {
  readonly name: string;
  readonly x: number;
  readonly y: number;
  /** Pointer to the place. */
  readonly at: string;
  readonly point: string | null;
  /** Whether they come back there from death. */
  readonly returns: boolean;
}

/** Points that a destination may lead to. */
function pointsOf(to: Destination | null): readonly string[] {
  if (to === null) return [];
  if (to.type === 'point') return [to.point];
  if (to.type === 'nearest') return to.points;
  return to.type === 'weighted' ? Object.keys(to.points) : [];
}

/** Where players start, come back from death, and are put by rules. */
export function landings({ level, effects, things }: LevelView): Landing[] {
  const { death, players } = level;
  const returned = new Set<string>();
  const put = new Set<string>();
  const back = death.returns !== 'never';
  const note = (to: Destination | null, into: Set<string>): void => pointsOf(to).forEach((id) => into.add(id));
  if (back) note(death.returnTo, returned);
  const bells: Landing[] = [];
  for (const { effect, rule } of effects) {
    if (effect.type === 'kill' && back) note(effect.returnTo, returned);
    if (effect.type === 'move') note(effect.to, put);
    if (effect.type !== 'checkpoint') continue;
    if (effect.point !== null) returned.add(effect.point);
    else if (back)
      for (const thing of things.filter(({ form }) => form === rule?.form))
        bells.push({ name: thing.id, x: thing.x, y: thing.y, at: pointer(['placements', thing.id]), point: null, returns: true });
  }
  for (const id of players.starts) put.add(id);
  const named = inOrder(level.points).flatMap(([id, { name, x, y }]): Landing[] =>
    returned.has(id) || put.has(id) ? [{ name, x, y, at: pointer(['points', id]), point: id, returns: returned.has(id) }] : [],
  );
  const start =
    players.starts.length >= players.count ? [] : [{ name: 'the start', ...level.start, at: '/start', point: null, returns: back }];
  return [...start, ...named, ...bells];
}

/** Boxes that stop players on all sides, grown by the player's body: where its middle cannot be. */
export const wallsFor = (level: Level): { readonly id: string; readonly box: Box }[] =>
  inOrder(level.solids)
    .filter(([, { sides }]) => sides.length === 4)
    .map(([id, { x, y, width, height }]) => ({
      id,
      box: grownBy({ left: x, right: x + width, bottom: y, top: y + height }, hullOf(level).x, hullOf(level).y),
    }));

export const holds = ({ left, right, bottom, top }: Box, x: number, y: number): boolean =>
  x > left + TOUCHES && x < right - TOUCHES && y > bottom + TOUCHES && y < top - TOUCHES;

/** A number in words of the level's meters. */
export const meterName = (level: Level, id: string): string => entry(level.meters, id)?.name ?? id;
