import { lowerToBoundary, Motion, nearest, region, regionAround } from '../../geometry/index.ts';
import { TRAVEL } from '../compile/codes.ts';
import { LONGEST_WINDOW } from '../compile/schedule.ts';
import type { Session } from '../state/running.ts';
import { CLOCK, NEVER } from '../state/state.ts';
import { placeX, placeY } from '../state/things.ts';
import { gatherNear } from '../state/cells.ts';
import { boundTrack, rangeNear } from './bounds.ts';
import { senseOne, touches } from './contacts.ts';
import { HAIR, senseRest, senseStills, senseTravellers, travelSpeed } from './sensing.ts';

/** A margin for rounding in times of a round. Seconds. */
const TIME_HAIR = 1e-7;

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
  times.search = from - TIME_HAIR;
  const next = windowAfter(session, path);
  // Windows that opened earlier may still be open; so may those at the turn of the round.
  for (let at = next - 1; at >= first && (schedule.from[at] as number) >= from - LONGEST_WINDOW - TIME_HAIR; at -= 1) {
    if ((schedule.to[at] as number) >= from - TIME_HAIR) return 1;
  }
  if (from <= TIME_HAIR && (schedule.lastTo[path] as number) >= round - 2 * TIME_HAIR) return 1;
  const wait = next < end ? (schedule.from[next] as number) - from : round - from + (schedule.from[first] as number);
  return 1 + Math.floor(Math.max(0, wait - TIME_HAIR) / stepSeconds);
}

/** Looks at all a mover could ever meet that stays, where it is now. */
function senseNear(session: Session, toucher: number, path: number): void {
  const { compiled, state, scratch } = session;
  const { schedule, forms, placements } = compiled;
  const { bounds } = scratch;
  boundTrack(session, toucher);
  for (let k = schedule.nearStart[path] as number; k < (schedule.nearStart[path + 1] as number); k += 1) {
    const placement = schedule.near[k] as number;
    const reach = forms.reach[state.form[placement] as number] as number;
    const [x, y] = [placements.x[placement] as number, placements.y[placement] as number];
    if (x - reach > (bounds[toucher * 4 + 2] as number) || x + reach < (bounds[toucher * 4] as number)) continue;
    if (y - reach > (bounds[toucher * 4 + 3] as number) || y + reach < (bounds[toucher * 4 + 1] as number)) continue;
    senseOne(session, toucher, placement);
  }
}

/** Looks at what a mover's schedule has for a step that begins so many seconds into its round: at its turn, on both sides of it. */
function senseScheduled(session: Session, toucher: number, path: number, inRound: number): void {
  const seconds = session.compiled.stepSeconds;
  const round = session.compiled.movers.round[path] as number;
  times.from = inRound - TIME_HAIR;
  times.to = inRound + seconds + TIME_HAIR;
  senseWindows(session, toucher, path);
  if (inRound < TIME_HAIR) {
    times.from = inRound - TIME_HAIR + round;
    times.to = round;
    senseWindows(session, toucher, path);
  }
  if (inRound + seconds + TIME_HAIR > round) {
    times.from = 0;
    times.to = inRound + seconds + TIME_HAIR - round;
    senseWindows(session, toucher, path);
  }
}

/** A mover along a path: things that stay by its schedule, the rest when it may meet them. */
function senseMover(session: Session, traveller: number, path: number): void {
  const { compiled, state, scratch } = session;
  const now = state.clock[CLOCK.step] as number;
  const toucher = compiled.playerCount + traveller;
  const round = compiled.movers.round[path] as number;
  const seconds = compiled.stepSeconds;
  // So short a round is over before its schedule is of any use.
  const short = round < 8 * seconds;
  const all = scratch.wakeAll[traveller] === 1 || session.exhaustive || short;
  scratch.senseStamp += 1;
  const since = (now - 1) * seconds + (compiled.movers.offset[path] as number);
  const inRound = since - Math.floor(since / round) * round;
  if (all) senseNear(session, toucher, path);
  else senseScheduled(session, toucher, path, inRound);
  if (all || now >= (scratch.otherWake[traveller] as number)) {
    boundTrack(session, toucher);
    senseTravellers(session, toucher);
    scratch.otherWake[traveller] = now + stepsToTravellers(session, traveller);
    senseRest(session, toucher, all, true);
  }
  const after = inRound + seconds;
  times.to = after >= round ? after - round : after;
  const next = short ? 1 : stepsToWindow(session, path);
  scratch.wake[traveller] = Math.min(next === NEVER ? NEVER : now + next, scratch.otherWake[traveller] as number);
}

const still = new Motion();

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

