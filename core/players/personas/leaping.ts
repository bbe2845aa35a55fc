import type { Box } from '../../geometry/index.ts';
import { compile, keeping, type Compiled } from '../../session/index.ts';
import { besideOf, meanWait, rideSteps, stationsOf, surfacesOf, type Station, type Surface } from '../navigation/index.ts';
import { lengthOfRun, RUN_UP, within, type Leap } from './air.ts';
import { beginningsIn, beginningsOn } from './throwing.ts';
import { bareLevel, standable, Trials, type Attempt, type Thrower } from './trials.ts';
import { yieldingOf } from './yielding.ts';

/** What a level is to a body that walks, jumps and falls: where it can stand, and how it comes from one place to another. */
export interface Terrain {
  readonly surfaces: readonly Surface[];
  /** Surfaces that go on at the ends of each. */
  readonly beside: readonly (readonly number[])[];
  /** The leaps from each surface; tried out when first asked for. */
  readonly leapsFrom: (surface: number) => readonly Leap[];
  /** The solids that go once somebody has come onto them, and after how long. Seconds. */
  readonly yielding: ReadonlyMap<number, number>;
  /** From a platform at a station, to where it takes who stands on it. */
  readonly ridesFrom: (surface: number) => readonly Ride[];
}

/** To which surface a platform takes who stands on it, in how many steps, and how far across. Units. */
interface Ride {
  readonly to: number;
  readonly steps: number;
  readonly across: number;
}

/** How far from the ends of a surface one comes down, where there is room; and where a platform may be a little off its station. Units. */
const LANDING = 0.25;
const LANDING_OFF = 0.6;
/** So far from the ends of a surface one comes down for certain, all the same. Units. */
const CERTAIN = 0.35;

/** So much longer one would rather wait for a platform to come nearer, for each unit that it is off, and for a run-up. Seconds. */
const WIDE_SECONDS = 1.5;
const RUN_SECONDS = 3;

/** So far before a harm, or a wall, a leap over it is begun, the first that clears it. Units. */
const EARLIER = [1, 0.7, 0.4];

/** So much sooner than what gives way allows one leaps off it, the latest that reaches. Units; and so long it takes to come to a run there. Seconds. */
const SOONER = [0, 0.4, 0.8];
const ARRIVES = 0.2;

/** How far from the end of a surface a leap is begun; where a platform that comes may push. Units. */
const EDGE = 0.02;
const EDGE_OFF = 0.25;

/** How far from what it steers for a leap comes down. Units. */
const off = ({ aimX, landX }: Leap): number => Math.abs(aimX - landX);

/** Whether two surfaces of one ground lie on either side of a box. */
function isApart(a: Surface, b: Surface, boxes: readonly Box[]): boolean {
  const [from, to] = [Math.min(a.right, b.right), Math.max(a.left, b.left)];
  return a.item === b.item && boxes.some(({ left, right, bottom, top }) => left >= from && right <= to && bottom < a.y && top > a.y);
}

/** Whether a leap comes into a box. */
function goesThrough({ track }: Leap, { left, right, bottom, top }: Box): boolean {
  for (let at = 0; at < track.length; at += 2) {
    const [x, y] = [track[at] as number, track[at + 1] as number];
    if (x > left && x < right && y > bottom && y < top) return true;
  }
  return false;
}

/** The places from which a leap to another surface may be begun: the ends, and where its own ends lie overhead. */
function takeOffs(a: Surface, b: Surface, width: number): { x: number; way: number }[] {
  const edge = a.station !== null || b.station !== null ? Math.min(EDGE_OFF, (a.right - a.left) / 4) : EDGE;
  if (b.left >= a.right) return [{ x: a.right - edge, way: 1 }];
  if (b.right <= a.left) return [{ x: a.left + edge, way: -1 }];
  const xs =
    b.y > a.y
      ? [
          { x: within((Math.max(a.left, b.left) + Math.min(a.right, b.right)) / 2, a.left, a.right), way: 0 },
          { x: b.left - width / 2 - 0.05, way: 1 },
          { x: b.right + width / 2 + 0.05, way: -1 },
        ]
      : [
          { x: a.right - edge, way: 1 },
          { x: a.left + edge, way: -1 },
        ];
  return xs.filter(({ x }) => x >= a.left && x <= a.right);
}

