import { turn } from '../../geometry/index.ts';
import { kindOfPlacement, type Effect, type Kind, type Level, type Rule } from '../../level/index.ts';
import {
  BUTTON,
  createSession,
  INPUT_WIDTH,
  putPlayer,
  restore,
  snapshot,
  step,
  type Compiled,
  type Session,
} from '../../session/index.ts';
import type { Station, Surface } from '../navigation/index.ts';
import { leapKeys, type Flight, type Leap } from './air.ts';

/** Whether an effect tells on a body that is at its thing: it throws or pushes it, or changes how it moves while inside. */
const moves = (effect: Effect): boolean =>
  effect.type === 'launch' || effect.type === 'push' || (effect.type === 'movement' && effect.lasts.type === 'while');

/** Whether an effect throws a body, or carries it up for as long as it is inside. */
export const lifts = (effect: Effect): boolean => effect.type === 'launch' || (effect.type === 'push' && turn(effect.degrees).sin > 0.5);

/** A kind of which is left what moves a body: its solid box, and rules that throw or push, or change how one moves there. Null when nothing is. */
function movingPart(kind: Kind): Kind | null {
  const rules: Record<string, Rule> = {};
  for (const [id, rule] of Object.entries(kind.rules)) {
    const effects = Object.fromEntries(Object.entries(rule.effects).filter(([, effect]) => moves(effect)));
    if (Object.keys(effects).length > 0) rules[id] = { ...rule, provided: {}, effects, becomes: { type: 'stays' }, uses: null };
  }
  if (kind.solid === null && Object.keys(rules).length === 0) return null;
  return { ...kind, rules, tags: [], cycle: null, magnet: null, drift: null };
}

/** What the box of a platform at a station is called where leaps are tried out: no id has a space. */
const stationId = (station: number): string => `station ${String(station)}`;

/** A thing that stays and throws: whoever touches it, or uses it from so far; 0: nobody does. Units. */
export interface Thrower {
  readonly placement: number;
  readonly x: number;
  readonly y: number;
  readonly kind: Kind;
  readonly touched: boolean;
  readonly reach: number;
}

/** The level with nothing in it but what a body meets, to try leaps out in, platforms at each of their stations; and the places of what throws in it. Units. */
export function bareLevel({ level, ids }: Compiled, stations: readonly Station[]): { bare: Level; throwers: Thrower[] } {
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
    const ways = Object.values(part.rules).flatMap(({ setOffBy, effects }) => (Object.values(effects).some(lifts) ? [setOffBy] : []));
    const touched = ways.some(({ type }) => type !== 'use');
    const reach = Math.max(0, ...ways.map((way) => (way.type === 'use' ? way.reach : 0)));
    if (ways.length > 0) throwers.push({ placement: ids.placements.indexOf(id), x: placed.x, y: placed.y, kind, touched, reach });
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
export type Attempt = Pick<Leap, 'takeX' | 'way' | 'runs' | 'jumps' | 'hold' | 'aimX' | 'thrower' | 'throwerX' | 'uses' | 'overY'>;

/** Tries leaps out on the bodies and solids of a level. */
export class Trials {
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
    let apex = surface.y;
    for (let steps = 1; steps <= LONGEST_LEAP * bare.rate; steps += 1) {
      const keys = leapKeys(session, 0, attempt, flight);
      inputs[0] = keys.x;
      inputs[2] = (keys.jump ? BUTTON.jump : 0) | (keys.use ? BUTTON.use : 0);
      step(session, inputs);
      const [x, y] = [state.playerX[0] as number, state.playerY[0] as number];
      apex = Math.max(apex, y);
      if (steps % NOTED === 0) track.push(x, y);
      standing = flight.airborne && (state.floor[0] as number) >= 0 && state.velocityY[0] <= 0.01 ? standing + 1 : 0;
      if (standing < 3) continue;
      track.push(x, y);
      const to = this.surfaceAt(x, y, from, meant);
      if (to < 0 || to === from) return null;
      return { ...attempt, from, to, landX: x, steps, over: apex - y, isClose: false, waits: 0, track: Float64Array.from(track) };
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

/** The surfaces on which a body can stay: without those of things that throw it up. */
export function standable(
  { solids }: Compiled,
  bare: Compiled,
  surfaces: readonly Surface[],
  stations: readonly Station[],
): readonly Surface[] {
  const isThing = ({ item, station }: Surface): boolean => station === null && (solids.owner[item] as number) >= 0;
  if (!surfaces.some(isThing)) return surfaces;
  const trials = new Trials(bare, surfaces, stations);
  return surfaces.filter((surface, at) => !isThing(surface) || trials.holds(at));
}
