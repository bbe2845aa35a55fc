import { grown } from '../../geometry/index.ts';
import { PHASE, TRAVEL, WHOLE } from '../compile/codes.ts';
import type { Compiled } from '../compile/compile.ts';
import { mayGrow, SAME_SHARE, sweepPair } from './narrowPhase.ts';
import type { Crossings, Session } from '../state/running.ts';
import { CLOCK } from '../state/state.ts';
import { phaseSlot } from '../state/things.ts';

const LEAVE = 0;
export const ARRIVE = 1;

/** Room for crossings of one step at first; and the most there can be: with more the session ends. */
const FIRST_CROSSINGS = 64;
const MOST_CROSSINGS = 131072;

/** Room for what can cross in one step; it grows with need. */
export function createCrossings(): Crossings {
  const capacity = FIRST_CROSSINGS;
  return {
    count: 0,
    at: new Float64Array(capacity),
    toucher: new Int32Array(capacity),
    placement: new Int32Array(capacity),
    type: new Uint8Array(capacity),
    inside: new Float64Array(capacity),
    normalX: new Float64Array(capacity),
    normalY: new Float64Array(capacity),
    zone: new Uint8Array(capacity),
  };
}

function comesBefore(list: Crossings, a: number, at: number, toucher: number, placement: number, type: number): boolean {
  if (list.at[a] !== at) return (list.at[a] as number) < at;
  if (list.toucher[a] !== toucher) return (list.toucher[a] as number) < toucher;
  if (list.placement[a] !== placement) return (list.placement[a] as number) < placement;
  // What touches for no more than a moment arrives, then leaves.
  return (list.type[a] as number) >= type;
}

/**
 * Times are sorted on this grain, so that two movers meeting touch each other at one moment, whatever the rounding of
 * either reckoning, and the order of placements decides.
 */
const GRAINS = 1073741824;
const onGrain = (share: number): number => Math.round(share * GRAINS) / GRAINS;

/** Makes room for twice as many crossings. */
function makeRoom({ scratch }: Session): void {
  const { crossings: list } = scratch;
  list.at = grown(list.at);
  list.toucher = grown(list.toucher);
  list.placement = grown(list.placement);
  list.type = grown(list.type);
  list.inside = grown(list.inside);
  list.normalX = grown(list.normalX);
  list.normalY = grown(list.normalY);
  list.zone = grown(list.zone);
}

/** Inserts `crossing` in order. */
function addCrossing(session: Session, toucher: number, placement: number, type: number): void {
  const { crossings: list, crossing } = session.scratch;
  if (!mayGrow(session, list.count, MOST_CROSSINGS)) return;
  if (list.count === list.at.length) makeRoom(session);
  const { share, inside, normalX, normalY, zone } = crossing;
  const at = onGrain(share);
  let index = list.count;
  while (index > 0 && !comesBefore(list, index - 1, at, toucher, placement, type)) {
    list.at[index] = list.at[index - 1] as number;
    list.toucher[index] = list.toucher[index - 1] as number;
    list.placement[index] = list.placement[index - 1] as number;
    list.type[index] = list.type[index - 1] as number;
    list.inside[index] = list.inside[index - 1] as number;
    list.normalX[index] = list.normalX[index - 1] as number;
    list.normalY[index] = list.normalY[index - 1] as number;
    list.zone[index] = list.zone[index - 1] as number;
    index -= 1;
  }
  list.at[index] = at;
  list.toucher[index] = toucher;
  list.placement[index] = placement;
  list.type[index] = type;
  list.inside[index] = inside;
  list.normalX[index] = normalX;
  list.normalY[index] = normalY;
  list.zone[index] = zone;
  list.count += 1;
}

/** Where the contact with a thing, or with one zone of it, is in the sorted list of contacts, or −1 − (where it would be). */
export function findPair(session: Session, toucher: number, placement: number, zone = WHOLE): number {
  const { state } = session;
  let low = 0;
  let high = (state.clock[CLOCK.pairs] as number) - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    const order =
      (state.pairToucher[middle] as number) - toucher ||
      (state.pairPlacement[middle] as number) - placement ||
      (state.pairZone[middle] as number) - zone;
    if (order === 0) return middle;
    if (order < 0) low = middle + 1;
    else high = middle - 1;
  }
  return -1 - low;
}

/** The first contact of a toucher in the sorted list, or where it would be. */
export function firstPair(session: Session, toucher: number): number {
  const at = findPair(session, toucher, -1);
  return at < 0 ? -1 - at : at;
}

