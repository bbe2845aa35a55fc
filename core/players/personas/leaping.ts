import { valueIn } from '../../geometry/index.ts';
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
import { besideOf, surfacesOf, type Surface } from '../navigation/index.ts';
import { leapKeys, type Flight, type Leap } from './air.ts';

/** What a level is to a body that walks, jumps and falls: where it can stand, and how it comes from one place to another. */
export interface Terrain {
  readonly surfaces: readonly Surface[];
  /** Surfaces that go on at the ends of each. */
  readonly beside: readonly (readonly number[])[];
  /** The leaps from each surface; tried out when first asked for. */
  readonly leapsFrom: (surface: number) => readonly Leap[];
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

/** The level with nothing in it but what a body meets, to try leaps out in; and the places of what throws in it. Units. */
function bareLevel(level: Level): { bare: Level; throwers: { id: string; x: number; y: number; kind: Kind }[] } {
  const placements: Level['placements'] = {};
  const kinds: Level['kinds'] = {};
  const throwers: { id: string; x: number; y: number; kind: Kind }[] = [];
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
    if (throws) throwers.push({ id, x: placed.x, y: placed.y, kind });
  }
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

/** How a leap is begun, before it is known where it leads. */
type Attempt = Pick<Leap, 'takeX' | 'way' | 'runs' | 'jumps' | 'hold' | 'aimX' | 'thrower' | 'throwerX'>;

/** Tries leaps out on the bodies and solids of a level. */
class Trials {
  private readonly session: Session;
  private readonly beginning: Uint8Array;
  private readonly inputs: Int8Array;

  constructor(
    private readonly bare: Compiled,
    private readonly surfaces: readonly Surface[],
  ) {
    this.session = createSession(bare);
    this.beginning = snapshot(this.session);
    this.inputs = new Int8Array(bare.playerCount * INPUT_WIDTH);
  }

  /** Where a leap from a surface comes down; null when it comes down nowhere, or where it began. */
  try(from: number, attempt: Attempt): Leap | null {
    const { session, inputs, bare } = this;
    const surface = this.surfaces[from] as Surface;
    restore(session, this.beginning);
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
      const [x, y] = [valueIn(state.playerX, 0), valueIn(state.playerY, 0)];
      if (steps % NOTED === 0) track.push(x, y);
      standing = flight.airborne && valueIn(state.floor, 0) >= 0 && valueIn(state.velocityY, 0) <= 0.01 ? standing + 1 : 0;
      if (standing < 3) continue;
      track.push(x, y);
      const to = this.surfaceAt(x, y);
      if (to < 0 || to === from) return null;
      return { ...attempt, from, to, landX: x, steps, track: Float64Array.from(track) };
    }
    return null;
  }

  /** The surface on which a body stands; −1 for none. */
  surfaceAt(x: number, y: number): number {
    return this.surfaces.findIndex((one) => Math.abs(one.y - y) < 0.02 && x >= one.left - 0.05 && x <= one.right + 0.05);
  }
}

const within = (value: number, low: number, high: number): number => (low > high ? (low + high) / 2 : Math.max(low, Math.min(high, value)));

/** How far from the ends of a surface one comes down, where there is room. Units. */
const LANDING = 0.25;

/** The places from which a leap to another surface may be begun: the ends, and where its own ends lie overhead. */
function takeOffs(a: Surface, b: Surface, width: number): { x: number; way: number }[] {
  if (b.left >= a.right) return [{ x: a.right - 0.02, way: 1 }];
  if (b.right <= a.left) return [{ x: a.left + 0.02, way: -1 }];
  const xs =
    b.y > a.y
      ? [
          { x: within((Math.max(a.left, b.left) + Math.min(a.right, b.right)) / 2, a.left, a.right), way: 0 },
          { x: b.left - width / 2 - 0.05, way: 1 },
          { x: b.right + width / 2 + 0.05, way: -1 },
        ]
      : [
          { x: a.right - 0.02, way: 1 },
          { x: a.left + 0.02, way: -1 },
        ];
  return xs.filter(({ x }) => x >= a.left && x <= a.right);
}

const keptTerrain = keeping<Terrain>();

/** What surfaces and leaps there are for the body of a level; the same again as long as nothing that a body meets has changed. */
export function terrainOf(compiled: Compiled): Terrain {
  const { bare, throwers } = bareLevel(compiled.level);
  const { x, y, halfWidth, halfHeight, faces, owner } = compiled.solids;
  const parts = { kinds: bare.kinds, placements: bare.placements, solids: bare.solids, body: bare.body, size: bare.size };
  const inputs = [JSON.stringify(parts), compiled.rate, compiled.ids.placements, x, y, halfWidth, halfHeight, faces, owner];
  return keptTerrain(inputs, () => createTerrain(compiled, compile(bare, compiled.rate), throwers));
}

