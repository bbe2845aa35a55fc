import { apart, clipWay, Span, type Box, type Place } from '../../geometry/index.ts';
import { DESTINATION, exists, MOVEMENT, movementOf, phaseFor, PHASE, stepOf } from '../../session/index.ts';
import { cellHolding, findWay } from '../navigation/index.ts';
import type { Leg } from './air.ts';
import type { Harm } from './deeds.ts';
import { goneIn } from './opening.ts';
import { harmAt, healthOf, hereOf, knows, paceOf, type Thinker } from './thinker.ts';
import type { Zone } from './world.ts';

/** A way with what it is likely to cost besides its length. Units. */
export interface Planned {
  readonly places: readonly Place[];
  readonly length: number;
  readonly risk: number;
  /** Seen from the side, its parts. */
  readonly legs: readonly Leg[];
}

/** The share of its time in which a thing that goes by a clock is on. */
export function shareOn({ world: { compiled }, session }: Pick<Thinker, 'world' | 'session'>, placement: number): number {
  const form = session.state.form[placement] as number;
  const on = compiled.forms.cycleOn[form] as number;
  const off = compiled.forms.cycleOff[form] as number;
  return off > 0 ? on / (on + off) : 1;
}

/** What a way costs on which one dies, or is put back, for certain: any other is shorter, and nobody goes it for what one may do without. Units of detour. */
export const SURE_DEATH = 1e6;

/** How long a detour it is worth not to be thrown off one's way. Units. */
const THROWN = 4;

/** How a way meets a harm: it leads through it, or to what harms, or out of where one is unharmed so far. */
type Meets = 'through' | 'to' | 'out';

/** How a way from a place to a thing, or −1, meets a zone. */
export function meetsZone({ placement, box: { left, bottom, right, top } }: Zone, { x, y }: Place, own: number): Meets {
  if (x > left && x < right && y > bottom && y < top) return 'out';
  return placement === own ? 'to' : 'through';
}

/** What a stretch of way within the harm of a thing costs, beyond its length. Units of detour. */
export function costOf(thinker: Thinker, placement: number, harm: Harm, inside: number, meets: Meets): number {
  const { world, session, persona, player } = thinker;
  const { destinations, meters } = world.compiled;
  const pace = paceOf(thinker);
  const on = shareOn(thinker, placement);
  const seconds = inside / (pace * harm.slows);
  const health = healthOf(thinker);
  const harmed = harm.onTouch + harm.perSecond * seconds;
  const loss = Math.min(health, harmed);
  let cost = on * persona.caution * Math.max(0, loss);
  if (harm.kills > 0) cost += on * harm.kills * (persona.caution * health + backWay(thinker, placement, -1));
  const isShielded = (session.state.shieldUntil[player] as number) > stepOf(session);
  // Who has no caution reckons up no losses.
  const harmsToDeath = persona.caution > 0 && harmed > 0 && harmed >= health - (meters.lower[meters.health] as number);
  const kills = on * harm.kills >= 1 || (on >= 1 && harmsToDeath);
  const dies = kills && !isShielded && meets !== 'out';
  if (dies || (on >= 1 && harm.bars && meets === 'through')) cost += SURE_DEATH;
  if (harm.puts >= 0 && destinations.type[harm.puts] !== DESTINATION.point) cost += on * backWay(thinker, placement, harm.puts);
  if (harm.slows < 1) cost += inside * (1 / harm.slows - 1);
  cost += on * harm.roots * movementOf(session, player, MOVEMENT.speed);
  if (harm.throws) cost += on * THROWN;
  if (harm.quickens && persona.boosts === 'avoided') cost += 5;
  return cost;
}

/** How much further off one is after being put back. Units. */
export function backWay({ world: { compiled }, session: { state }, player }: Thinker, placement: number, destination: number): number {
  const start = compiled.starts[player] ?? compiled.level.start;
  const kept = !Number.isNaN(state.checkpointX[player]) && compiled.destinations.type[destination] !== DESTINATION.start;
  const toX = kept ? (state.checkpointX[player] as number) : start.x;
  const toY = kept ? (state.checkpointY[player] as number) : start.y;
  const [dx, dy] = [(compiled.placements.x[placement] as number) - toX, (compiled.placements.y[placement] as number) - toY];
  return Math.sqrt(dx * dx + dy * dy) + 2;
}

const span = new Span();

/** How much of a straight way lies within a zone. Units. */
export function lengthThrough({ box }: Pick<Zone, 'box'>, from: Place, to: Place): number {
  return clipWay(box, from.x, from.y, to.x, to.y, span) ? (span.leave - span.enter) * apart(from, to) : 0;
}

/** How much of a way lies within a zone. Units. */
export function lengthWithin(zone: Pick<Zone, 'box'>, from: Place, places: readonly Place[]): number {
  let length = 0;
  let before = from;
  for (const place of places) {
    length += lengthThrough(zone, before, place);
    before = place;
  }
  return length;
}

