import { BUTTON, MOVEMENT, movementOf, stepOf } from '../../session/index.ts';
import { comesToStation, isAtStation, type Station } from '../navigation/index.ts';
import { leapKey, leapKeys, lengthOfRun, runSteps, steerFor, within, type Flight, type Leap, type Leg } from './air.ts';
import { beginOf, offStation } from './climbs.ts';
import { letGo, said, usesInReach, type Hands } from './hands.ts';
import { aimError, lateSteps, type Errand, type Mind } from './mind.ts';
import { backIn, goneIn } from './opening.ts';
import { rowIn } from './rows.ts';
import { areaAt, isSeen } from './seeing.ts';
import { bodyOf, hereOf, isRooted, paceOf } from './thinker.ts';

/** So near to where it walks is there. Units. */
const THERE = 0.1;

/** Whether the player stands on something. */
export const isGrounded = ({ session, player }: Hands): boolean => (session.state.floor[player] as number) >= 0;

/** Whether the player falls: where it comes down is not known before. */
export const isFalling = (hands: Hands): boolean =>
  hands.world.terrain !== null && !isGrounded(hands) && (hands.session.state.velocityY[hands.player] as number) < -0.5;

/** Whether it stands on what gives way, or comes and goes. */
function isInHaste({ world, session, player }: Hands): boolean {
  const floor = session.state.floor[player] as number;
  if (world.terrain === null || floor < 0) return false;
  return world.terrain.yielding.has(floor) || goneIn(world.compiled, session, floor) < Infinity;
}

/** Walks towards a place on its surface. Answers the steps until that has to change. */
function walkTo(hands: Hands, x: number): number {
  const { mind, session, player, persona, world } = hands;
  const { rate, braking } = world.compiled;
  // Nobody dawdles on what gives way.
  const hurries = isInHaste(hands);
  const haste = hurries ? 1 : persona.haste;
  const pace = hurries ? movementOf(session, player, MOVEMENT.speed) : paceOf(hands);
  const off = x - hereOf(hands).x;
  mind.buttons = 0;
  // Where a step at its pace takes it past the place, it comes no faster than it can stop from after the next: w/rate + w²/(2·braking).
  const slow = braking * (Math.sqrt(1 / (rate * rate) + (2 * Math.abs(off)) / braking) - 1 / rate);
  if (pace / rate > THERE && slow < pace) {
    // With no key held a body comes to rest sooner than with another one.
    const comes = (session.state.velocityX[player] as number) * Math.sign(off);
    mind.x = comes > slow ? 0 : Math.round(Math.sign(off) * 127 * haste * (slow / pace));
    return 1;
  }
  mind.x = Math.round(steerFor(session, player, x) * haste);
  const stopping = (pace * pace) / (2 * braking);
  const left = Math.abs(off) - stopping;
  return Math.max(1, Math.floor((left * rate) / pace));
}

/** Begins a leap, as well as it aims and times. */
function takeOff(hands: Hands, leap: Leap): void {
  const { mind, session, persona, player } = hands;
  const error = aimError(session, persona, player, stepOf(session)) / 57;
  const aimX = leap.aimX + error * Math.abs(leap.landX - leap.takeX);
  mind.leap = { ...leap, aimX };
  mind.flight = { airborne: false, thrown: false, steps: 0, waited: 0 };
  mind.runsUp = false;
  mind.beginsAt = -1;
}

/** Whether the platforms that a leap begins and ends on, where they travel, are and will be where it takes them to be. */
function isTimely(hands: Hands, leap: Leap): boolean {
  const { world, session } = hands;
  const { terrain, compiled } = world;
  const [from = null, to = null] = [terrain?.surfaces[leap.from]?.station, terrain?.surfaces[leap.to]?.station];
  const runs = runSteps(bodyOf(hands), leap, compiled.rate);
  const now = stepOf(session);
  return (
    (from === null || isAtStation(compiled, from, now)) && (to === null || comesToStation(compiled, to, now, runs + leap.steps, leap.over))
  );
}

/** How far from the ends of what it stands on one comes down. Units. */
const COMES_DOWN = 0.25;

/** Where it comes down to take off from: beside the edge where that is, for what lies there may have thrown it. */
function comesDownAt({ world }: Hands, { from, takeX }: Leap): number {
  const { left = takeX, right = takeX, station = null } = world.terrain?.surfaces[from] ?? {};
  return station === null ? within(takeX, left + COMES_DOWN, right - COMES_DOWN) : takeX;
}

