import type { Box, Place } from '../../geometry/index.ts';
import { isOn, passing, stepOf, type Session } from '../../session/index.ts';
import { clearOverhead, isAtStation, type Station } from '../navigation/index.ts';
import { leapKey, lengthOfRun, RUN_UP, within, type Leap, type Leg } from './air.ts';
import type { Terrain } from './leaping.ts';
import { backIn, goneIn } from './opening.ts';
import { costOf, harmfulZones, lengthThrough, lengthWithin, meetsZone, SURE_DEATH, type Planned } from './risk.ts';
import { groundOf, harmAt, hereOf, knows, paceOf, type Thinker } from './thinker.ts';
import type { World, Zone } from './world.ts';

/** Somewhere on a surface from which something is reached. */
export interface Footing {
  readonly surface: number;
  readonly x: number;
  readonly hops: boolean;
}

/** Whether a surface can be stood on before long, and nothing bars it for longer that is known: to all, where nobody is asked. */
function isThere({ compiled, terrain }: World, session: Session, surface: number, asked: Thinker | null): boolean {
  const { item, blockers } = terrain?.surfaces[surface] ?? { item: -1, blockers: [] };
  if (item < 0 || backIn(compiled, session, item) === Infinity) return false;
  return blockers.every((box) => {
    const isKnown = asked === null || knows(asked, compiled.solids.owner[box] as number);
    return !isKnown || goneIn(compiled, session, box) < Infinity;
  });
}

/** The surface that stays which a body is on, or would come down on: the nearest below it that nothing bars, at about its place; −1 for none. */
function surfaceUnder(terrain: Terrain, session: Session, x: number, y: number): number {
  let best = -1;
  let least = Infinity;
  terrain.surfaces.forEach((surface, index) => {
    if (surface.station !== null || surface.blockers.some((box) => isOn(session, box))) return;
    const aside = Math.max(0, surface.left - x, x - surface.right);
    const above = y - surface.y;
    if (above < -0.1) return;
    const distance = above + 4 * aside;
    if (distance < least) [best, least] = [index, distance];
  });
  return best;
}

/** A box to be touched; against what is solid one goes on for so far, to touch its face. Units. */
export interface Aim extends Box {
  readonly against: number;
}

/** All places on surfaces from which a box is touched, standing or by a hop. */
export function footingsFor({ compiled }: World, { surfaces, body }: Terrain, aim: Aim): Footing[] {
  const { against } = aim;
  const { hull } = compiled;
  const [halfWidth, halfHeight] = [hull.halfWidth + hull.radius, hull.halfHeight + hull.radius];
  const { gravity, jumpSpeed } = body;
  const height = gravity > 0 ? (jumpSpeed * jumpSpeed) / (2 * gravity) : 0;
  const middle = (aim.left + aim.right) / 2;
  return surfaces.flatMap((surface, index): Footing[] => {
    const left = Math.max(surface.left, aim.left - halfWidth + 0.02 - against);
    const right = Math.min(surface.right, aim.right + halfWidth - 0.02 + against);
    if (left > right || surface.y - halfHeight > aim.top) return [];
    const over = aim.bottom - (surface.y + halfHeight);
    if (over > height * 0.95) return [];
    const near = within(middle, left - against, right + against);
    if (over <= -0.02) return [{ surface: index, x: near, hops: false }];
    const x = clearOverhead(compiled, { left, right, y: surface.y }, Math.max(0, over), near);
    return x === null ? [] : [{ surface: index, x, hops: true }];
  });
}

/** How a surface is come to: from which, by which leap, null when walked; and where on it. */
interface Come {
  cost: number;
  risk: number;
  from: number;
  leap: Leap | null;
  /** Whether a platform takes one there. */
  rides: boolean;
  x: number;
  done: boolean;
}

/** What walking along a surface from one place to another costs beside its length. */
type WalkRisk = (surface: number, fromX: number, toX: number) => number;
type LeapRisk = (leap: Leap) => number;

/** Who goes, for whom only what is known of bars the way; null: anybody. And what its way costs besides its length. */
interface Care {
  readonly asked: Thinker | null;
  readonly walkRisk: WalkRisk;
  readonly leapRisk: LeapRisk;
}

const NO_CARE: Care = { asked: null, walkRisk: () => 0, leapRisk: () => 0 };

/** Where a leap is walked to before it is begun: its take-off, or far enough before it to be at full speed. */
export function beginOf(body: Terrain['body'], { runs, takeX, way }: Leap): number {
  return runs ? takeX - way * (lengthOfRun(body) + RUN_UP) : takeX;
}

/** The way along the ground to where a leap is taken off. */
function wayToTakeOff(body: Terrain['body'], x: number, leap: Leap): number {
  const begin = beginOf(body, leap);
  const isBehind = leap.runs && (x - begin) * leap.way <= 0;
  return isBehind ? Math.abs(leap.takeX - x) : Math.abs(begin - x) + Math.abs(leap.takeX - begin);
}