/** The zones of things it knows of that harm, unless they are gone. */
export function knownHarms(thinker: Thinker): number[] {
  const { world, session, player } = thinker;
  return world.harmZones.filter((zone) => {
    const { placement } = world.zones[zone] as Zone;
    return knows(thinker, placement) && exists(session, placement) && phaseFor(session, placement, player) !== PHASE.spent;
  });
}

/** The same, without those it is through before anything harms it again. */
export function harmfulZones(thinker: Thinker): number[] {
  const { world, session, player } = thinker;
  const harms = knownHarms(thinker);
  const { rate, level } = world.compiled;
  const [grace, lock] = [session.state.graceUntil[player] as number, session.state.lockUntil[player] as number];
  const seconds = (grace - Math.max(lock, stepOf(session))) / rate;
  if (seconds <= 0) return harms;
  const { x, y } = hereOf(thinker);
  const pace = paceOf(thinker);
  // From rest: it has to come to its pace first.
  const gone = pace * seconds - (pace * pace) / (2 * level.body.acceleration);
  return harms.filter((zone) => {
    const { left, right, bottom, top } = (world.zones[zone] as Zone).box;
    return Math.max(x - left, right - x, y - bottom, top - y) > gone;
  });
}

/** The boxes of things it knows of that are solid now, and stay so by themselves. */
export function closedZones(thinker: Thinker): Set<number> {
  const { world, session } = thinker;
  const closed = new Set<number>();
  for (const zone of world.solidZones) {
    const { placement } = world.zones[zone] as Zone;
    const item = world.compiled.placements.solid[placement] as number;
    if (knows(thinker, placement) && goneIn(world.compiled, session, item) === Infinity) closed.add(zone);
  }
  return closed;
}

const NO_LEGS: readonly Leg[] = [];

/** The shortest way out of a box; null for who is not in it. */
function exitFrom({ left, bottom, right, top }: Box, { x, y }: Place): Place | null {
  if (x <= left || x >= right || y <= bottom || y >= top) return null;
  const least = Math.min(x - left, right - x, y - bottom, top - y);
  if (least === x - left) return { x: left - 0.01, y };
  if (least === right - x) return { x: right + 0.01, y };
  return { x, y: least === y - bottom ? bottom - 0.01 : top + 0.01 };
}

/** How many harms of one way are tried to be gone round. */
const MOST_TRIES = 8;

/**
 * The way that costs a persona least: the shortest, then again and again with one more of the harms it goes through kept out of, as long as
 * going round is shorter than the harm is worth. `own` is the thing it goes to, or −1. Null when there is no way.
 */
export function planWay(thinker: Thinker, from: Place, to: Place, own = -1): Planned | null {
  const { world } = thinker;
  const closed = closedZones(thinker);
  const harmful = harmfulZones(thinker);
  const judged = (places: readonly Place[], length: number): { plan: Planned; worst: number } => {
    let risk = 0;
    let worst = -1;
    let most = 0;
    for (const number of harmful) {
      const zone = world.zones[number] as Zone;
      const inside = lengthWithin(zone, from, places);
      const harm = harmAt(thinker, zone.placement);
      if (inside <= 0 || harm === null) continue;
      const cost = costOf(thinker, zone.placement, harm, inside, meetsZone(zone, from, own));
      risk += cost;
      if (cost <= most || borne.has(number) || zone.placement === own) continue;
      worst = number;
      most = cost;
    }
    return { plan: { places, length, risk, legs: NO_LEGS }, worst };
  };
  const borne = new Set<number>();
  // What is solid itself is come to by its face.
  if (own >= 0) closed.delete(world.solidZoneOf[own] as number);
  const avoided = new Set(closed);
  const first = avoided.size === 0 ? findWay(world.bare, from, to) : findWay(world.mesh, from, to, avoided);
  if (first === null) return null;
  let { plan, worst } = judged(first.places, first.length);
  for (const number of harmful) {
    const out = exitFrom((world.zones[number] as Zone).wide, from);
    if (out === null || cellHolding(world.mesh, out.x, out.y) < 0) continue;
    const way = findWay(world.mesh, out, to, new Set([...avoided, number]));
    if (way === null) continue;
    const other = judged([out, ...way.places], way.length + apart(from, out));
    if (other.plan.length + other.plan.risk < plan.length + plan.risk - 1e-9) ({ plan, worst } = other);
    avoided.add(number);
  }
  for (let tries = 0; worst >= 0 && tries < MOST_TRIES; tries += 1) {
    avoided.add(worst);
    const way = findWay(world.mesh, from, to, avoided);
    const round = way === null ? null : judged(way.places, way.length);
    if (round !== null && round.plan.length + round.plan.risk < plan.length + plan.risk - 1e-9) ({ plan, worst } = round);
    else {
      avoided.delete(worst);
      borne.add(worst);
      worst = judged(plan.places, plan.length).worst;
    }
  }
  return plan;
}