/** A place on a platform at one of its stations, not at its very edge. */
function insideOf({ world }: Hands, { item, x, y }: Station, at: number): number {
  const on = world.terrain?.surfaces.find(({ station }) => station?.item === item && station.x === x && station.y === y);
  return on === undefined ? at : within(at, on.left + COMES_DOWN, on.right - COMES_DOWN);
}

/** Whether it stands where a leap begins: it may have come down elsewhere since that was meant. */
function isOnLevel({ world, session, player }: Hands, { from }: Leap): boolean {
  const surface = world.terrain?.surfaces[from];
  return surface === undefined || surface.station !== null || Math.abs(surface.y - (session.state.playerY[player] as number)) < 0.1;
}

/** How long it takes at a run over a stretch, from the speed it has; below nought, how long ago it was at the end of one that lies behind. Seconds. */
function secondsOver({ session, player }: Hands, length: number, speed: number): number {
  const [most, gain] = [movementOf(session, player, MOVEMENT.speed), movementOf(session, player, MOVEMENT.acceleration)];
  const gains = (most * most - speed * speed) / (2 * gain);
  if (length <= 0 || speed >= most || gain <= 0) return length / Math.max(0.1, speed);
  return length < gains ? (Math.sqrt(speed * speed + 2 * gain * length) - speed) / gain : (most - speed) / gain + (length - gains) / most;
}

/** What it leaps onto has to be there for so much longer than it flies. Seconds. */
const LANDS = 0.15;
/** Where what it stands on is gone so soon, it dares what it would wait for. Seconds. */
const NOW_OR_NEVER = 0.3;

/** Whether what a leap comes down on will be gone by then, or before it is crossed. */
function goesTooSoon({ world, session, player }: Hands, leap: Leap, item: number): boolean {
  const { compiled, terrain } = world;
  const gone = item < 0 ? Infinity : goneIn(compiled, session, item);
  if (gone === Infinity) return false;
  const floor = session.state.floor[player] as number;
  const stays = floor < 0 ? Infinity : goneIn(compiled, session, floor);
  // Where what it stands on goes no later, waiting is of no use.
  if (stays <= gone) return false;
  const { left = 0, right = 0 } = terrain?.surfaces[leap.to] ?? {};
  const crosses = stays > NOW_OR_NEVER * compiled.rate ? (right - left) / compiled.level.body.speed : 0;
  return gone < leap.steps + (LANDS + crosses) * compiled.rate;
}

/** It waits no longer at once. Steps. */
const LONGEST_LOOK = 12;

/** Says once what it waits for, to leap onto it or off it. */
function saysItWaits(hands: Hands, placement: number): void {
  if (hands.mind.boards !== placement) said(hands, 'wait', { placement });
  hands.mind.boards = placement;
}

/**
 * For how many steps it waits where a leap begins, before it thinks again: for what has gone for so many, until a row of what comes and
 * goes is there in turn, or a platform comes; 0: it leaps.
 */
function waitsBefore(hands: Hands, leap: Leap, back: number): number {
  const { mind, session, world } = hands;
  const [from, to] = [world.terrain?.surfaces[leap.from], world.terrain?.surfaces[leap.to]];
  const item = to?.item ?? -1;
  const now = stepOf(session);
  if (now < mind.beginsAt) return Math.min(mind.beginsAt - now, LONGEST_LOOK);
  const row = rowIn(hands, leap);
  if (row === null && (back > 0 || goesTooSoon(hands, leap, item))) return 4;
  if (row !== null && row > 0) {
    saysItWaits(hands, world.compiled.solids.owner[item] as number);
    mind.beginsAt = now + row;
    return Math.min(row, LONGEST_LOOK);
  }
  if (isTimely(hands, leap)) return 0;
  saysItWaits(hands, (to?.station ?? from?.station)?.placement ?? -1);
  return 2;
}

/** So near to an edge one stands to look over it. Units. */
const FROM_EDGE = 0.15;

