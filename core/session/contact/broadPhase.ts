import { lowerToBoundary, nearest, region, Motion, regionAround, type Track } from '../../geometry/index.ts';
import { GLIDING, LIFE, TRAVEL } from '../compile/codes.ts';

import { firstPair, senseNothing, senseOne, touches } from './contacts.ts';
import type { PlayerMotion, Session } from '../state/running.ts';
import { LONGEST_WINDOW } from '../compile/schedule.ts';
import { CLOCK, NEVER } from '../state/state.ts';
import { placeX, placeY, trackOf } from '../state/things.ts';

/** A margin for rounding in times of a round. Seconds. */
const MOMENT = 1e-7;
/** A margin for rounding in "nothing can change before". Units. */
const HAIR = 1e-6;
/** How far around a player things are looked at to learn how far it can go undisturbed. Units. */
const LOOK_AROUND = 1.5;

/** The box around the way of a toucher within this step, its own reach included. */
function boundTrack(session: Session, toucher: number): void {
  const { compiled, state, scratch } = session;
  const now = state.clock[CLOCK.step] as number;
  if (scratch.boundsStep[toucher] === now) return;
  scratch.boundsStep[toucher] = now;
  const isPlayer = toucher < compiled.playerCount;
  const traveller = toucher - compiled.playerCount;
  const form = isPlayer ? -1 : (state.form[compiled.travellers.placement[traveller] as number] as number);
  let reach = isPlayer ? compiled.bodyReach : form < 0 ? 0 : (compiled.forms.reach[form] as number);
  // A turning thing may reach twice as far from its place.
  if (form >= 0 && compiled.forms.turns[form] === 1) reach = reach * 2 + turnReach(session, form);
  const way = isPlayer ? (scratch.tracks[toucher] as Track) : trackOf(session, traveller);
  let left = way.x[0] as number;
  let right = left;
  let bottom = way.y[0] as number;
  let top = bottom;
  for (let k = 1; k < way.count; k += 1) {
    left = Math.min(left, way.x[k] as number);
    right = Math.max(right, way.x[k] as number);
    bottom = Math.min(bottom, way.y[k] as number);
    top = Math.max(top, way.y[k] as number);
  }
  if (form >= 0 && compiled.magnets.has[form] === 1) reach = Math.max(reach, compiled.magnets.takenAt[form] as number);
  scratch.bounds[toucher * 4] = left - reach;
  scratch.bounds[toucher * 4 + 1] = bottom - reach;
  scratch.bounds[toucher * 4 + 2] = right + reach;
  scratch.bounds[toucher * 4 + 3] = top + reach;
}

/** How far from its place a thing's pivots lie, twice. */
function turnReach(session: Session, form: number): number {
  const { rules, forms } = session.compiled;
  let most = 0;
  for (let rule = forms.ruleStart[form] as number; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
    const [x, y] = [rules.turnX[rule] as number, rules.turnY[rule] as number];
    most = Math.max(most, 2 * Math.sqrt(x * x + y * y));
  }
  return most;
}

function boundsMeet(session: Session, a: number, b: number): boolean {
  boundTrack(session, b);
  const { bounds } = session.scratch;
  return (
    (bounds[b * 4] as number) <= (bounds[a * 4 + 2] as number) &&
    (bounds[b * 4 + 2] as number) >= (bounds[a * 4] as number) &&
    (bounds[b * 4 + 1] as number) <= (bounds[a * 4 + 3] as number) &&
    (bounds[b * 4 + 3] as number) >= (bounds[a * 4 + 1] as number)
  );
}

/** Whether a toucher's way in this step comes anywhere near what a traveller ever covers. */
function rangeMeets(session: Session, toucher: number, traveller: number): boolean {
  const { bounds, range } = session.scratch;
  const a = toucher * 4;
  const b = traveller * 4;
  return (
    (range[b] as number) <= (bounds[a + 2] as number) &&
    (range[b + 2] as number) >= (bounds[a] as number) &&
    (range[b + 1] as number) <= (bounds[a + 3] as number) &&
    (range[b + 3] as number) >= (bounds[a + 1] as number)
  );
}

