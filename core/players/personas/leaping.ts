import type { Box } from '../../geometry/index.ts';
import { kindOfPlacement, type Effect, type Kind, type Level, type Rule } from '../../level/index.ts';
import {
  BUTTON,
  compile,
  createSession,
  INPUT_WIDTH,
  keeping,
  putPlayer,
  restore,
  snapshot,
  step,
  type Compiled,
  type Session,
} from '../../session/index.ts';
import { besideOf, meanWait, rideSteps, stationsOf, surfacesOf, type Station, type Surface } from '../navigation/index.ts';
import { leapKeys, type Flight, type Leap } from './air.ts';
import { extentOf } from './extent.ts';

/** What a level is to a body that walks, jumps and falls: where it can stand, and how it comes from one place to another. */
export interface Terrain {
  readonly surfaces: readonly Surface[];
  /** Surfaces that go on at the ends of each. */
  readonly beside: readonly (readonly number[])[];
  /** The leaps from each surface; tried out when first asked for. */
  readonly leapsFrom: (surface: number) => readonly Leap[];
  /** From a platform at a station, to where it takes who stands on it. */
  readonly ridesFrom: (surface: number) => readonly Ride[];
}

/** To which surface a platform takes who stands on it, in how many steps, and how far across. Units. */
interface Ride {
  readonly to: number;
  readonly steps: number;
  readonly across: number;
}

const MOVES: ReadonlySet<Effect['type']> = new Set<Effect['type']>(['launch', 'push']);

/** A kind of which is left what moves a body: its solid box, and rules that throw or push. Null when nothing is. */
function movingPart(kind: Kind): Kind | null {
  const rules: Record<string, Rule> = {};
  for (const [id, rule] of Object.entries(kind.rules)) {
    const effects = Object.fromEntries(Object.entries(rule.effects).filter(([, effect]) => MOVES.has(effect.type)));
    if (Object.keys(effects).length > 0) rules[id] = { ...rule, provided: {}, effects, becomes: { type: 'stays' }, uses: null };
  }
  if (kind.solid === null && Object.keys(rules).length === 0) return null;
  return { ...kind, rules, tags: [], cycle: null, magnet: null, drift: null };
}

/** What the box of a platform at a station is called where leaps are tried out: no id has a space. */
const stationId = (station: number): string => `station ${String(station)}`;

/** A thing that stays and throws. Units. */
interface Thrower {
  readonly placement: number;
  readonly x: number;
  readonly y: number;
  readonly kind: Kind;
}

/** The level with nothing in it but what a body meets, to try leaps out in, platforms at each of their stations; and the places of what throws in it. Units. */
function bareLevel(
  { level, ids }: Compiled,
  stations: readonly Station[],
): { bare: Level; throwers: Thrower[] } {
  const placements: Level['placements'] = {};
  const kinds: Level['kinds'] = {};
  const throwers: Thrower[] = [];
  const known = new Map<Kind, string>();
  for (const [id, placed] of Object.entries(level.placements)) {
    const kind = kindOfPlacement(level, id);
    const part = kind === undefined || placed.travel !== null || kind.drift !== null || kind.magnet !== null ? null : movingPart(kind);
    if (kind === undefined || part === null) continue;
    const own = known.get(kind) ?? `k${String(known.size)}`;
    known.set(kind, own);
    kinds[own] = part;
    placements[id] = { ...placed, kind: own, own: {}, starts: { type: 'ready' } };
    const throws = Object.values(part.rules).some((rule) => Object.values(rule.effects).some(({ type }) => type === 'launch'));
    if (throws) throwers.push({ placement: ids.placements.indexOf(id), x: placed.x, y: placed.y, kind });
  }
  stations.forEach(({ placement, x, y }, station) => {
    const id = ids.placements[placement] ?? '';
    const kind = kindOfPlacement(level, id);
    const part = kind === undefined ? null : movingPart({ ...kind, rules: {} });
    const placed = level.placements[id];
    if (part === null || placed === undefined) return;
    kinds[stationId(station)] = part;
    placements[stationId(station)] = { ...placed, kind: stationId(station), x, y, travel: null, own: {}, starts: { type: 'ready' } };
  });
  const nothing = { kinds, placements, variants: {}, tagRules: {}, items: {}, tries: {}, readouts: {}, background: null };
  return {
    bare: { ...level, ...nothing, ends: { goals: {}, timeLimit: null }, players: { ...level.players, count: 1, starts: [], tags: [] } },
    throwers,
  };
}

