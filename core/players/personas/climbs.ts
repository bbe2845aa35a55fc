import { valueIn } from '../../geometry/index.ts';
import { countingSlot, NEVER, stepOf, type Session } from '../../session/index.ts';
import type { Leap, Leg } from './air.ts';
import type { Terrain } from './leaping.ts';
import { costOf, harmfulZones, paceOf, withinZone, type Planned, type Thinker } from './risk.ts';
import type { World, Zone } from './world.ts';

/** Somewhere on a surface from which something is reached. */
export interface Footing {
  readonly surface: number;
  readonly x: number;
  readonly hops: boolean;
}

/** Somewhere to come to: where, and how far from it is near enough: to each side for boxes, around for places. Units. */
export interface Aim {
  readonly left: number;
  readonly bottom: number;
  readonly right: number;
  readonly top: number;
}

const within = (value: number, low: number, high: number): number => Math.max(low, Math.min(high, value));

/** For how long a solid is not there yet, in steps: 0 when it is, Infinity when it does not come back by itself. */
export function backIn({ compiled }: World, session: Session, item: number): number {
  if (session.scratch.solids.on[item] === 1) return 0;
  const owner = valueIn(compiled.solids.owner, item);
  if (owner < 0) return 0;
  const due = valueIn(session.state.phaseDue, countingSlot(session, owner, 0));
  return due === NEVER ? Infinity : Math.max(1, due - stepOf(session));
}

/** Whether a surface can be stood on before long, and nothing bars it. */
function isThere(world: World, session: Session, surface: number): boolean {
  const { item, blockers } = (world.terrain as Terrain).surfaces[surface] ?? { item: -1, blockers: [] };
  return item >= 0 && backIn(world, session, item) < Infinity && blockers.every((box) => session.scratch.solids.on[box] === 0);
}

/** The surface a body is on, or would come down on: the nearest below it, at about its place; −1 for none. */
export function surfaceUnder(terrain: Terrain, x: number, y: number): number {
  let best = -1;
  let least = Infinity;
  terrain.surfaces.forEach((surface, index) => {
    const aside = Math.max(0, surface.left - x, x - surface.right);
    const above = y - surface.y;
    if (above < -0.1) return;
    const distance = above + 4 * aside;
    if (distance < least) [best, least] = [index, distance];
  });
  return best;
}

/** All places on surfaces from which an aim is touched, standing or by a hop. */
export function footingsFor({ compiled, terrain }: World, aim: Aim): Footing[] {
  const { hull, level } = compiled;
  const [halfWidth, halfHeight] = [hull.halfWidth + hull.radius, hull.halfHeight + hull.radius];
  const { gravity, jumpSpeed } = level.body;
  const height = gravity > 0 ? (jumpSpeed * jumpSpeed) / (2 * gravity) : 0;
  const middle = (aim.left + aim.right) / 2;
  return (terrain?.surfaces ?? []).flatMap((surface, index): Footing[] => {
    const left = Math.max(surface.left, aim.left - halfWidth + 0.02);
    const right = Math.min(surface.right, aim.right + halfWidth - 0.02);
    if (left > right || surface.y - halfHeight > aim.top) return [];
    const over = aim.bottom - (surface.y + halfHeight);
    if (over > height * 0.95) return [];
    return [{ surface: index, x: within(middle, left, right), hops: over > -0.02 }];
  });
}

/** How a surface is come to: from which, by which leap, null when walked; and where on it. */
interface Come {
  cost: number;
  risk: number;
  from: number;
  leap: Leap | null;
  x: number;
  done: boolean;
}

/** What walking along a surface from one place to another costs beside its length. */
type WalkRisk = (surface: number, fromX: number, toX: number) => number;
type LeapRisk = (leap: Leap) => number;

const NO_RISK = (): number => 0;

/** How far a run-up is begun before a take-off, besides the way it takes to be at full speed. Units. */
export const RUN_UP = 0.4;