const keptTerrain = keeping<Terrain>();

/**
 * What surfaces and leaps there are for the body of a level; the same again as long as nothing that a body meets has changed. Surfaces
 * end where a body comes into one of some boxes, so that there are leaps over them.
 */
export function terrainOf(compiled: Compiled, boxes: readonly Box[]): Terrain {
  const stations = stationsOf(compiled);
  const { bare, throwers } = bareLevel(compiled, stations);
  const { x, y, halfWidth, halfHeight, faces, owner } = compiled.solids;
  const { movers, ids, rate } = compiled;
  const timing = stations.length === 0 ? null : [[...movers.legs.begin], [...movers.round], [...movers.offset]];
  const parts = { kinds: bare.kinds, placements: bare.placements, solids: bare.solids, body: bare.body, size: bare.size, timing };
  const yielding = yieldingOf(compiled);
  const inputs = [
    JSON.stringify({ ...parts, boxes, yielding: [...yielding] }),
    rate,
    ids.placements,
    x,
    y,
    halfWidth,
    halfHeight,
    faces,
    owner,
  ];
  return keptTerrain(inputs, () => createTerrain(compiled, compile(bare, compiled.rate), throwers, stations, boxes, yielding));
}

interface Ground {
  readonly compiled: Compiled;
  readonly surfaces: readonly Surface[];
  /** What leaps keep out of where they can. */
  readonly boxes: readonly Box[];
  readonly trials: Trials;
}

/** The first of some ways to begin a leap that comes down on a surface; if there is one, of those that keep out of all boxes. */
function firstLeap({ compiled, surfaces, boxes, trials }: Ground, from: number, to: number, attempts: readonly Attempt[]): Leap[] {
  const [a, b] = [surfaces[from] as Surface, surfaces[to] as Surface];
  let crossing: Leap | null = null;
  for (const attempt of attempts) {
    const leap = trials.try(from, to, attempt);
    if (leap?.to !== to) continue;
    if (a.station === null && b.station === null) {
      if (!boxes.some((box) => goesThrough(leap, box))) return [leap];
      // Through a harm on the same ground one rather walks: that can be timed.
      if (!isApart(a, b, boxes)) crossing ??= leap;
      continue;
    }
    if (Math.min(leap.landX - b.left, b.right - leap.landX) < Math.min(CERTAIN, (b.right - b.left) / 4)) continue;
    const waits = meanWait(compiled, a.station, b.station, leap.steps);
    const gap = Math.max(0, b.left - a.right, a.left - b.right);
    const dares = (WIDE_SECONDS * gap + (leap.runs ? RUN_SECONDS : 0)) * compiled.rate;
    if (waits < Infinity) return [{ ...leap, waits: waits + dares }];
  }
  return crossing === null ? [] : [crossing];
}