/** A leap is not followed for longer than this. Seconds. */
const LONGEST_LEAP = 4;
/** Every so many steps its place is noted. */
const NOTED = 3;

/** What has not thrown a body up after so long can be stood on. Seconds. */
const HELD = 0.5;
/** From so far above it comes down. Units. */
const DROPPED = 0.2;

/** How a leap is begun, before it is known where it leads. */
type Attempt = Pick<Leap, 'takeX' | 'way' | 'runs' | 'jumps' | 'hold' | 'aimX' | 'thrower' | 'throwerX'>;

/** Tries leaps out on the bodies and solids of a level. */
class Trials {
  private readonly session: Session;
  private readonly beginning: Uint8Array;
  private readonly inputs: Int8Array;
  /** The box of each platform at its station. */
  private readonly boxes: ReadonlyMap<Station, number>;

  constructor(
    private readonly bare: Compiled,
    private readonly surfaces: readonly Surface[],
    stations: readonly Station[],
  ) {
    this.session = createSession(bare);
    this.beginning = snapshot(this.session);
    this.inputs = new Int8Array(bare.playerCount * INPUT_WIDTH);
    this.boxes = new Map(
      stations.flatMap((station, at): [Station, number][] => {
        const placement = bare.ids.placements.indexOf(stationId(at));
        return placement < 0 ? [] : [[station, bare.placements.solid[placement] as number]];
      }),
    );
  }

  /** Of platforms only those are there that a leap begins or is to end on. */
  private show(from: number, to: number): void {
    const { solids } = this.session.scratch;
    const shown = [this.surfaces[from]?.station, this.surfaces[to]?.station];
    for (const [station, box] of this.boxes) solids.on[box] = shown.includes(station) ? 1 : 0;
  }

  /** Whether a body that comes down on a surface and presses nothing stays there for a while: some throw it up. */
  holds(at: number): boolean {
    const { session, inputs, bare } = this;
    const { left, right, y } = this.surfaces[at] as Surface;
    restore(session, this.beginning);
    this.show(at, at);
    putPlayer(session, 0, (left + right) / 2, y + DROPPED);
    inputs.fill(0);
    for (let steps = 0; steps < HELD * bare.rate; steps += 1) {
      step(session, inputs);
      if ((session.state.velocityY[0] as number) > 0.5) return false;
    }
    return true;
  }

  /** Where a leap from a surface, meant for another, comes down; null when it comes down nowhere, or where it began. */
  try(from: number, meant: number, attempt: Attempt): Leap | null {
    const { session, inputs, bare } = this;
    const surface = this.surfaces[from] as Surface;
    restore(session, this.beginning);
    this.show(from, meant);
    const { state } = session;
    putPlayer(session, 0, attempt.takeX, surface.y);
    state.velocityX[0] = attempt.runs ? attempt.way * bare.level.body.speed : 0;
    state.velocityY[0] = 0;
    const flight: Flight = { airborne: false, thrown: false, steps: 0, waited: 0 };
    const track: number[] = [attempt.takeX, surface.y];
    let standing = 0;
    for (let steps = 1; steps <= LONGEST_LEAP * bare.rate; steps += 1) {
      const keys = leapKeys(session, 0, attempt, flight);
      inputs[0] = keys.x;
      inputs[2] = keys.jump ? BUTTON.jump : 0;
      step(session, inputs);
      const [x, y] = [state.playerX[0] as number, state.playerY[0] as number];
      if (steps % NOTED === 0) track.push(x, y);
      standing = flight.airborne && (state.floor[0] as number) >= 0 && state.velocityY[0] <= 0.01 ? standing + 1 : 0;
      if (standing < 3) continue;
      track.push(x, y);
      const to = this.surfaceAt(x, y, from, meant);
      if (to < 0 || to === from) return null;
      return { ...attempt, from, to, landX: x, steps, waits: 0, track: Float64Array.from(track) };
    }
    return null;
  }

  /** The surface on which a body stands; −1 for none. Of platforms only those count that are there. */
  private surfaceAt(x: number, y: number, from: number, meant: number): number {
    const isThere = (one: Surface, at: number): boolean => one.station === null || at === from || at === meant;
    return this.surfaces.findIndex(
      (one, at) => isThere(one, at) && Math.abs(one.y - y) < 0.02 && x >= one.left - 0.05 && x <= one.right + 0.05,
    );
  }
}

const within = (value: number, low: number, high: number): number => (low > high ? (low + high) / 2 : Math.max(low, Math.min(high, value)));

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