/** The way along the ground to where a leap is taken off. */
function wayToTakeOff({ compiled }: World, x: number, leap: Leap): number {
  const { speed, acceleration } = compiled.level.body;
  const begin = leap.runs ? leap.takeX - leap.way * ((speed * speed) / (2 * acceleration) + RUN_UP) : leap.takeX;
  const behind = leap.runs && (leap.takeX - x) * leap.way >= (begin - x) * leap.way && (x - begin) * leap.way <= 0;
  return behind ? Math.abs(leap.takeX - x) : Math.abs(begin - x) + Math.abs(leap.takeX - begin);
}

/** How everything is come to from a place: the cheapest first (Dijkstra, 1959), up to the first that is asked for. */
function comeFrom(
  world: World,
  session: Session,
  surface: number,
  x: number,
  pace: number,
  walkRisk: WalkRisk = NO_RISK,
  leapRisk: LeapRisk = NO_RISK,
): Come[] {
  const terrain = world.terrain as Terrain;
  const { rate } = world.compiled;
  const come = terrain.surfaces.map((): Come => ({ cost: Infinity, risk: 0, from: -1, leap: null, x: 0, done: false }));
  const first = come[surface];
  if (first === undefined) return come;
  first.cost = 0;
  first.x = x;
  for (;;) {
    let at = -1;
    for (let index = 0; index < come.length; index += 1) {
      const one = come[index] as Come;
      if (!one.done && one.cost < Infinity && (at < 0 || one.cost < (come[at] as Come).cost)) at = index;
    }
    if (at < 0) return come;
    const here = come[at] as Come;
    here.done = true;
    const relax = (to: number, cost: number, risk: number, toX: number, leap: Leap | null): void => {
      const there = come[to] as Come;
      if (here.cost + cost + risk >= there.cost || !isThere(world, session, to)) return;
      come[to] = { cost: here.cost + cost + risk, risk: here.risk + risk, from: at, leap, x: toX, done: false };
    };
    for (const beside of terrain.beside[at] ?? []) {
      const next = terrain.surfaces[beside];
      if (next === undefined) continue;
      const toX = within(here.x, next.left, next.right);
      relax(beside, Math.abs(toX - here.x), walkRisk(at, here.x, toX), toX, null);
    }
    for (const leap of terrain.leapsFrom(at)) {
      const item = terrain.surfaces[leap.to]?.item ?? -1;
      const wait = item < 0 ? 0 : backIn(world, session, item);
      if (wait === Infinity) continue;
      const cost = wayToTakeOff(world, here.x, leap) + ((leap.steps + wait) / rate) * pace;
      relax(leap.to, cost, walkRisk(at, here.x, leap.takeX) + leapRisk(leap), leap.landX, leap);
    }
  }
}

/** The legs of a way to a surface, from the first on. */
function legsTo(terrain: Terrain, come: readonly Come[], surface: number): Leg[] {
  const { from, leap, x } = come[surface] as Come;
  if (from < 0) return [];
  const y = terrain.surfaces[surface]?.y ?? 0;
  return [...legsTo(terrain, come, from), { x, y, leap, hops: false }];
}

/** Whether the body is on its feet, or where it will be: the surface and the place on it. */
function footingOf({ world, session, player }: Thinker): { readonly surface: number; readonly x: number } {
  const x = valueIn(session.state.playerX, player);
  const surface = surfaceUnder(world.terrain as Terrain, x, valueIn(session.state.playerY, player));
  const on = (world.terrain as Terrain).surfaces[surface];
  return { surface, x: on === undefined ? x : within(x, on.left, on.right) };
}

/** The zones that a leap goes through, and how far. Units. */
function zonesOnLeap({ zones, onLeaps }: World, leap: Leap): readonly { readonly zone: number; readonly length: number }[] {
  const known = onLeaps.get(leap);
  if (known !== undefined) return known;
  const { track } = leap;
  const found = [...zones.keys()].flatMap((zone) => {
    let length = 0;
    for (let at = 2; at < track.length; at += 2) {
      const from = { x: valueIn(track, at - 2), y: valueIn(track, at - 1) };
      const to = { x: valueIn(track, at), y: valueIn(track, at + 1) };
      const span = withinZone(zones[zone] as Zone, from, to);
      if (span !== null) length += (span.leave - span.enter) * apartBy(from, to);
    }
    return length > 0 && !(zones[zone] as Zone).solid ? [{ zone, length }] : [];
  });
  onLeaps.set(leap, found);
  return found;
}

