import { apart, type Place } from '../../geometry/index.ts';
import { cellAt, findWay } from '../navigation/index.ts';
import { isOn } from '../../session/index.ts';
import { footingOf, footingsFor, lengthFromSurface, planClimb, type Aim } from './climbs.ts';
import type { Terrain } from './leaping.ts';
import type { Errand } from './mind.ts';
import { planWay, type Planned } from './risk.ts';
import { vantageFrom } from './seeing.ts';
import { groundOf, hereOf, placeOf, type Thinker } from './thinker.ts';
import type { World } from './world.ts';

/** Something to go for, and the way there. */
export interface Choice {
  readonly errand: Errand;
  readonly way: Planned;
}

/** What is near enough to a place: so far around it. Units. */
function aimAround({ compiled }: World, { x, y }: Place, within: number): Aim {
  const { hull } = compiled;
  const aside = Math.max(0, within * 0.9 - hull.halfWidth - hull.radius);
  const above = Math.max(0, within * 0.9 - hull.halfHeight - hull.radius);
  return { left: x - aside, bottom: y - above, right: x + aside, top: y + above, against: 0 };
}

/** One walks on into what is solid for so far: it stops one at its face. Units. */
const AGAINST = 0.15;

/** What touching a thing takes, where it was last seen; within reach of the use key when it is used. */
function aimAt(thinker: Thinker, placement: number, reach = 0): Aim {
  const { world, session } = thinker;
  const { x, y } = placeOf(thinker, placement);
  const extent = world.extents[session.state.form[placement] as number] ?? null;
  if (reach > 0 || extent === null) return aimAround(world, { x, y }, Math.max(reach, 0.1));
  const solid = world.compiled.placements.solid[placement] as number;
  const against = solid >= 0 && isOn(session, solid) ? AGAINST : 0;
  return { left: x + extent.left, bottom: y + extent.bottom, right: x + extent.right, top: y + extent.top, against };
}

/** The way to a thing, or to within so far of a place, that costs a persona least; null when there is none. */
export function wayTo(thinker: Thinker, to: Place, placement: number, within: number): Planned | null {
  const { world } = thinker;
  if (world.terrain === null) return planWay(thinker, hereOf(thinker), to, placement);
  return planClimb(thinker, world.terrain, placement >= 0 ? aimAt(thinker, placement, within) : aimAround(world, to, within), placement);
}

/** How far it is from a surface to where a box is touched, as the body moves now. Units; Infinity when there is no way. */
const climbFrom = (thinker: Thinker, terrain: Terrain, surface: number, aim: Aim): number =>
  lengthFromSurface(thinker.world, groundOf(thinker, terrain), thinker.session, surface, aim);

const isStill = ({ compiled }: World, placement: number): boolean => (compiled.placements.traveller[placement] as number) < 0;

/** About how far it is from here to where one can be in a square, hazards aside: from the middle of the spot, so that others share it. Units; Infinity when there is no way. */
export function lengthToArea(thinker: Thinker, area: number, within: number): number {
  const { world, persona } = thinker;
  const here = hereOf(thinker);
  const place = { x: world.areas.x[area] as number, y: world.areas.y[area] as number };
  if (world.terrain !== null) return climbFrom(thinker, world.terrain, footingOf(thinker).surface, aimAround(world, place, within));
  const vantage = vantageFrom(world, persona.sight, here.x, here.y);
  const known = vantage.toAreas.get(area);
  if (known !== undefined) return known;
  const length = findWay(world.bare, vantage, place)?.length ?? Infinity;
  vantage.toAreas.set(area, length);
  return length;
}

/** About how far it is from here to a thing, hazards aside: from the middle of the spot, so that others share it. Units. */
export function lengthTo(thinker: Thinker, placement: number): number {
  const { world, persona } = thinker;
  const here = hereOf(thinker);
  if (world.terrain !== null) return climbFrom(thinker, world.terrain, footingOf(thinker).surface, aimAt(thinker, placement));
  if (!isStill(world, placement)) return apart(here, placeOf(thinker, placement));
  const vantage = vantageFrom(world, persona.sight, here.x, here.y);
  if ((vantage.lengths[placement] as number) < 0) {
    vantage.lengths[placement] = findWay(world.bare, vantage, placeOf(thinker, placement))?.length ?? Infinity;
  }
  return vantage.lengths[placement] as number;
}

/** The length of the way between two things, hazards aside; seen from above, of those that travel the straight way. Units; Infinity when there is none. */
export function lengthBetween(thinker: Thinker, a: number, b: number): number {
  const { world, session } = thinker;
  if (world.terrain !== null) {
    const [from] = footingsFor(world, groundOf(thinker, world.terrain), aimAt(thinker, a));
    return from === undefined ? Infinity : climbFrom(thinker, world.terrain, from.surface, aimAt(thinker, b));
  }
  if (!isStill(world, a) || !isStill(world, b)) return apart(placeOf(thinker, a), placeOf(thinker, b));
  const { lengths } = world.known;
  const [first, second] = a < b ? [a, b] : [b, a];
  const key = first * session.state.form.length + second;
  const kept = lengths.get(key);
  if (kept !== undefined) return kept;
  const length = findWay(world.bare, placeOf(thinker, first), placeOf(thinker, second))?.length ?? Infinity;
  lengths.set(key, length);
  return length;
}

/** The length of the way from a thing to a place. Units; Infinity when there is none. */
export function lengthFrom(thinker: Thinker, placement: number, place: Place, within: number): number {
  const { world } = thinker;
  if (world.terrain === null) return findWay(world.bare, placeOf(thinker, placement), place)?.length ?? Infinity;
  const [from] = footingsFor(world, groundOf(thinker, world.terrain), aimAt(thinker, placement));
  return from === undefined ? Infinity : climbFrom(thinker, world.terrain, from.surface, aimAround(world, place, within));
}

/** A number that all places share between which one can come by foot. */
export function islandOf({ bare, terrain }: World, { x, y }: Place): number {
  return terrain === null ? (bare.island[cellAt(bare, x, y)] ?? -1) : 0;
}