/** Where it stops to look before it walks off an edge to what it has not seen; null: it need not. */
function looksOverFrom({ mind, world }: Hands, { from, to, way, takeX, landX, jumps, thrower }: Leap): number | null {
  const [on, under] = [world.terrain?.surfaces[from], world.terrain?.surfaces[to]];
  if (jumps || thrower >= 0 || mind.errand?.purpose !== 'explore' || on === undefined || under === undefined) return null;
  if (isSeen(mind.areas, areaAt(world.areas, { x: landX, y: under.y }))) return null;
  return way > 0 ? Math.min(takeX, on.right - FROM_EDGE) : Math.max(takeX, on.left + FROM_EDGE);
}

/** Stops where a leap is looked over from, until it has looked. Answers the steps until something has to change; null: it has. */
function lookOver(hands: Hands, leap: Leap): number | null {
  const { mind, session, player, persona, world } = hands;
  const edge = looksOverFrom(hands, leap);
  const now = stepOf(session);
  if (edge === null || (mind.beginsAt >= 0 && now >= mind.beginsAt)) return null;
  const isThere = Math.abs(edge - hereOf(hands).x) <= THERE && Math.abs(session.state.velocityX[player] as number) <= 1;
  if (!isThere && mind.beginsAt < 0) return Math.min(walkTo(hands, edge), 6);
  letGo(mind);
  if (mind.beginsAt < 0) mind.beginsAt = now + Math.ceil(world.compiled.rate / persona.decisions) + 1;
  return Math.min(mind.beginsAt - now, LONGEST_LOOK);
}

/** Comes to where a leap begins, and begins it. Answers the steps until something has to change. */
function approach(hands: Hands, leap: Leap): number {
  const { mind, session, player, persona, world } = hands;
  const { x } = hereOf(hands);
  const to = world.terrain?.surfaces[leap.to];
  const item = to?.item ?? -1;
  const back = item < 0 ? 0 : backIn(world.compiled, session, item);
  if (back === Infinity) {
    // It has gone for good since the way was found.
    letGo(mind);
    mind.chooseAt = stepOf(session);
    return 1;
  }
  const stands = world.terrain?.surfaces[leap.from]?.station ?? null;
  const body = bodyOf(hands);
  const begin = beginOf(body, leap) + offStation(world, session, stands);
  const velocity = session.state.velocityX[player] as number;
  if (mind.runsUp) {
    mind.x = leap.way * 127;
    mind.buttons = 0;
    const steps = Math.floor(secondsOver(hands, (leap.takeX - x) * leap.way, velocity * leap.way) * world.compiled.rate) + mind.late;
    if (steps > 0) return steps;
    takeOff(hands, leap);
    return fly(hands);
  }
  const looks = lookOver(hands, leap);
  if (looks !== null) return looks;
  // On what gives way a run-up is begun wherever there is the room for one.
  const runsOn = leap.runs && isInHaste(hands) && (leap.takeX - x) * leap.way >= lengthOfRun(body);
  if (!runsOn && (Math.abs(x - begin) > THERE || Math.abs(velocity) > 1)) return Math.min(walkTo(hands, begin), 6);
  letGo(mind);
  const waits = waitsBefore(hands, leap, back);
  if (waits > 0) return waits;
  if (!leap.runs) {
    takeOff(hands, leap);
    return fly(hands);
  }
  mind.runsUp = true;
  mind.late = lateSteps(session, mind, persona, player);
  mind.x = leap.way * 127;
  return 1;
}

/** One waits no longer to be thrown up. Seconds. */
const LONGEST_WAIT = 2.5;

/** Is done with a leap that has come down: goes on when that was where it meant to, else thinks anew. Answers whether it is. */
function land(hands: Hands, leap: Leap, flight: Flight): boolean {
  const { mind, session, player, world } = hands;
  mind.landed += 1;
  const { state } = session;
  const x = state.playerX[player] as number;
  const y = state.playerY[player] as number;
  const on = world.terrain?.surfaces[leap.to];
  const isOn = on !== undefined && Math.abs(on.y - y) < 0.05 && x > on.left - 0.1 && x < on.right + 0.1;
  const there = on !== undefined && on.station !== null ? (state.floor[player] as number) === on.item : isOn;
  const done = there && (leap.thrower < 0 || flight.thrown);
  if (mind.landed < 2 && !done) return false;
  endLeap(mind);
  mind.boards = -1;
  if (done) {
    mind.next += 1;
    mind.missed = mind.missed.filter((key) => key !== leapKey(leap));
  } else miss(hands, leap);
  return true;
}

