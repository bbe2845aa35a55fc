import { valueIn } from '../../geometry/index.ts';
import { DESTINATION, exists, MOVEMENT, MOVEMENT_COUNT, phaseFor, PHASE, stepOf, type Session } from '../../session/index.ts';
import type { Persona, Route } from '../../level/index.ts';
import { cellHolding, findWay } from '../navigation/index.ts';
import type { Leg } from './air.ts';
import type { Harm } from './deeds.ts';
import type { Mind } from './mind.ts';
import type { World, Zone } from './world.ts';

/** Who thinks, about what. */
export interface Thinker {
  readonly world: World;
  readonly session: Session;
  readonly persona: Persona;
  readonly mind: Mind;
  readonly player: number;
  /** The way-points it has been told to follow; null: it goes where it likes. */
  readonly route: Route['wayPoints'] | null;
}

/** A way with what it is likely to cost besides its length. Units. */
export interface Planned {
  readonly places: readonly { readonly x: number; readonly y: number }[];
  readonly length: number;
  readonly risk: number;
  /** Seen from the side, its parts. */
  readonly legs: readonly Leg[];
}

/** How fast a persona goes by itself now. Units a second. */
export function paceOf({ session, persona, player }: Thinker): number {
  const speed = valueIn(session.state.movement, player * MOVEMENT_COUNT + MOVEMENT.speed);
  return Math.max(0.01, speed * persona.haste);
}

export function healthOf({ world: { compiled }, session, player }: Thinker): number {
  const { meters, ids, meterCell } = compiled;
  return valueIn(session.state.meter, valueIn(meterCell, player * ids.meters.length + meters.health));
}

/** Whether a persona knows of a thing: it has been seen, and is not yet forgotten. */
export function knows({ session, persona, mind }: Thinker, placement: number): boolean {
  const seen = valueIn(mind.seen, placement);
  return seen >= 0 && stepOf(session) - seen <= persona.memory * session.compiled.rate;
}

/** The share of its time in which a thing that goes by a clock is on. */
function shareOn({ world: { compiled }, session }: Thinker, placement: number): number {
  const form = valueIn(session.state.form, placement);
  const on = valueIn(compiled.forms.cycleOn, form);
  const off = valueIn(compiled.forms.cycleOff, form);
  return off > 0 ? on / (on + off) : 1;
}

/** What a stretch of way within the harm of a thing costs, beyond its length. Units of detour. */
export function costOf(thinker: Thinker, placement: number, harm: Harm, inside: number): number {
  const { world, session, persona, player } = thinker;
  const { destinations } = world.compiled;
  const { state } = session;
  const pace = paceOf(thinker);
  const on = shareOn(thinker, placement);
  const seconds = inside / (pace * harm.slows);
  const loss = Math.min(healthOf(thinker), harm.onTouch + harm.perSecond * seconds);
  let cost = on * persona.caution * Math.max(0, loss);
  if (harm.kills > 0) cost += on * harm.kills * (persona.caution * healthOf(thinker) + backWay(thinker, placement, -1));
  if (harm.puts >= 0 && destinations.type[harm.puts] !== DESTINATION.point) cost += on * backWay(thinker, placement, harm.puts);
  if (harm.slows < 1) cost += inside * (1 / harm.slows - 1);
  cost += on * harm.roots * valueIn(state.movement, player * MOVEMENT_COUNT + MOVEMENT.speed);
  if (harm.quickens && persona.boosts === 'avoided') cost += 5;
  return cost;
}

/** How much further off one is after being put back. Units. */
function backWay({ world: { compiled }, session: { state }, player }: Thinker, placement: number, destination: number): number {
  const start = compiled.starts[player] ?? compiled.level.start;
  const kept = !Number.isNaN(valueIn(state.checkpointX, player)) && compiled.destinations.type[destination] !== DESTINATION.start;
  const toX = kept ? valueIn(state.checkpointX, player) : start.x;
  const toY = kept ? valueIn(state.checkpointY, player) : start.y;
  const [dx, dy] = [valueIn(compiled.placements.x, placement) - toX, valueIn(compiled.placements.y, placement) - toY];
  return Math.sqrt(dx * dx + dy * dy) + 2;
}