const apartBy = (a: { x: number; y: number }, b: { x: number; y: number }): number =>
  Math.sqrt((b.x - a.x) * (b.x - a.x) + (b.y - a.y) * (b.y - a.y));

/** The way over surfaces that costs a persona least to come to where an aim is touched; null when there is none. */
export function planClimb(thinker: Thinker, aim: Aim): Planned | null {
  const { world, session, player } = thinker;
  const terrain = world.terrain as Terrain;
  const { surface, x } = footingOf(thinker);
  if (surface < 0) return null;
  const harmful = harmfulZones(thinker);
  const risky = (from: { x: number; y: number }, to: { x: number; y: number }): number => {
    let cost = 0;
    for (const number of harmful) {
      const zone = world.zones[number] as Zone;
      const span = withinZone(zone, from, to);
      const harm = world.deeds[player]?.[valueIn(session.state.form, zone.placement)]?.harm ?? null;
      if (span === null || harm === null) continue;
      const length = Math.sqrt((to.x - from.x) * (to.x - from.x) + (to.y - from.y) * (to.y - from.y));
      cost += costOf(thinker, zone.placement, harm, length * (span.leave - span.enter));
    }
    return cost;
  };
  const walkRisk: WalkRisk = (at, fromX, toX) => {
    const y = terrain.surfaces[at]?.y ?? 0;
    return harmful.length === 0 || fromX === toX ? 0 : risky({ x: fromX, y }, { x: toX, y });
  };
  const leapRisk: LeapRisk = (leap) => {
    let cost = 0;
    for (const { zone: number, length } of zonesOnLeap(world, leap)) {
      const { placement } = world.zones[number] as Zone;
      const harm = world.deeds[player]?.[valueIn(session.state.form, placement)]?.harm ?? null;
      if (harm !== null && harmful.includes(number)) cost += costOf(thinker, placement, harm, length);
    }
    return cost;
  };
  const pace = paceOf(thinker);
  const come = comeFrom(world, session, surface, x, pace, walkRisk, leapRisk);
  let best: { footing: Footing; cost: number; risk: number } | null = null;
  for (const footing of footingsFor(world, aim)) {
    const there = come[footing.surface] as Come;
    const risk = there.cost === Infinity ? 0 : walkRisk(footing.surface, there.x, footing.x);
    const cost = there.cost + Math.abs(footing.x - there.x) + risk + (footing.hops ? 0.3 * pace : 0);
    if (cost < (best?.cost ?? Infinity)) best = { footing, cost, risk: there.risk + risk };
  }
  if (best === null) return null;
  const { footing, cost, risk } = best;
  const last: Leg = { x: footing.x, y: terrain.surfaces[footing.surface]?.y ?? 0, leap: null, hops: footing.hops };
  const legs = [...legsTo(terrain, come, footing.surface), last];
  return { legs, places: legs, length: cost - risk, risk };
}

const reaches = new WeakMap<Terrain, Map<string, readonly Come[]>>();

/** How far it is from the middle of a surface, risks aside, as the boxes of things are now: remembered. Units. */
export function lengthFromSurface(world: World, session: Session, surface: number, aim: Aim): number {
  const terrain = world.terrain as Terrain;
  const known = reaches.get(terrain) ?? new Map<string, readonly Come[]>();
  reaches.set(terrain, known);
  const { owner } = world.compiled.solids;
  let key = `${String(surface)}:`;
  owner.forEach((placement, item) => {
    if (placement >= 0 && item < world.compiled.solids.firstMoving && backIn(world, session, item) === Infinity) key += ` ${String(item)}`;
  });
  const on = terrain.surfaces[surface];
  const come =
    known.get(key) ?? comeFrom(world, session, surface, on === undefined ? 0 : (on.left + on.right) / 2, world.compiled.level.body.speed);
  known.set(key, come);
  return Math.min(
    Infinity,
    ...footingsFor(world, aim).map((footing) => {
      const there = come[footing.surface] as Come;
      return there.cost + Math.abs(footing.x - there.x);
    }),
  );
}