/** How everything is come to from a place: the cheapest first (Dijkstra, 1959). */
function comeFrom(
  world: World,
  terrain: Terrain,
  session: Session,
  surface: number,
  x: number,
  pace: number,
  { asked, walkRisk, leapRisk }: Care = NO_CARE,
): Come[] {
  const { rate } = world.compiled;
  const come = terrain.surfaces.map((): Come => ({ cost: Infinity, risk: 0, from: -1, leap: null, rides: false, x: 0, done: false }));
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
    const relax = (to: number, cost: number, risk: number, toX: number, leap: Leap | null, rides = false): void => {
      const there = come[to] as Come;
      if (here.cost + cost + risk >= there.cost || !isThere(world, session, to, asked)) return;
      come[to] = { cost: here.cost + cost + risk, risk: here.risk + risk, from: at, leap, rides, x: toX, done: false };
    };
    for (const beside of terrain.beside[at] ?? []) {
      const next = terrain.surfaces[beside];
      if (next === undefined) continue;
      const toX = within(here.x, next.left, next.right);
      relax(beside, Math.abs(toX - here.x), walkRisk(at, here.x, toX), toX, null);
    }
    for (const leap of terrain.leapsFrom(at)) {
      const item = terrain.surfaces[leap.to]?.item ?? -1;
      const wait = item < 0 ? 0 : backIn(world.compiled, session, item);
      if (wait === Infinity) continue;
      const cost = wayToTakeOff(terrain.body, here.x, leap) + ((leap.steps + leap.waits + wait) / rate) * pace;
      relax(leap.to, cost, walkRisk(at, here.x, leap.takeX) + leapRisk(leap), leap.landX, leap);
    }
    for (const { to, steps, across } of terrain.ridesFrom(at)) relax(to, (steps / rate) * pace, 0, here.x + across, null, true);
  }
}

/** The legs of a way to a surface, from the first on; who stands on a platform is taken along. */
function legsTo(terrain: Terrain, come: readonly Come[], surface: number): Leg[] {
  const { from, leap, rides, x } = come[surface] as Come;
  if (from < 0) return [];
  const { y = 0, station = null } = terrain.surfaces[surface] ?? {};
  return [...legsTo(terrain, come, from), ...(rides ? [] : [{ x, y, leap, hops: false, station }])];
}

/** A way without the places that are only walked past: one goes on from before them. */
function withoutStops({ surfaces }: Terrain, legs: readonly Leg[]): Leg[] {
  return legs.filter(({ leap, hops, station, y }, at) => {
    const next = legs[at + 1];
    if (next === undefined || leap !== null || hops || station !== null || next.station !== null) return true;
    const from = next.leap === null ? next.y : (surfaces[next.leap.from]?.y ?? y);
    return Math.abs(from - y) > 1e-3;
  });
}

/** A platform is asked after for so long ahead, every so many steps. Seconds. */
const LONGEST_RIDE = 60;
const ASKED_EVERY = 6;

/** The surface a platform will be at its next station; −1 when it has none. */
function nextStation({ compiled }: World, { surfaces }: Terrain, session: Session, item: number): number {
  const own = surfaces.flatMap(({ station }, surface) => (station?.item === item ? [{ station, surface }] : []));
  const now = stepOf(session);
  for (let step = now; own.length > 0 && step <= now + LONGEST_RIDE * compiled.rate; step += ASKED_EVERY) {
    const there = own.find(({ station }) => isAtStation(compiled, station, step));
    if (there !== undefined) return there.surface;
  }
  return -1;
}

/** How far a platform is off from its station now, across; 0 for what stays. Units. */
export function offStation({ compiled }: World, session: Session, station: Station | null): number {
  if (station === null) return 0;
  isAtStation(compiled, station, stepOf(session));
  return passing.x;
}

/** The platform that a body in the air is above, higher than what stays beneath; −1 when it is above none. */
function platformUnder({ compiled }: World, { surfaces }: Terrain, session: Session, { x, y }: Place, under: number): number {
  let best = -1;
  let highest = surfaces[under]?.y ?? -Infinity;
  for (const { station, left, right, y: stands } of surfaces) {
    if (station === null) continue;
    isAtStation(compiled, station, stepOf(session));
    const top = stands + passing.y;
    if (top <= highest || y < top - 0.1 || x < left + passing.x || x > right + passing.x) continue;
    highest = top;
    best = station.item;
  }
  return best;
}

/** The surface a body stands on, or would come down on, and the place on it. */
export function footingOf(thinker: Thinker): { readonly surface: number; readonly x: number } {
  const { world, session, player } = thinker;
  const { x, y } = hereOf(thinker);
  const terrain = world.terrain as Terrain;
  const floor = session.state.floor[player] as number;
  const surface = surfaceUnder(terrain, session, x, y);
  const platform = floor < 0 ? platformUnder(world, terrain, session, { x, y }, surface) : floor;
  const ridden = platform >= world.compiled.solids.firstMoving ? nextStation(world, terrain, session, platform) : -1;
  if (ridden >= 0) return { surface: ridden, x: x - offStation(world, session, terrain.surfaces[ridden]?.station ?? null) };
  const on = terrain.surfaces[surface];
  return { surface, x: on === undefined ? x : within(x, on.left, on.right) };
}