function createTerrain(
  compiled: Compiled,
  bare: Compiled,
  throwers: readonly Thrower[],
  stations: readonly Station[],
  boxes: readonly Box[],
  yielding: ReadonlyMap<number, number>,
): Terrain {
  const surfaces = standable(compiled, bare, surfacesOf(compiled, stations, boxes), stations);
  const beside = besideOf(surfaces);
  const trials = new Trials(bare, surfaces, stations);
  const ground: Ground = { compiled, surfaces, boxes, trials };
  const { body } = compiled.level;
  const width = body.width;
  const height = body.gravity > 0 ? (body.jumpSpeed * body.jumpSpeed) / (2 * body.gravity) : 1000;
  const fallSeconds = (drop: number): number => (body.gravity > 0 ? Math.sqrt((2 * Math.max(0, drop)) / body.gravity) : 10);
  const run = lengthOfRun(body);

  const between = (from: number, to: number): Leap[] => {
    const [a, b] = [surfaces[from] as Surface, surfaces[to] as Surface];
    // A platform carries from one of its stations to another.
    if (a.station !== null && a.station.placement === b.station?.placement) return [];
    const gap = Math.max(0, b.left - a.right, a.left - b.right);
    const rise = b.y - a.y;
    if (rise > height + 0.02) return [];
    const seconds = body.jumpSpeed / Math.max(1, body.gravity) + fallSeconds(height - rise);
    if (gap > body.speed * seconds + 0.2) return [];
    return firstLeap(
      ground,
      from,
      to,
      takeOffs(a, b, width).flatMap(({ x, way }): Attempt[] => {
        const landing = a.station !== null || b.station !== null ? LANDING_OFF : LANDING;
        const aimX = within(within(x, b.left + landing, b.right - landing), b.left, b.right);
        const room = way === 0 ? 0 : way > 0 ? x - a.left : a.right - x;
        const plain = { takeX: x, way, aimX, thrower: -1, throwerX: 0 };
        const falls: Attempt[] = rise < -0.05 && way !== 0 ? [{ ...plain, runs: false, jumps: false, hold: 0 }] : [];
        const stands: Attempt = { ...plain, way, runs: false, jumps: true, hold: 1000 };
        const runs: Attempt[] = room >= run && a.station === null ? [{ ...stands, runs: true }] : [];
        // Well before: over a harm on the same ground, and up to what is higher where nothing steers in the air.
        const early = EARLIER.filter((by) => room >= run + by).map((by): Attempt => ({ ...stands, takeX: x - way * by, runs: true }));
        if (isApart(a, b, boxes)) return early;
        const usual = [...falls, stands, ...runs, { ...stands, hold: Math.round(compiled.rate * 0.12) }];
        // What gives way before one is over it is leapt off as late as that allows.
        const longest = (yielding.get(a.item) ?? Infinity) - ARRIVES;
        if (way !== 0 && (a.right - a.left) / body.speed > longest) {
          const furthest = Math.min(Math.max(run + RUN_UP, longest * body.speed), a.right - a.left - LANDING);
          const soon = SOONER.map((by): Attempt => ({
            ...stands,
            takeX: x - way * (a.right - a.left - LANDING - furthest + by),
            runs: true,
          }));
          return [...soon.filter(({ takeX }) => (takeX - (way > 0 ? a.left : a.right)) * way >= LANDING + run + RUN_UP - 0.01), ...usual];
        }
        return rise > 0 && way !== 0 && a.station === null ? [...usual, ...early] : usual;
      }),
    );
  };

  const thrown = (from: number): Leap[] => {
    const a = surfaces[from] as Surface;
    if (a.station !== null) return [];
    return throwers.flatMap((thrower): Leap[] => {
      const beginnings = thrower.kind.solid === null ? beginningsIn(compiled, a, thrower) : beginningsOn(compiled, a, thrower, height);
      const targets = surfaces.filter((b) => b.station === null && b.y > a.y + height * 0.5 && Math.abs(b.y - thrower.y) < 40);
      const best = new Map<number, Leap>();
      for (const beginning of beginnings) {
        for (const b of targets) {
          const aimX = within(thrower.x, b.left + LANDING, b.right - LANDING);
          const leap = trials.try(from, from, { ...beginning, runs: false, hold: 1000, thrower: thrower.placement, aimX });
          if (leap === null) continue;
          const known = best.get(leap.to);
          const isBetter =
            known === undefined || off(leap) < off(known) - 0.1 || (off(leap) < off(known) + 0.1 && leap.steps < known.steps);
          if (isBetter) best.set(leap.to, leap);
        }
      }
      return [...best.values()];
    });
  };

  return {
    surfaces,
    beside,
    yielding,
    leapsFrom: remembered((from) => {
      const others = [...surfaces.keys()].filter((to) => to !== from && beside[from]?.includes(to) !== true);
      return [...others.flatMap((to) => between(from, to)), ...thrown(from)];
    }),
    ridesFrom: remembered((from) => ridesOn(compiled, surfaces, from)),
  };
}

/** What is worked out for each surface when it is first asked for. */
function remembered<Value>(make: (surface: number) => Value): (surface: number) => Value {
  const known = new Map<number, Value>();
  return (surface) => {
    const value = known.get(surface) ?? make(surface);
    known.set(surface, value);
    return value;
  };
}

/** Where a platform takes who stands on it. */
function ridesOn(compiled: Compiled, surfaces: readonly Surface[], from: number): Ride[] {
  const here = surfaces[from]?.station ?? null;
  if (here === null) return [];
  return surfaces.flatMap(({ station }, to): Ride[] => {
    if (station === null || station === here || station.placement !== here.placement) return [];
    const steps = rideSteps(compiled, here, station);
    return steps < Infinity ? [{ to, steps, across: station.x - here.x }] : [];
  });
}