/** All that travels and may meet the toucher in this step. */
function senseTravellers(session: Session, toucher: number): void {
  const { compiled, state } = session;
  const { start, other: others } = compiled.meetings;
  const isPlayer = toucher < compiled.playerCount;
  for (let at = start[toucher] as number; at < (start[toucher + 1] as number); at += 1) {
    const other = others[at] as number;
    if (other >= session.scratch.travelling) return;
    const placement = compiled.travellers.placement[other] as number;
    const form = state.form[placement] as number;
    if (form < 0 || (!isPlayer && compiled.forms.senses[form] === 0)) continue;
    if (!rangeMeets(session, toucher, other)) continue;
    if (boundsMeet(session, toucher, compiled.playerCount + other)) senseOne(session, toucher, placement);
  }
}

/** Contacts of a toucher with things of the sort looked at that were not met: they are no longer anywhere near. */
function senseRest(session: Session, toucher: number, stills: boolean, travellers: boolean): void {
  const { compiled, state, scratch } = session;
  const pairs = state.clock[CLOCK.pairs] as number;
  for (let own = firstPair(session, toucher); own < pairs && state.pairToucher[own] === toucher; own += 1) {
    const placement = state.pairPlacement[own] as number;
    const looked = (compiled.placements.traveller[placement] as number) >= 0 ? travellers : stills;
    if (looked && scratch.sensed[placement] !== scratch.senseStamp) senseNothing(session, toucher, placement, own);
  }
}

function senseStills(session: Session, toucher: number): void {
  const { compiled, scratch, state } = session;
  const { bounds } = scratch;
  const isPlayer = toucher < compiled.playerCount;
  const at = toucher * 4;
  region.left = bounds[at] as number;
  region.bottom = bounds[at + 1] as number;
  region.right = bounds[at + 2] as number;
  region.top = bounds[at + 3] as number;
  const found = compiled.stillGrid.query(region);
  for (let k = 0; k < found; k += 1) {
    const placement = compiled.stillPlacement[compiled.stillGrid.found[k] as number] as number;
    if (isPlayer || compiled.forms.senses[state.form[placement] as number] === 1) senseOne(session, toucher, placement);
  }
}

const still = new Motion();

/** How far the nearest boundary of contact between a player and one thing is, from where they are now; left in `nearest`. */
export function nearestBoundary(session: Session, player: number, placement: number): void {
  const { compiled, state } = session;
  const form = state.form[placement] as number;
  nearest.distance = compiled.forms.turns[form] === 1 ? 0 : Infinity;
  if (nearest.distance === 0) return;
  still.x = (state.playerX[player] as number) - placeX(session, placement);
  still.y = (state.playerY[player] as number) - placeY(session, placement);
  still.grow = compiled.forms.grow[form] as number;
  const end = compiled.forms.shapeStart[form + 1] as number;
  for (let shape = compiled.forms.shapeStart[form] as number; shape < end; shape += 1) {
    lowerToBoundary(compiled.shapes, 0, shape, still);
  }
}

/** Works out how far a player can go before its contacts with things that stay can change. */
function lookAtStills(session: Session, player: number): void {
  const { compiled, state, scratch } = session;
  const x = state.playerX[player] as number;
  const y = state.playerY[player] as number;
  const around = compiled.bodyReach + LOOK_AROUND;
  let slack = LOOK_AROUND;
  regionAround(x, y, around, around);
  const found = compiled.stillGrid.query(region);
  for (let k = 0; k < found; k += 1) {
    nearestBoundary(session, player, compiled.stillPlacement[compiled.stillGrid.found[k] as number] as number);
    slack = Math.min(slack, nearest.distance);
  }
  (scratch.motions[player] as PlayerMotion).stillSlack = slack - HAIR;
}

/** How fast a traveller goes by itself. Units a second. */
export function travelSpeed(session: Session, traveller: number): number {
  const { compiled, state } = session;
  const path = compiled.travellers.path[traveller] as number;
  if (path >= 0) return compiled.movers.speed[path] as number;
  const form = state.form[compiled.travellers.placement[traveller] as number] as number;
  return form < 0 ? 0 : Math.max(0, compiled.forms.driftSpeed[form] as number);
}

