import type { Level } from '../../level/index.ts';
import { compile, keeping, type Compiled } from '../../session/index.ts';
import { besideOf, meanWait, rideSteps, stationsOf, surfacesOf, type Station, type Surface } from '../navigation/index.ts';
import { lengthOfRun, RUN_UP, within, type Leap } from './air.ts';
import { jumpHeight, lightPlaces, type LightPlace } from './lightness.ts';
import { comesInto, goesThrough, isApart, type Obstacle } from './obstacles.ts';
import { touchBoxOf } from './extent.ts';
import { beginningsAt, beginningsIn, beginningsOn, isUpdraft, throwsAside } from './throwing.ts';
import { bareLevel, standable, Trials, type Attempt, type Thrower } from './trials.ts';
import { yieldingOf } from './yielding.ts';

/** What a level is to a body that walks, jumps and falls: where it can stand, and how it comes from one place to another. */
export interface Terrain {
  readonly body: Level['body'];
  readonly surfaces: readonly Surface[];
  /** Surfaces that go on at the ends of each. */
  readonly beside: readonly (readonly number[])[];
  /** The leaps from each surface; tried out when first asked for. */
  readonly leapsFrom: (surface: number) => readonly Leap[];
  /** The solids that go once somebody has come onto them, and after how long. Seconds. */
  readonly yielding: ReadonlyMap<number, number>;
  /** From a platform at a station, to where it takes who stands on it. */
  readonly ridesFrom: (surface: number) => readonly Ride[];
  /** The same for a body that moves otherwise for a while. */
  readonly as: (body: Level['body']) => Terrain;
}

/** To which surface a platform takes who stands on it, in how many steps, and how far across. Units. */
interface Ride {
  readonly to: number;
  readonly steps: number;
  readonly across: number;
}

/** How far from the ends of a surface one comes down, where there is room; and where a platform may be a little off its station. Units. */
const LANDING = 0.4;
/** And at least, where further in lies what throws one. Units. */
const LEAST_LANDING = 0.25;
const LANDING_OFF = 0.6;
/** So far from the ends one would come down who is thrown to the side: from where it can do so best, it gets there surest. Units. */
const THROWN_LANDING = 1;
/** So far from the ends of a surface one comes down for certain, all the same. Units. */
const CERTAIN = 0.35;
/** So far off its station what travels may be as one leaps. Units. */
const OFF_STATION = 0.35;

/** So much longer one would rather wait for a platform to come nearer, for each unit that it is off, and for a run-up. Seconds. */
const WIDE_SECONDS = 1.5;
const RUN_SECONDS = 3;

/** So far before a harm, or a wall, a leap over it is begun, the first that clears it. Units. */
const EARLIER = [1, 0.7, 0.4];

/** So far before an edge a leap with a run-up is begun where it reaches from there. Units. */
const SAFELY = 0.4;
/** So much longer one would rather be on one's way than begin one at the very edge. Seconds. */
const TIGHT_SECONDS = 1.5;

/** So much sooner than what gives way allows one leaps off it, the latest that reaches. Units; and so long it takes to come to a run there. Seconds. */
const SOONER = [0, 0.4, 0.8];
const ARRIVES = 0.2;

/** How far from the end of a surface a leap is begun; where a platform that comes may push. Units. */
const EDGE = 0.02;
const EDGE_OFF = 0.25;

/** How far from what it steers for a leap comes down. Units. */
const off = ({ aimX, landX }: Leap): number => Math.abs(aimX - landX);

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

/** The place in which one jumps higher from which a leap to another surface may be begun: the nearest to that. */
function takeOffIn({ box }: LightPlace, a: Surface, b: Surface): { x: number; way: number } {
  const [left, right] = [Math.max(a.left, box.left), Math.min(a.right, box.right)];
  const x = within((b.left + b.right) / 2, left, right);
  return { x, way: b.left > x ? 1 : b.right < x ? -1 : 0 };
}

/** Where a body that is thrown comes down on a surface: near to what throws, but out of what would go on carrying it up. */
function aimIn(compiled: Compiled, { placement, x, kind }: Thrower, { left, right }: Surface): number {
  const landing = throwsAside(kind) ? THROWN_LANDING : LANDING;
  const aimX = within(x, left + landing, right - landing);
  const box = isUpdraft(kind) ? touchBoxOf(compiled, placement) : null;
  if (box === null || aimX < box.left || aimX > box.right) return aimX;
  const beside = [box.left - LANDING, box.right + LANDING].filter((place) => place >= left && place <= right);
  return beside.reduce((best, place) => (Math.abs(place - x) < Math.abs(best - x) ? place : best), beside[0] ?? aimX);
}

/** So far above where it is to come down a body leaves what carries it up. Units. */
const OVER = 0.3;

const keptTerrain = keeping<Terrain>();