/** Remembers that a leap did not come down where it was meant to, and thinks anew. */
function miss({ mind, session }: Hands, leap: Leap): void {
  mind.missed.push(leapKey(leap));
  mind.chooseAt = stepOf(session);
}

function endLeap(mind: Mind): void {
  mind.leap = null;
  mind.flight = null;
  mind.landed = 0;
  letGo(mind);
}

/** Presses what a leap presses, and notices when it is over. */
function fly(hands: Hands): number {
  const { mind, session, player, world } = hands;
  const { leap, flight } = mind;
  if (leap === null || flight === null) return 1;
  if (flight.airborne && flight.steps > 1 && isGrounded(hands) && (session.state.velocityY[player] as number) <= 0.01) {
    if (land(hands, leap, flight)) return 1;
  } else mind.landed = 0;
  const { rate } = world.compiled;
  const now = stepOf(session);
  const isLate = flight.airborne && flight.steps > 2 * leap.steps + rate;
  const waited = flight.waited > LONGEST_WAIT * rate && !flight.airborne;
  if (isLate || waited) {
    endLeap(mind);
    miss(hands, leap);
    // What throws whoever comes it has to go out of, and come again; else something throws it about, or holds it back.
    if (isLate || leap.thrower < 0) return 1;
    const away = hereOf(hands).x > leap.throwerX ? 1 : -1;
    mind.aside = { purpose: 'wait', placement: leap.thrower, from: now, until: now + rate, x: away, y: 0 };
    mind.chooseAt = now + rate;
    return 1;
  }
  const keys = leapKeys(session, player, leap, flight);
  mind.x = keys.x;
  mind.buttons = (keys.jump ? BUTTON.jump : 0) | (keys.use ? BUTTON.use : 0);
  return 1;
}

/** Jumps on the spot, again and again, with the key held while rising. */
function hop(hands: Hands, x: number): number {
  const { mind, session, player } = hands;
  const grounded = isGrounded(hands);
  const rising = (session.state.velocityY[player] as number) > 0;
  const held = (mind.buttons & BUTTON.jump) !== 0;
  if (grounded && !held) mind.hops += 1;
  mind.x = steerFor(session, player, x);
  mind.buttons = (grounded && !held) || (rising && held) ? BUTTON.jump : 0;
  return 1;
}

/** No faster than this, up or down, one may stand again in the next step. Units a second. */
const BARELY = 1;

/** Goes on along the legs of its way. Answers the steps until what is pressed has to change. */
export function climb(hands: Hands, errand: Errand): number {
  const { mind, session, player, world } = hands;
  if (isRooted(hands)) return 2;
  if (mind.leap !== null) return fly(hands);
  const leg: Leg | undefined = mind.legs[mind.next];
  const { x } = hereOf(hands);
  if (usesInReach(hands, errand)) return 2;
  if (!isGrounded(hands) && leg?.hops !== true && !mind.runsUp) {
    // It fell, or was thrown: it comes down first.
    mind.x = leg === undefined ? 0 : steerFor(session, player, leg.leap === null ? leg.x : comesDownAt(hands, leg.leap));
    mind.buttons = 0;
    // What all but carries it lifts it off every other step.
    return Math.abs(session.state.velocityY[player] as number) < BARELY ? 1 : 2;
  }
  if (leg === undefined) {
    letGo(mind);
    return Infinity;
  }
  if (leg.leap !== null) {
    if (isOnLevel(hands, leg.leap)) return approach(hands, leg.leap);
    letGo(mind);
    mind.chooseAt = stepOf(session);
    return 1;
  }
  if (leg.station !== null) {
    // It rides on, and stands so that it comes to its place with the platform; not at the very edge before it is there.
    const off = offStation(world, session, leg.station);
    if (Math.abs(off) < THERE) return leg.hops ? hop(hands, leg.x) : Math.min(walkTo(hands, leg.x + off), 4);
    return Math.min(walkTo(hands, insideOf(hands, leg.station, leg.x) + off), 4);
  }
  const there = Math.abs(leg.x - x) < THERE;
  if (leg.hops && there) return hop(hands, leg.x);
  if (there && mind.next < mind.legs.length - 1) {
    mind.next += 1;
    return climb(hands, errand);
  }
  if (there && !leg.hops) {
    letGo(mind);
    return Infinity;
  }
  return walkTo(hands, leg.x);
}