/** Whether a player is so near to what a traveller ever covers that it might meet it within a distance. */
function nearRange({ compiled, state, scratch }: Session, player: number, traveller: number, distance: number): boolean {
  const { range } = scratch;
  const around = compiled.bodyReach + distance;
  const x = state.playerX[player] as number;
  const y = state.playerY[player] as number;
  const at = traveller * 4;
  return (
    (range[at] as number) <= x + around &&
    (range[at + 2] as number) >= x - around &&
    (range[at + 1] as number) <= y + around &&
    (range[at + 3] as number) >= y - around
  );
}

/** The same for things that travel, those drawn to a player excepted: they leave no slack. */
function lookAtTravellers(session: Session, player: number): void {
  const { compiled, state, scratch } = session;
  const motion = scratch.motions[player] as PlayerMotion;
  let slack = LOOK_AROUND;
  motion.travelSlack = 0;
  for (let traveller = 0; traveller < scratch.travelling; traveller += 1) {
    const placement = compiled.travellers.placement[traveller] as number;
    if ((state.form[placement] as number) < 0) continue;
    if (state.drawnBy[traveller] !== -1) return;
    if (!nearRange(session, player, traveller, slack)) continue;
    nearestBoundary(session, player, placement);
    slack = Math.min(slack, nearest.distance);
    if (slack <= 0) return;
  }
  motion.travelSlack = slack - HAIR;
}

function sensePlayer(session: Session, player: number): void {
  const { compiled, state, scratch } = session;
  const motion = scratch.motions[player] as PlayerMotion;
  const still = motion.stillSlack - motion.gone;
  const travel = motion.travelSlack - motion.gone - compiled.fastest * compiled.stepSeconds;
  motion.stillSlack = still;
  motion.travelSlack = travel;
  const lookStills = still <= 0 || session.exhaustive;
  const lookTravellers = travel <= 0 || session.exhaustive;
  const pairs = state.clock[CLOCK.pairs] as number;
  for (let own = 0; own < pairs && (state.pairToucher[own] as number) <= player; own += 1) {
    if (state.pairToucher[own] === player) state.pairInside[own] = compiled.stepSeconds;
  }
  if (!lookStills && !lookTravellers) return;
  // Where the nearest boundary is now further away than all has come since, nothing was crossed on the way here.
  const mayCross = lookStills && (lookAtStills(session, player), still === -Infinity || motion.stillSlack <= motion.gone);
  const closing = motion.gone + compiled.fastest * compiled.stepSeconds;
  const mayMeet = lookTravellers && (lookAtTravellers(session, player), travel === -Infinity || motion.travelSlack <= closing);
  if (!mayCross && !mayMeet && !session.exhaustive) return;
  scratch.senseStamp += 1;
  boundTrack(session, player);
  if (mayCross || session.exhaustive) senseStills(session, player);
  if (mayMeet || session.exhaustive) senseTravellers(session, player);
  senseRest(session, player, mayCross || session.exhaustive, mayMeet || session.exhaustive);
}

/** Times of a mover's round: a stretch of it, and when a window is looked for. Seconds. */
const times = { from: 0, to: 0, search: 0 };

/** The first window of a mover's schedule that opens at or after the time looked for: mostly near the last one found. */
function windowAfter({ compiled, scratch }: Session, path: number): number {
  const { from, start } = compiled.schedule;
  const { search } = times;
  const end = start[path + 1] as number;
  let at = scratch.window[path] as number;
  while (at > (start[path] as number) && (from[at - 1] as number) >= search) at -= 1;
  while (at < end && (from[at] as number) < search) at += 1;
  scratch.window[path] = at;
  return at;
}

/** Looks at what a mover's schedule says it may cross in a stretch of its round. */
function senseWindows(session: Session, toucher: number, path: number): void {
  const { schedule } = session.compiled;
  const end = schedule.start[path + 1] as number;
  times.search = times.from - LONGEST_WINDOW;
  for (let at = windowAfter(session, path); at < end && (schedule.from[at] as number) <= times.to; at += 1) {
    const placement = schedule.placement[at] as number;
    if ((schedule.to[at] as number) < times.from || session.scratch.sensed[placement] === session.scratch.senseStamp) continue;
    senseOne(session, toucher, placement);
  }
}