/** Whether sensing comes back for this toucher in a step. */
export function comesBack(session: Session, toucher: number, placement: number, step: number): boolean {
  const { state } = session;
  return (
    state.backStep[phaseSlot(session, placement, toucher, false)] === step ||
    state.backStep[phaseSlot(session, placement, toucher, true)] === step
  );
}

/** Adds a crossing at a stretch's start or end, or, without a stretch, at the start of the step. */
function cross(session: Session, toucher: number, placement: number, type: number, stretch: number): void {
  const { crossing, narrow } = session.scratch;
  const { stretches } = narrow;
  const arrives = stretch >= 0 && type === ARRIVE;
  const met = arrives && (stretches.from[stretch] as number) > 0;
  crossing.share = stretch < 0 ? 0 : ((arrives ? stretches.from[stretch] : stretches.to[stretch]) as number);
  crossing.normalX = met ? (stretches.normalX[stretch] as number) : 0;
  crossing.normalY = met ? (stretches.normalY[stretch] as number) : 0;
  addCrossing(session, toucher, placement, type);
}

/** Turns the stretches of a pair into crossings, given whether it touched when the step began. */
function crossPair(session: Session, toucher: number, placement: number, pair: number, zone: number): void {
  const { state, scratch } = session;
  const { crossing, narrow } = scratch;
  const { stretches } = narrow;
  crossing.zone = zone;
  const touched = pair >= 0;
  crossing.inside = 0;
  for (let k = 0; k < stretches.count; k += 1) crossing.inside += (stretches.to[k] as number) - (stretches.from[k] as number);
  crossing.inside *= session.compiled.stepSeconds;
  if (touched) state.pairInside[pair] = crossing.inside;
  const goesOn = touched && stretches.count > 0 && (stretches.from[0] as number) <= SAME_SHARE;
  if (touched && !goesOn) cross(session, toucher, placement, LEAVE, -1);
  if (goesOn && comesBack(session, toucher, placement, state.clock[CLOCK.step] as number)) cross(session, toucher, placement, ARRIVE, -1);
  for (let k = 0; k < stretches.count; k += 1) {
    if (k > 0 || !goesOn) cross(session, toucher, placement, ARRIVE, k);
    if ((stretches.to[k] as number) < 1 - SAME_SHARE) cross(session, toucher, placement, LEAVE, k);
  }
}

/** Looks at one toucher and one thing, and lists what crosses. */
export function senseOne(session: Session, toucher: number, placement: number): void {
  session.scratch.sensed[placement] = session.scratch.senseStamp;
  const pair = findPair(session, toucher, placement);
  const stretches = sweepPair(session, toucher, placement, WHOLE);
  if (stretches.count === 0 && pair < 0) return;
  crossPair(session, toucher, placement, pair, WHOLE);
  const form = session.state.form[placement] as number;
  const zones = form < 0 ? 0 : (session.compiled.forms.zones[form] as number);
  for (let zone = 1; zones >> zone > 0; zone += 1) {
    if (((zones >> zone) & 1) === 0) continue;
    const own = findPair(session, toucher, placement, zone);
    sweepPair(session, toucher, placement, zone);
    if (stretches.count > 0 || own >= 0) crossPair(session, toucher, placement, own, zone);
  }
}

/** Ends a contact in this step, whatever the shapes say. */
export function senseNothing(session: Session, toucher: number, placement: number, pair: number): void {
  session.scratch.narrow.stretches.count = 0;
  crossPair(session, toucher, placement, pair, session.state.pairZone[pair] as number);
}

/** Whether something of a form sets things off by touching them as it travels: it follows a path, or drifts. */
export function mayTouch({ travellers, forms }: Compiled, traveller: number, form: number): boolean {
  const how = travellers.how[traveller] as number;
  return form >= 0 && how !== TRAVEL.roving && (how === TRAVEL.path || (forms.driftSpeed[form] as number) >= 0);
}

/** Whether a thing that travels takes part in touching: not when it is off or spent, nor when its room is empty. */
export function touches(session: Session, traveller: number): boolean {
  const placement = session.compiled.travellers.placement[traveller] as number;
  if ((session.state.form[placement] as number) < 0) return false;
  const phase = session.state.phase[placement * session.compiled.phaseSlots] as number;
  return phase !== PHASE.spent && phase !== PHASE.off;
}