/** Between which shares of a straight way the middle of a body is within a zone; null when it is not. */
export function withinZone(
  { box: { left, bottom, right, top } }: Zone,
  from: { readonly x: number; readonly y: number },
  to: { readonly x: number; readonly y: number },
): { readonly enter: number; readonly leave: number } | null {
  if (Math.max(from.x, to.x) <= left || Math.min(from.x, to.x) >= right) return null;
  if (Math.max(from.y, to.y) <= bottom || Math.min(from.y, to.y) >= top) return null;
  let enter = 0;
  let leave = 1;
  const wayX = to.x - from.x;
  if (Math.abs(wayX) >= HAIR) {
    const [a, b] = wayX > 0 ? [left - from.x, right - from.x] : [right - from.x, left - from.x];
    enter = Math.max(enter, a / wayX);
    leave = Math.min(leave, b / wayX);
  }
  const wayY = to.y - from.y;
  if (Math.abs(wayY) >= HAIR) {
    const [a, b] = wayY > 0 ? [bottom - from.y, top - from.y] : [top - from.y, bottom - from.y];
    enter = Math.max(enter, a / wayY);
    leave = Math.min(leave, b / wayY);
  }
  return leave - enter > 1e-9 ? { enter, leave } : null;
}

const HAIR = 1e-12;

type Places = Planned['places'];

/** How much of a way lies within a zone. Units. */
export function lengthWithin(zone: Zone, from: { readonly x: number; readonly y: number }, places: Places): number {
  let length = 0;
  let before = from;
  for (const place of places) {
    const [dx, dy] = [place.x - before.x, place.y - before.y];
    const span = withinZone(zone, before, place);
    if (span !== null) length += (span.leave - span.enter) * Math.sqrt(dx * dx + dy * dy);
    before = place;
  }
  return length;
}

/** The zones of things it knows of that harm, unless they are gone, or nothing harms it now. */
export function harmfulZones(thinker: Thinker): number[] {
  const { world, session, player } = thinker;
  if (valueIn(session.state.graceUntil, player) > stepOf(session)) return [];
  return [...world.zones.keys()].filter((zone) => {
    const { placement, solid } = world.zones[zone] as Zone;
    return !solid && knows(thinker, placement) && exists(session, placement) && phaseFor(session, placement, player) !== PHASE.spent;
  });
}

/** The boxes of things it knows of that are solid now. */
function closedZones(thinker: Thinker): Set<number> {
  const { world, session } = thinker;
  const closed = new Set<number>();
  world.zones.forEach(({ placement, solid }, zone) => {
    const item = solid && knows(thinker, placement) ? valueIn(world.compiled.placements.solid, placement) : -1;
    if (item >= 0 && session.scratch.solids.on[item] === 1) closed.add(zone);
  });
  return closed;
}

const NO_LEGS: readonly Leg[] = [];

interface Spot {
  readonly x: number;
  readonly y: number;
}

const distanceTo = (a: Spot, b: Spot): number => Math.sqrt((b.x - a.x) * (b.x - a.x) + (b.y - a.y) * (b.y - a.y));

/** The shortest way out of a box; null for who is not in it. */
function exitFrom({ left, bottom, right, top }: Zone['wide'], { x, y }: Spot): Spot | null {
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
export function planWay(
  thinker: Thinker,
  from: { readonly x: number; readonly y: number },
  to: { readonly x: number; readonly y: number },
  own = -1,
): Planned | null {
  const { world, player, session } = thinker;
  const closed = closedZones(thinker);
  const harmful = harmfulZones(thinker);
  const judged = (places: Places, length: number): { plan: Planned; worst: number } => {
    let risk = 0;
    let worst = -1;
    let most = 0;
    for (const number of harmful) {
      const zone = world.zones[number] as Zone;
      const inside = lengthWithin(zone, from, places);
      const form = valueIn(session.state.form, zone.placement);
      const harm = world.deeds[player]?.[form]?.harm ?? null;
      if (inside <= 0 || harm === null) continue;
      const cost = costOf(thinker, zone.placement, harm, inside);
      risk += cost;
      if (cost <= most || borne.has(number) || zone.placement === own) continue;
      worst = number;
      most = cost;
    }
    return { plan: { places, length, risk, legs: NO_LEGS }, worst };
  };
  const borne = new Set<number>();
  // What is solid itself is come to by its face.
  if (own >= 0) closed.delete(valueIn(world.solidZoneOf, own));
  const avoided = new Set(closed);
  const first = avoided.size === 0 ? findWay(world.bare, from, to) : findWay(world.mesh, from, to, avoided);
  if (first === null) return null;
  let { plan, worst } = judged(first.places, first.length);
  for (const number of harmful) {
    const out = exitFrom((world.zones[number] as Zone).wide, from);
    if (out === null || cellHolding(world.mesh, out.x, out.y) < 0) continue;
    const way = findWay(world.mesh, out, to, new Set([...avoided, number]));
    if (way === null) continue;
    const other = judged([out, ...way.places], way.length + distanceTo(from, out));
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