/** Steps until the next window is open, from the end of the stretch; at least 1. */
function stepsToWindow(session: Session, path: number): number {
  const { schedule, movers, stepSeconds } = session.compiled;
  const first = schedule.start[path] as number;
  const end = schedule.start[path + 1] as number;
  if (first === end) return NEVER;
  const round = movers.round[path] as number;
  const from = times.to;
  times.search = from - MOMENT;
  const next = windowAfter(session, path);
  // Windows that opened earlier may still be open; so may those at the turn of the round.
  for (let at = next - 1; at >= first && (schedule.from[at] as number) >= from - LONGEST_WINDOW - MOMENT; at -= 1) {
    if ((schedule.to[at] as number) >= from - MOMENT) return 1;
  }
  if (from <= MOMENT && (schedule.lastTo[path] as number) >= round - 2 * MOMENT) return 1;
  const wait = next < end ? (schedule.from[next] as number) - from : round - from + (schedule.from[first] as number);
  return 1 + Math.floor(Math.max(0, wait - MOMENT) / stepSeconds);
}

/** A mover along a path: things that stay by its schedule, the rest when it may meet them. */
function senseMover(session: Session, traveller: number, path: number): void {
  const { compiled, state, scratch } = session;
  const now = state.clock[CLOCK.step] as number;
  const toucher = compiled.playerCount + traveller;
  const round = compiled.movers.round[path] as number;
  const seconds = compiled.stepSeconds;
  const all = scratch.wakeAll[traveller] === 1 || session.exhaustive || round < 8 * seconds;
  scratch.senseStamp += 1;
  const since = (now - 1) * seconds + (compiled.movers.offset[path] as number);
  const inRound = since - Math.floor(since / round) * round;
  if (all) {
    boundTrack(session, toucher);
    const { schedule, forms, placements } = compiled;
    const { bounds } = scratch;
    for (let k = schedule.nearStart[path] as number; k < (schedule.nearStart[path + 1] as number); k += 1) {
      const placement = schedule.near[k] as number;
      const reach = forms.reach[state.form[placement] as number] as number;
      const [x, y] = [placements.x[placement] as number, placements.y[placement] as number];
      if (x - reach > (bounds[toucher * 4 + 2] as number) || x + reach < (bounds[toucher * 4] as number)) continue;
      if (y - reach > (bounds[toucher * 4 + 3] as number) || y + reach < (bounds[toucher * 4 + 1] as number)) continue;
      senseOne(session, toucher, placement);
    }
  } else {
    times.from = inRound - MOMENT;
    times.to = inRound + seconds + MOMENT;
    senseWindows(session, toucher, path);
    if (inRound < MOMENT) {
      times.from = inRound - MOMENT + round;
      times.to = round;
      senseWindows(session, toucher, path);
    }
    if (inRound + seconds + MOMENT > round) {
      times.from = 0;
      times.to = inRound + seconds + MOMENT - round;
      senseWindows(session, toucher, path);
    }
  }
  const others = all || now >= (scratch.otherWake[traveller] as number);
  if (others) {
    boundTrack(session, toucher);
    senseTravellers(session, toucher);
    scratch.otherWake[traveller] = now + stepsToTravellers(session, traveller);
  }
  if (others) senseRest(session, toucher, all, true);
  const after = inRound + seconds;
  times.to = after >= round ? after - round : after;
  const next = round < 8 * seconds ? 1 : stepsToWindow(session, path);
  scratch.wake[traveller] = Math.min(next === NEVER ? NEVER : now + next, scratch.otherWake[traveller] as number);
}

/** Whether two travellers cover nothing in common. */
function apart({ scratch: { range } }: Session, a: number, b: number): boolean {
  return (
    (range[a * 4] as number) > (range[b * 4 + 2] as number) ||
    (range[b * 4] as number) > (range[a * 4 + 2] as number) ||
    (range[a * 4 + 1] as number) > (range[b * 4 + 3] as number) ||
    (range[b * 4 + 1] as number) > (range[a * 4 + 3] as number)
  );
}