/** From so far outside one comes to what throws at once. Units. */
const COMES_FROM = 0.1;

/** A shorter wind-up is over before one stands where one meant to. Seconds. */
const AT_ONCE = 0.25;

const throwsAtOnce = ({ rules }: Kind): boolean =>
  Object.values(rules).some(
    ({ windUp, effects }) => (windUp?.seconds ?? 0) < AT_ONCE && Object.values(effects).some(({ type }) => type === 'launch'),
  );

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
  const inputs = [JSON.stringify({ ...parts, boxes }), rate, ids.placements, x, y, halfWidth, halfHeight, faces, owner];
  return keptTerrain(inputs, () => createTerrain(compiled, compile(bare, compiled.rate), throwers, stations, boxes));
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

/** How one comes to be thrown up. */
type Beginning = Pick<Attempt, 'takeX' | 'way' | 'jumps' | 'throwerX'>;

/** Onto what is solid and throws one leaps from beside it, where it is near enough and neither too high nor below. */
function beginningsOn({ level: { body } }: Compiled, a: Surface, { x, y, kind: { solid } }: Thrower, height: number): Beginning[] {
  if (solid === null) return [];
  const top = y + solid.y + solid.height / 2 + body.height / 2;
  const [left, right] = [x + solid.x - solid.width / 2, x + solid.x + solid.width / 2];
  const way = a.right <= x ? 1 : a.left >= x ? -1 : 0;
  const near = way > 0 ? left - body.width / 2 - 0.05 : right + body.width / 2 + 0.05;
  const takeX = within(near, a.left + 0.02, a.right - 0.02);
  const tooFar = Math.abs(takeX - x) > body.speed * 0.8 + solid.width || top - a.y > height || top < a.y - 0.01;
  return way === 0 || tooFar ? [] : [{ takeX, way, jumps: true, throwerX: x + solid.x }];
}

/** In what throws one stands and waits; what throws at once does so as one comes to it, from where that is. */
function beginningsIn(compiled: Compiled, a: Surface, { placement, x, y, kind }: Thrower): Beginning[] {
  const form = compiled.placements.form[placement] as number;
  const reach = (compiled.forms.reach[form] as number) + compiled.bodyReach;
  if (Math.abs(a.y - y) > reach || x - reach > a.right || x + reach < a.left) return [];
  const { left, right } = extentOf(compiled, form) ?? { left: 0, right: 0 };
  const around = compiled.level.body.width / 2 + COMES_FROM;
  const comes = [x + left - around, x + right + around].filter((takeX) => takeX >= a.left && takeX <= a.right);
  if (throwsAtOnce(kind) && comes.length > 0) return comes.map((takeX) => ({ takeX, way: 0, jumps: false, throwerX: x }));
  return [-0.9, -0.5, 0, 0.5, 0.9].map((share) => {
    const takeX = within(x + share * reach, a.left, a.right);
    return { takeX, way: 0, jumps: false, throwerX: takeX };
  });
}

/** The surfaces on which a body can stay: without those of things that throw it up. */
function standable({ solids }: Compiled, bare: Compiled, surfaces: readonly Surface[], stations: readonly Station[]): readonly Surface[] {
  const trials = new Trials(bare, surfaces, stations);
  return surfaces.filter(({ item, station }, at) => station !== null || (solids.owner[item] as number) < 0 || trials.holds(at));
}

function createTerrain(
  compiled: Compiled,
  bare: Compiled,
  throwers: readonly Thrower[],
  stations: readonly Station[],
  boxes: readonly Box[],
): Terrain {
  const surfaces = standable(compiled, bare, surfacesOf(compiled, stations, boxes), stations);
  const beside = besideOf(surfaces);
  const trials = new Trials(bare, surfaces, stations);
  const ground: Ground = { compiled, surfaces, boxes, trials };
  const { body } = compiled.level;
  const width = body.width;
  const height = body.gravity > 0 ? (body.jumpSpeed * body.jumpSpeed) / (2 * body.gravity) : 1000;
  const fallSeconds = (drop: number): number => (body.gravity > 0 ? Math.sqrt((2 * Math.max(0, drop)) / body.gravity) : 10);
  const run = (body.speed * body.speed) / (2 * body.acceleration);

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
          const isBetter = known === undefined || off(leap) < off(known) - 0.1 || (off(leap) < off(known) + 0.1 && leap.steps < known.steps);
          if (isBetter) best.set(leap.to, leap);
        }
      }
      return [...best.values()];
    });
  };

  return {
    surfaces,
    beside,
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