/**
 * What surfaces and leaps there are for the body of a level; the same again as long as nothing that a body meets has changed. Surfaces
 * end where a body comes into one of some boxes, so that there are leaps over them.
 */
export function terrainOf(compiled: Compiled, obstacles: readonly Obstacle[]): Terrain {
  const stations = stationsOf(compiled);
  const { bare, throwers } = bareLevel(compiled, stations);
  const { x, y, halfWidth, halfHeight, faces, owner } = compiled.solids;
  const { movers, ids, rate } = compiled;
  const timing = stations.length === 0 ? null : [[...movers.legs.begin], [...movers.round], [...movers.offset]];
  const parts = { kinds: bare.kinds, placements: bare.placements, solids: bare.solids, body: bare.body, size: bare.size, timing };
  const yielding = yieldingOf(compiled);
  const inputs = [
    JSON.stringify({ ...parts, obstacles, yielding: [...yielding] }),
    rate,
    ids.placements,
    x,
    y,
    halfWidth,
    halfHeight,
    faces,
    owner,
  ];
  return keptTerrain(inputs, () => createTerrain(compiled, bare, throwers, stations, obstacles, yielding));
}

interface Ground {
  readonly compiled: Compiled;
  readonly surfaces: readonly Surface[];
  readonly obstacles: readonly Obstacle[];
  readonly trials: Trials;
}

/** Whether a leap is begun with a run-up at the very edge: a moment later one falls. */
const isTight = ({ left, right }: Surface, { runs, way, takeX }: Leap): boolean =>
  runs && (way > 0 ? right - takeX : takeX - left) < SAFELY / 2;

/** The first of some ways to begin a leap that comes down on a surface; of those that keep out of all obstacles if there is one, with their berths or without. */
function firstLeap({ compiled, surfaces, obstacles, trials }: Ground, from: number, to: number, attempts: readonly Attempt[]): Leap[] {
  const [a, b] = [surfaces[from] as Surface, surfaces[to] as Surface];
  const lethal = obstacles.filter(({ kills }) => kills);
  let [close, crossing]: (Leap | null)[] = [null, null];
  for (const attempt of attempts) {
    const leap = trials.try(from, to, attempt);
    if (leap?.to !== to) continue;
    if (a.station === null && b.station === null) {
      // Past what kills on the same ground one leaps, be it close; through what harms one rather walks: that can be timed.
      const isClose = isApart(a, b, lethal) && !lethal.some(({ box }) => goesThrough(leap, box));
      const waits = isTight(a, leap) ? TIGHT_SECONDS * compiled.rate : 0;
      if (!obstacles.some(({ wide }) => comesInto(leap, wide))) return [{ ...leap, isClose, waits }];
      if (!isApart(a, b, obstacles)) crossing ??= leap;
      else if (isClose) close ??= { ...leap, isClose };
      continue;
    }
    if (Math.min(leap.landX - b.left, b.right - leap.landX) < Math.min(CERTAIN, (b.right - b.left) / 4)) continue;
    // What travels may be a little off its station: the leap has to do from there, too.
    const further = trials.try(from, to, { ...attempt, takeX: attempt.takeX - attempt.way * OFF_STATION });
    if (further?.to !== to) continue;
    const waits = meanWait(compiled, a.station, b.station, leap.steps, leap.over);
    const gap = Math.max(0, b.left - a.right, a.left - b.right);
    const dares = (WIDE_SECONDS * gap + (leap.runs ? RUN_SECONDS : 0)) * compiled.rate;
    if (waits < Infinity) return [{ ...leap, waits: waits + dares }];
  }
  const found = close ?? crossing ?? null;
  return found === null ? [] : [found];
}

/** The leaps of so many bodies that move otherwise are kept at once. */
const MOST_BODIES = 12;

function createTerrain(
  compiled: Compiled,
  bare: Level,
  throwers: readonly Thrower[],
  stations: readonly Station[],
  obstacles: readonly Obstacle[],
  yielding: ReadonlyMap<number, number>,
): Terrain {
  const { body } = compiled.level;
  const usual = compile(bare, compiled.rate);
  const surfaces = standable(
    compiled,
    usual,
    surfacesOf(
      compiled,
      stations,
      obstacles.map(({ wide }) => wide),
    ),
    stations,
  );
  const ridesFrom = remembered((from) => ridesOn(compiled, surfaces, from));
  const made = new Map<string, Terrain>();
  const parts = { surfaces, beside: besideOf(surfaces), yielding, ridesFrom };
  const make = (own: Level['body'], level: Compiled): Terrain => {
    const trials = new Trials(level, surfaces, stations);
    return { ...parts, body: own, as, leapsFrom: leapsOf({ compiled, surfaces, obstacles, trials }, parts, own, throwers) };
  };
  const as = (other: Level['body']): Terrain => {
    const key = [other.speed, other.acceleration, other.jumpSpeed, other.gravity].join(' ');
    const terrain = made.get(key) ?? make(other, compile({ ...bare, body: other }, compiled.rate));
    // The one asked for last is put last, and the one that nobody has asked for longest makes room.
    made.delete(key);
    made.set(key, terrain);
    const [oldest = key] = made.keys();
    if (made.size > MOST_BODIES) made.delete(oldest);
    return terrain;
  };
  return make(body, usual);
}

