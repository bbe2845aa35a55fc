import { bodyOutline, gapBetween, outlineOf, type Box } from '../geometry/index.ts';
import { inOrder, pointer, type Destination, type Level } from '../level/index.ts';
import { quoted } from './saying.ts';
import type { LevelView, Thing } from './view.ts';

/** Half of the player's body. */
export function hullOf({ view, body }: Level): { readonly x: number; readonly y: number } {
  return view === 'top' ? { x: body.radius, y: body.radius } : { x: body.width / 2, y: body.height / 2 };
}

/** Boxes and walls that only touch do not overlap. Units. */
export const TOUCHES = 1e-4;

export const meets = (a: Box, b: Box): boolean =>
  a.left < b.right - TOUCHES && a.right > b.left + TOUCHES && a.bottom < b.top - TOUCHES && a.top > b.bottom + TOUCHES;

/** Whether a box lies within another, touching none of its edges. */
export const liesIn = (box: Box, within: Box): boolean =>
  box.left > within.left + TOUCHES &&
  box.right < within.right - TOUCHES &&
  box.bottom > within.bottom + TOUCHES &&
  box.top < within.top - TOUCHES;

export const grownBy = ({ left, right, bottom, top }: Box, x: number, y = x): Box => ({
  left: left - x,
  right: right + x,
  bottom: bottom - y,
  top: top + y,
});

export const bodyAt = (level: Level, x: number, y: number): Box =>
  grownBy({ left: x, right: x, bottom: y, top: y }, hullOf(level).x, hullOf(level).y);

/** Whether a body at a place touches a thing where it is placed; touching from outside is touching. */
export function touchesAt(level: Level, { form: { kind }, box, x: thingX, y: thingY }: Thing, x: number, y: number): boolean {
  // Most are told by their boxes.
  if (box === null || !meets(grownBy(box, 2 * TOUCHES), bodyAt(level, x, y))) return false;
  const body = bodyOutline(level.view, level.body, x, y);
  return Object.values(kind.shapes).some((shape) => gapBetween(body, outlineOf(shape, thingX, thingY)) === 0);
}

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

/** What a place is called in a sentence. */
export const landingName = ({ name, point }: Landing): string => (point === null ? name : quoted(name));

/** Who gets there, at the beginning of a sentence. */
export const whoeverLands = ({ returns }: Landing): string => (returns ? 'Whoever comes back there' : 'Whoever is put there');

/** The point that a place is, for the Plan. */
export const pointAt = ({ point }: Landing): readonly string[] => (point === null ? [] : [point]);

/** Points that a destination may lead to. */
export function pointsOf(to: Destination | null): readonly string[] {
  if (to === null) return [];
  if (to.type === 'point') return [to.point];
  if (to.type === 'nearest') return to.points;
  return to.type === 'weighted' ? Object.keys(to.points) : [];
}

const knownLandings = new WeakMap<LevelView, readonly Landing[]>();

/** Where players start, come back from death, and are put by rules. */
export function landings(view: LevelView): readonly Landing[] {
  const known = knownLandings.get(view) ?? landingsIn(view);
  knownLandings.set(view, known);
  return known;
}

function landingsIn({ level, effects, things }: LevelView): Landing[] {
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

interface Wall {
  readonly id: string;
  readonly box: Box;
}

const knownWalls = new WeakMap<Level, readonly Wall[]>();

/** Boxes that stop players on all sides, grown by the player's body: where its middle cannot be. */
export function wallsFor(level: Level): readonly Wall[] {
  const hull = hullOf(level);
  const known =
    knownWalls.get(level) ??
    inOrder(level.solids)
      .filter(([, { sides }]) => sides.length === 4)
      .map(([id, { x, y, width, height }]) => ({
        id,
        box: grownBy({ left: x, right: x + width, bottom: y, top: y + height }, hull.x, hull.y),
      }));
  knownWalls.set(level, known);
  return known;
}

export const holds = ({ left, right, bottom, top }: Box, x: number, y: number): boolean =>
  x > left + TOUCHES && x < right - TOUCHES && y > bottom + TOUCHES && y < top - TOUCHES;
