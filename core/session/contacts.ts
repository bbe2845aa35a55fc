import { PHASE } from './codes.ts';
import { SAME_MOMENT, stretches, sweepPair } from './narrow.ts';
import type { Crossings, Session } from './running.ts';
import { CLOCK, TooManyContacts } from './state.ts';
import { phaseSlot } from './things.ts';

export const LEAVE = 0;
export const ARRIVE = 1;

export function createCrossings(): Crossings {
  const capacity = 4096;
  return {
    count: 0,
    at: new Float64Array(capacity),
    toucher: new Int32Array(capacity),
    placement: new Int32Array(capacity),
    type: new Uint8Array(capacity),
    inside: new Float64Array(capacity),
    normalX: new Float64Array(capacity),
    normalY: new Float64Array(capacity),
  };
}

function comesBefore(list: Crossings, a: number, at: number, toucher: number, placement: number, type: number): boolean {
  if (list.at[a] !== at) return (list.at[a] as number) < at;
  if (list.toucher[a] !== toucher) return (list.toucher[a] as number) < toucher;
  if (list.placement[a] !== placement) return (list.placement[a] as number) < placement;
  return (list.type[a] as number) <= type;
}

/**
 * Times are sorted on this grain, so that two movers meeting touch each other at one moment, whatever the rounding of
 * either reckoning, and the order of placements decides.
 */
const GRAINS = 1073741824;
const onGrain = (share: number): number => Math.round(share * GRAINS) / GRAINS;

/** Inserts in order. More crossings in one step than there is room for are refused with an error, never dropped. */
function addCrossing(
  list: Crossings,
  share: number,
  toucher: number,
  placement: number,
  type: number,
  inside: number,
  normalX: number,
  normalY: number,
): void {
  if (list.count === list.at.length) throw new TooManyContacts();
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
    index -= 1;
  }
  list.at[index] = at;
  list.toucher[index] = toucher;
  list.placement[index] = placement;
  list.type[index] = type;
  list.inside[index] = inside;
  list.normalX[index] = normalX;
  list.normalY[index] = normalY;
  list.count += 1;
}

/** Where a pair is in the sorted list of contacts, or −1 − (where it would be). */
export function findPair(session: Session, toucher: number, placement: number): number {
  const { state } = session;
  let low = 0;
  let high = (state.clock[CLOCK.pairs] as number) - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    const order = (state.pairToucher[middle] as number) - toucher || (state.pairPlacement[middle] as number) - placement;
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

/** Whether sensing came back for this toucher in this step. */
function cameBack(session: Session, toucher: number, placement: number): boolean {
  const { state } = session;
  const step = state.clock[CLOCK.step];
  return (
    state.backStep[phaseSlot(session, placement, toucher, false)] === step ||
    state.backStep[phaseSlot(session, placement, toucher, true)] === step
  );
}

/** Turns the stretches of a pair into crossings, given whether it touched when the step began. */
export function crossPair(session: Session, toucher: number, placement: number, pair: number): void {
  const { state, scratch } = session;
  const { crossings } = scratch;
  const touched = pair >= 0;
  if (stretches.count === 0) {
    if (!touched) return;
    state.pairInside[pair] = 0;
    addCrossing(crossings, 0, toucher, placement, LEAVE, 0, 0, 0);
    return;
  }
  let inside = 0;
  for (let k = 0; k < stretches.count; k += 1) inside += (stretches.to[k] as number) - (stretches.from[k] as number);
  inside *= session.compiled.stepSeconds;
  if (touched) state.pairInside[pair] = inside;

  const goesOn = touched && (stretches.from[0] as number) <= SAME_MOMENT;
  if (touched && !goesOn) addCrossing(crossings, 0, toucher, placement, LEAVE, inside, 0, 0);
  if (goesOn && cameBack(session, toucher, placement)) addCrossing(crossings, 0, toucher, placement, ARRIVE, inside, 0, 0);
  for (let k = 0; k < stretches.count; k += 1) {
    const from = stretches.from[k] as number;
    if (k > 0 || !goesOn) {
      const met = from > 0;
      addCrossing(
        crossings,
        from,
        toucher,
        placement,
        ARRIVE,
        inside,
        met ? (stretches.normalX[k] as number) : 0,
        met ? (stretches.normalY[k] as number) : 0,
      );
    }
    if ((stretches.to[k] as number) < 1 - SAME_MOMENT) {
      addCrossing(crossings, stretches.to[k] as number, toucher, placement, LEAVE, inside, 0, 0);
    }
  }
}

/** Looks at one toucher and one thing, and lists what crosses. */
export function senseOne(session: Session, toucher: number, placement: number): void {
  session.scratch.sensed[placement] = session.scratch.senseStamp;
  const pair = findPair(session, toucher, placement);
  sweepPair(session, toucher, placement);
  if (stretches.count > 0 || pair >= 0) crossPair(session, toucher, placement, pair);
}

/** Ends a contact in this step, whatever the shapes say. */
export function senseNothing(session: Session, toucher: number, placement: number, pair: number): void {
  stretches.count = 0;
  crossPair(session, toucher, placement, pair);
}

/** Whether a thing that travels takes part in touching: not when it is off or spent, nor when its room is empty. */
export function touches(session: Session, traveller: number): boolean {
  const placement = session.compiled.travellers.placement[traveller] as number;
  if ((session.state.form[placement] as number) < 0) return false;
  const phase = session.state.phase[placement * session.compiled.phaseSlots] as number;
  return phase !== PHASE.spent && phase !== PHASE.off;
}