/** The zones that a leap goes through, or so near to that it may, and how far. Units. */
function zonesOnLeap({ zones, onLeaps }: World, leap: Leap): readonly { readonly zone: number; readonly length: number }[] {
  const known = onLeaps.get(leap);
  if (known !== undefined) return known;
  const { track } = leap;
  const went = Array.from({ length: track.length / 2 }, (_, at): Place => ({ x: track[2 * at] as number, y: track[2 * at + 1] as number }));
  const found = [...zones.keys()].flatMap((zone) => {
    const [from, ...places] = went;
    const { solid, wide } = zones[zone] as Zone;
    const length = from === undefined || solid ? 0 : lengthWithin({ box: wide }, from, places);
    return length > 0 ? [{ zone, length }] : [];
  });
  onLeaps.set(leap, found);
  return found;
}

/** A leap that has been missed so often is taken for one that nobody survives. */
const MOST_MISSES = 3;

/** The way over surfaces that costs a persona least to come to where a box is touched, that of a thing or −1; null when there is none. */
export function planClimb(thinker: Thinker, ground: Terrain, aim: Aim, own = -1): Planned | null {
  const { world, session, mind } = thinker;
  const terrain = groundOf(thinker, ground);
  const { surface, x } = footingOf(thinker);
  if (surface < 0) return null;
  const harmful = harmfulZones(thinker);
  /** What so much of a way within a zone costs. */
  const cost = (number: number, length: number): number => {
    const zone = world.zones[number] as Zone;
    const harm = length > 0 ? harmAt(thinker, zone.placement) : null;
    return harm === null ? 0 : costOf(thinker, zone.placement, harm, length, meetsZone(zone, hereOf(thinker), own));
  };
  const walkRisk: WalkRisk = (at, fromX, toX) => {
    const y = terrain.surfaces[at]?.y ?? 0;
    if (fromX === toX) return 0;
    return harmful.reduce(
      (sum, number) => sum + cost(number, lengthThrough(world.zones[number] as Zone, { x: fromX, y }, { x: toX, y })),
      0,
    );
  };
  const leapRisk: LeapRisk = (leap) => {
    const risk = zonesOnLeap(world, leap).reduce((sum, { zone, length }) => {
      const risked = harmful.includes(zone) ? cost(zone, length) : 0;
      // Past what kills one may go, with care.
      return sum + (leap.isClose && risked >= SURE_DEATH ? risked - SURE_DEATH : risked);
    }, 0);
    const key = leapKey(leap);
    return mind.missed.filter((missed) => missed === key).length < MOST_MISSES ? risk : risk + SURE_DEATH;
  };
  const pace = paceOf(thinker);
  const come = comeFrom(world, terrain, session, surface, x, pace, { asked: thinker, walkRisk, leapRisk });
  let best: { footing: Footing; whole: number; risk: number } | null = null;
  for (const footing of footingsFor(world, terrain, aim)) {
    const there = come[footing.surface] as Come;
    const risk = there.cost === Infinity ? 0 : walkRisk(footing.surface, there.x, footing.x);
    const whole = there.cost + Math.abs(footing.x - there.x) + risk + (footing.hops ? 0.3 * pace : 0);
    if (whole < (best?.whole ?? Infinity)) best = { footing, whole, risk: there.risk + risk };
  }
  if (best === null) return null;
  const { footing, whole, risk } = best;
  const { y = 0, station = null } = terrain.surfaces[footing.surface] ?? {};
  const last: Leg = { x: footing.x, y, leap: null, hops: footing.hops, station };
  const legs = withoutStops(terrain, [...legsTo(terrain, come, footing.surface), last]);
  return { legs, places: legs, length: whole - risk, risk };
}

const reaches = new WeakMap<Terrain, Map<string, readonly Come[]>>();

/** How far it is from the middle of a surface, risks aside, as the boxes of things are now: remembered. Units. */
export function lengthFromSurface(world: World, terrain: Terrain, session: Session, surface: number, aim: Aim): number {
  const known = reaches.get(terrain) ?? new Map<string, readonly Come[]>();
  reaches.set(terrain, known);
  const { owner } = world.compiled.solids;
  let key = `${String(surface)}:`;
  owner.forEach((placement, item) => {
    if (placement >= 0 && item < world.compiled.solids.firstMoving && backIn(world.compiled, session, item) === Infinity)
      key += ` ${String(item)}`;
  });
  const on = terrain.surfaces[surface];
  const come =
    known.get(key) ?? comeFrom(world, terrain, session, surface, on === undefined ? 0 : (on.left + on.right) / 2, terrain.body.speed);
  known.set(key, come);
  return Math.min(
    Infinity,
    ...footingsFor(world, terrain, aim).map((footing) => {
      const there = come[footing.surface] as Come;
      return there.cost + Math.abs(footing.x - there.x);
    }),
  );
}