/** How far the nearest boundary of contact between two travellers that do not turn is, from where they are now. Units. */
function betweenTravellers(session: Session, own: number, other: number): number {
  const { compiled, state } = session;
  const { shapes, forms } = compiled;
  const ownForm = state.form[own] as number;
  const form = state.form[other] as number;
  still.x = placeX(session, own) - placeX(session, other);
  still.y = placeY(session, own) - placeY(session, other);
  const apart = Math.sqrt(still.x * still.x + still.y * still.y) - (forms.reach[ownForm] as number) - (forms.reach[form] as number);
  if (apart > 0) return apart;
  still.grow = forms.grow[form] as number;
  nearest.distance = Infinity;
  for (let shape = forms.shapeStart[form] as number; shape < (forms.shapeStart[form + 1] as number); shape += 1) {
    for (let at = forms.shapeStart[ownForm] as number; at < (forms.shapeStart[ownForm + 1] as number); at += 1) {
      lowerToBoundary(shapes, at, shape, still);
    }
  }
  return nearest.distance;
}

/** Steps within which a traveller cannot come to, or from, touching another. */
function stepsToTravellers(session: Session, traveller: number): number {
  const { compiled, state } = session;
  const own = compiled.travellers.placement[traveller] as number;
  const turns = compiled.forms.turns[state.form[own] as number] === 1;
  const speed = travelSpeed(session, traveller);
  let least = Infinity;
  const { start, other: others } = compiled.meetings;
  const toucher = compiled.playerCount + traveller;
  for (let at = start[toucher] as number; at < (start[toucher + 1] as number); at += 1) {
    const other = others[at] as number;
    if (other >= session.scratch.travelling) break;
    const placement = compiled.travellers.placement[other] as number;
    const form = state.form[placement] as number;
    if (form < 0 || compiled.forms.senses[form] === 0 || apart(session, traveller, other)) continue;
    if (turns || state.drawnBy[other] !== -1 || compiled.forms.turns[form] === 1) return 1;
    const gap = betweenTravellers(session, own, placement) - HAIR;
    const closing = speed + travelSpeed(session, other);
    if (closing > 0) least = Math.min(least, gap / closing);
    if (least <= 0) return 1;
  }
  return least === Infinity ? NEVER >> 1 : Math.max(1, Math.floor(least / compiled.stepSeconds));
}

/** Something that drifts: all around it in every step. */
function senseDrifting(session: Session, traveller: number): void {
  const toucher = session.compiled.playerCount + traveller;
  session.scratch.senseStamp += 1;
  boundTrack(session, toucher);
  senseStills(session, toucher);
  senseTravellers(session, toucher);
  senseRest(session, toucher, true, true);
}

function senseTraveller(session: Session, traveller: number): void {
  const { compiled, state, scratch } = session;
  const now = state.clock[CLOCK.step] as number;
  const path = compiled.travellers.path[traveller] as number;
  const placement = compiled.travellers.placement[traveller] as number;
  scratch.wake[traveller] = NEVER;
  if (compiled.travellers.how[traveller] === TRAVEL.roving) return;
  if (!touches(session, traveller)) {
    scratch.senseStamp += 1;
    senseRest(session, compiled.playerCount + traveller, true, true);
    return;
  }
  if (path >= 0) {
    senseMover(session, traveller, path);
    return;
  }
  if ((compiled.forms.driftSpeed[state.form[placement] as number] as number) < 0) return;
  senseDrifting(session, traveller);
  scratch.wake[traveller] = now + 1;
}

/** Lists the crossings of all travellers that have to be looked at in this step. */
export function senseDue(session: Session): void {
  const { state, scratch } = session;
  const now = state.clock[CLOCK.step] as number;
  let next = NEVER;
  for (let traveller = 0; traveller < scratch.travelling; traveller += 1) {
    let wake = scratch.wake[traveller] as number;
    if (now >= wake || session.exhaustive) {
      senseTraveller(session, traveller);
      scratch.wakeAll[traveller] = 0;
      wake = scratch.wake[traveller] as number;
    }
    if (wake < next) next = wake;
  }
  scratch.nextWake = next;
}

/** Fills the list of this step's crossings for all players and travellers. */
export function sense(session: Session): void {
  const { compiled, state, scratch } = session;
  scratch.crossings.count = 0;
  for (let player = 0; player < compiled.playerCount; player += 1) {
    const { gone, dropped } = scratch.motions[player] as PlayerMotion;
    // Whoever was put somewhere in this step is looked at in the next.
    if (state.life[player] === LIFE.alive && gone !== GLIDING && !dropped) sensePlayer(session, player);
  }
  if ((state.clock[CLOCK.step] as number) >= scratch.nextWake || session.exhaustive) senseDue(session);
}