/** How far around a traveller others are looked at that drift, or that it drifts to. Units. */
const LOOK_FOR_OTHERS = 8;

/** Seconds within which a traveller cannot come to, or from, touching another; 0 when it may in the next step. */
function secondsTo(session: Session, traveller: number, other: number): number {
  const { compiled, state } = session;
  const own = compiled.travellers.placement[traveller] as number;
  const placement = compiled.travellers.placement[other] as number;
  const form = state.form[placement] as number;
  if (other === traveller || form < 0 || compiled.forms.senses[form] === 0 || apart(session, traveller, other)) return Infinity;
  if (state.drawnBy[other] !== -1 || compiled.forms.turns[form] === 1) return 0;
  const closing = travelSpeed(session, traveller) + travelSpeed(session, other);
  return closing > 0 ? (betweenTravellers(session, own, placement) - HAIR) / closing : Infinity;
}

/** Steps within which a traveller cannot come to, or from, touching another. */
function stepsToTravellers(session: Session, traveller: number): number {
  const { compiled, state, scratch } = session;
  const own = compiled.travellers.placement[traveller] as number;
  const form = state.form[own] as number;
  if (compiled.forms.turns[form] === 1) return 1;
  const x = placeX(session, own);
  const y = placeY(session, own);
  const around = (compiled.forms.reach[form] as number) + compiled.mostReach + LOOK_FOR_OTHERS;
  const path = compiled.travellers.path[traveller] as number;
  const alone = path >= 0 && scratch.boundedCount === scratch.travelling;
  // What is further away than is looked takes at least so long.
  let least = alone ? Infinity : LOOK_FOR_OTHERS / (travelSpeed(session, traveller) + compiled.fastest);
  if (path >= 0) {
    const { start, other: others } = compiled.meetings;
    const toucher = compiled.playerCount + traveller;
    for (let at = start[toucher] as number; at < (start[toucher + 1] as number) && least > 0; at += 1) {
      const other = others[at] as number;
      if (other >= scratch.travelling) break;
      if (scratch.cells.of[other] === -1) least = Math.min(least, secondsTo(session, traveller, other));
    }
  } else {
    for (let at = 0; at < scratch.boundedCount && least > 0; at += 1) {
      const other = scratch.bounded[at] as number;
      if (rangeNear(session, other, x, y, around)) least = Math.min(least, secondsTo(session, traveller, other));
    }
  }
  const found = least > 0 && !alone ? gatherNear(scratch.cells, x - around, y - around, x + around, y + around) : 0;
  for (let k = 0; k < found && least > 0; k += 1) least = Math.min(least, secondsTo(session, traveller, scratch.cells.found[k] as number));
  return least === Infinity ? NEVER >> 1 : Math.max(1, Math.floor(least / compiled.stepSeconds));
}

/** How far around something that drifts things that stay are looked for, to learn how long it meets none. Units. */
const LOOK_AROUND = 3;

/** Steps within which something that drifts cannot come to, or from, touching what stays. */
function stepsToStills(session: Session, traveller: number): number {
  const { compiled, state } = session;
  const { forms, shapes, stillGrid, placements } = compiled;
  const own = compiled.travellers.placement[traveller] as number;
  const ownForm = state.form[own] as number;
  if (forms.turns[ownForm] === 1) return 1;
  const speed = travelSpeed(session, traveller);
  if (speed <= 0) return 1;
  const x = placeX(session, own);
  const y = placeY(session, own);
  const around = (forms.reach[ownForm] as number) + LOOK_AROUND;
  regionAround(x, y, around, around);
  const found = stillGrid.query(region);
  nearest.distance = LOOK_AROUND;
  for (let k = 0; k < found; k += 1) {
    const placement = compiled.stillPlacement[stillGrid.found[k] as number] as number;
    const form = state.form[placement] as number;
    if (forms.senses[form] === 0) continue;
    still.x = x - (placements.x[placement] as number);
    still.y = y - (placements.y[placement] as number);
    still.grow = forms.grow[form] as number;
    for (let shape = forms.shapeStart[form] as number; shape < (forms.shapeStart[form + 1] as number); shape += 1) {
      for (let at = forms.shapeStart[ownForm] as number; at < (forms.shapeStart[ownForm + 1] as number); at += 1) {
        lowerToBoundary(shapes, at, shape, still);
      }
    }
  }
  return Math.max(1, Math.floor((nearest.distance - HAIR) / (speed * compiled.stepSeconds)));
}

/** Something that drifts: all around it. */
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
  const rests = state.drawnBy[traveller] === -1 ? Math.min(stepsToStills(session, traveller), stepsToTravellers(session, traveller)) : 1;
  scratch.wake[traveller] = now + rests;
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