function createTerrain(compiled: Compiled, bare: Compiled, throwers: ReturnType<typeof bareLevel>['throwers']): Terrain {
  const surfaces = surfacesOf(compiled);
  const trials = new Trials(bare, surfaces);
  const { body } = compiled.level;
  const width = body.width;
  const height = body.gravity > 0 ? (body.jumpSpeed * body.jumpSpeed) / (2 * body.gravity) : 1000;
  const fallSeconds = (drop: number): number => (body.gravity > 0 ? Math.sqrt((2 * Math.max(0, drop)) / body.gravity) : 10);
  const run = (body.speed * body.speed) / (2 * body.acceleration);

  /** The first of some ways to begin a leap that comes down on a surface. */
  const first = (from: number, to: number, attempts: readonly Attempt[]): Leap[] => {
    for (const attempt of attempts) {
      const leap = trials.try(from, attempt);
      if (leap?.to === to) return [leap];
    }
    return [];
  };

  const between = (from: number, to: number): Leap[] => {
    const [a, b] = [surfaces[from] as Surface, surfaces[to] as Surface];
    const gap = Math.max(0, b.left - a.right, a.left - b.right);
    const rise = b.y - a.y;
    if (rise > height + 0.02) return [];
    const seconds = body.jumpSpeed / Math.max(1, body.gravity) + fallSeconds(height - rise);
    if (gap > body.speed * seconds + 0.2) return [];
    return first(
      from,
      to,
      takeOffs(a, b, width).flatMap(({ x, way }): Attempt[] => {
        const aimX = within(within(x, b.left + LANDING, b.right - LANDING), b.left, b.right);
        const room = way === 0 ? 0 : way > 0 ? x - a.left : a.right - x;
        const plain = { takeX: x, way, aimX, thrower: -1, throwerX: 0 };
        const falls: Attempt[] = rise < -0.05 && way !== 0 ? [{ ...plain, runs: false, jumps: false, hold: 0 }] : [];
        const stands: Attempt = { ...plain, way, runs: false, jumps: true, hold: 1000 };
        const runs: Attempt[] = room >= run ? [{ ...stands, runs: true }] : [];
        return [...falls, stands, ...runs, { ...stands, hold: Math.round(compiled.rate * 0.12) }];
      }),
    );
  };

  const thrown = (from: number): Leap[] => {
    const a = surfaces[from] as Surface;
    return throwers.flatMap(({ id, x, y, kind }): Leap[] => {
      const placement = compiled.ids.placements.indexOf(id);
      const solid = kind.solid;
      const form = valueIn(compiled.placements.form, placement);
      const reach = valueIn(compiled.forms.reach, form) + compiled.bodyReach;
      const attempts: Attempt[] = [];
      const targets = surfaces.filter((b) => b.y > a.y + height * 0.5 && Math.abs(b.y - y) < 40);
      const plain = { runs: false, hold: 1000, thrower: placement };
      if (solid !== null) {
        const top = y + solid.y + solid.height / 2 + body.height / 2;
        const [left, right] = [x + solid.x - solid.width / 2, x + solid.x + solid.width / 2];
        const onSide = a.right <= x ? 1 : a.left >= x ? -1 : 0;
        const near = onSide > 0 ? left - width / 2 - 0.05 : right + width / 2 + 0.05;
        const takeX = within(near, a.left + 0.02, a.right - 0.02);
        const tooFar = Math.abs(takeX - x) > body.speed * 0.8 + solid.width || top - a.y > height || top < a.y - 0.01;
        if (onSide === 0 || tooFar) return [];
        for (const b of targets) {
          attempts.push({
            ...plain,
            takeX,
            way: onSide,
            jumps: true,
            throwerX: x + solid.x,
            aimX: within(x, b.left + LANDING, b.right - LANDING),
          });
        }
      } else {
        if (Math.abs(a.y - y) > reach || x - reach > a.right || x + reach < a.left) return [];
        for (const share of [-0.9, -0.5, 0, 0.5, 0.9]) {
          const takeX = within(x + share * reach, a.left, a.right);
          for (const b of targets) {
            attempts.push({ ...plain, takeX, way: 0, jumps: false, throwerX: takeX, aimX: within(x, b.left + LANDING, b.right - LANDING) });
          }
        }
      }
      const best = new Map<number, Leap>();
      for (const attempt of attempts) {
        const leap = trials.try(from, attempt);
        const known = leap === null ? undefined : best.get(leap.to);
        if (leap !== null && (known === undefined || leap.steps < known.steps)) best.set(leap.to, leap);
      }
      return [...best.values()];
    });
  };

  const found = new Map<number, readonly Leap[]>();
  return {
    surfaces,
    beside: besideOf(surfaces),
    leapsFrom(from) {
      const known = found.get(from);
      if (known !== undefined) return known;
      const leaps = [...surfaces.keys()].flatMap((to) => (to === from ? [] : between(from, to)));
      const all = [...leaps, ...thrown(from)];
      found.set(from, all);
      return all;
    },
  };
}