/** The leaps of a body from each surface. */
function leapsOf(
  ground: Ground,
  { beside, yielding }: Pick<Terrain, 'beside' | 'yielding'>,
  body: Level['body'],
  throwers: readonly Thrower[],
): Terrain['leapsFrom'] {
  const { compiled, surfaces, obstacles, trials } = ground;
  const width = body.width;
  const height = jumpHeight(body);
  const lights = lightPlaces(compiled, body);
  const throwing = throwers.flatMap(({ placement }) => touchBoxOf(compiled, placement) ?? []);
  const isFree = (x: number, y: number): boolean =>
    !throwing.some(({ left, right, bottom, top }) => x > left && x < right && y > bottom && y < top);
  const fallSeconds = (drop: number): number => (body.gravity > 0 ? Math.sqrt((2 * Math.max(0, drop)) / body.gravity) : 10);
  const run = lengthOfRun(body);

  const between = (from: number, to: number): Leap[] => {
    const [a, b] = [surfaces[from] as Surface, surfaces[to] as Surface];
    // A platform carries from one of its stations to another.
    if (a.station !== null && a.station.placement === b.station?.placement) return [];
    const gap = Math.max(0, b.left - a.right, a.left - b.right);
    const rise = b.y - a.y;
    const light = lights.filter(({ box }) => box.left < a.right && box.right > a.left && box.bottom < a.y && box.top > a.y);
    if (rise > Math.max(height, ...light.map((place) => place.height)) + 0.02) return [];
    const seconds = body.jumpSpeed / Math.max(1, body.gravity) + fallSeconds(height - rise);
    if (light.length === 0 && gap > body.speed * seconds + 0.2) return [];
    return firstLeap(
      ground,
      from,
      to,
      [...takeOffs(a, b, width), ...light.map((place) => takeOffIn(place, a, b))].flatMap(({ x, way }): Attempt[] => {
        const landing = a.station !== null || b.station !== null ? LANDING_OFF : LANDING;
        const surest = within(x, b.left + landing, b.right - landing);
        const aimX = within(isFree(surest, b.y) ? surest : within(x, b.left + LEAST_LANDING, b.right - LEAST_LANDING), b.left, b.right);
        const room = way === 0 ? 0 : way > 0 ? x - a.left : a.right - x;
        const plain = { takeX: x, way, aimX, thrower: -1, throwerX: 0, uses: false, overY: Infinity };
        const falls: Attempt[] = rise < -0.05 && way !== 0 ? [{ ...plain, runs: false, jumps: false, hold: 0 }] : [];
        const stands: Attempt = { ...plain, way, runs: false, jumps: true, hold: 1000 };
        // A little before the edge, where that will do: nobody times it to a step.
        const runs = [SAFELY, 0]
          .filter((by) => room >= run + by && a.station === null)
          .map((by): Attempt => ({ ...stands, takeX: x - way * by, runs: true }));
        // Well before: over a harm on the same ground, and up to what is higher where nothing steers in the air.
        const early = EARLIER.filter((by) => room >= run + by).map((by): Attempt => ({ ...stands, takeX: x - way * by, runs: true }));
        if (isApart(a, b, obstacles)) return early;
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
      const { kind, touched, reach } = thrower;
      const touching = kind.solid === null ? beginningsIn(compiled, a, thrower) : beginningsOn(compiled, a, thrower, height);
      const beginnings = [...(touched ? touching : []), ...(reach > 0 ? beginningsAt(a, thrower) : [])];
      const aside = throwsAside(kind);
      const targets = surfaces.filter((b, to) => {
        const isFurther = aside && to !== from && beside[from]?.includes(to) !== true;
        return b.station === null && (isFurther || b.y > a.y + height * 0.5) && Math.abs(b.y - thrower.y) < 40;
      });
      const best = new Map<number, Leap>();
      for (const beginning of beginnings) {
        for (const b of targets) {
          const aimX = aimIn(compiled, thrower, b);
          const overY = isUpdraft(thrower.kind) ? b.y + OVER : Infinity;
          const leap = trials.try(from, from, { ...beginning, runs: false, hold: 1000, thrower: thrower.placement, aimX, overY });
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

  return remembered((from) => {
    const others = [...surfaces.keys()].filter((to) => to !== from && beside[from]?.includes(to) !== true);
    return [...others.flatMap((to) => between(from, to)), ...thrown(from)];
  });
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
