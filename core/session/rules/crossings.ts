import { SET_OFF_BY, WHOLE } from '../compile/codes.ts';
import { attempted, dropWindUp, mayAct, setOff } from './acting.ts';
import { ARRIVE, comesBack, findPair, firstPair } from '../contact/contacts.ts';
import { actForMover, keepTrying } from './inside.ts';
import { NONE } from '../state/lines.ts';
import { namedThing, namedToucher } from '../state/naming.ts';
import { addPair, removePair, resetSlots } from './spans.ts';
import { CLOCK } from '../state/state.ts';
import { phaseFor } from '../state/things.ts';
import { wakeToucher } from '../state/waking.ts';
import type { Attempt, PlayerMotion, Session } from '../state/running.ts';

/** No crossing: a leaving is from any side. */
const ANY_SIDE = -1;

/** States from which direction a zone was come to, given the first crossing of the meeting. */
function readSide({ scratch: { crossings } }: Session, attempt: Attempt, zone: number, first: number): void {
  let at = first;
  while (crossings.zone[at] !== zone) at += 1;
  attempt.anySide = false;
  attempt.sideX = crossings.normalX[at] as number;
  attempt.sideY = crossings.normalY[at] as number;
}

/**
 * Lets every rule a touch of some zones (bits) sets off act on whoever came in, or went out, in the order of the rules. All of
 * them see the phase the thing was in when touched. `first` is the first crossing of the meeting, or `ANY_SIDE`.
 */
function actOnTouch(session: Session, toucher: number, placement: number, first: number, zones: number, cause: number): void {
  const { compiled, state } = session;
  const { forms, rules } = compiled;
  const form = state.form[placement] as number;
  if (form < 0) return;
  const phase = phaseFor(session, placement, toucher);
  const mover = toucher >= compiled.playerCount;
  const setOffBy = first === ANY_SIDE ? SET_OFF_BY.leaving : SET_OFF_BY.arriving;
  for (let rule = forms.ruleStart[form] as number; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
    if (state.form[placement] !== form) return;
    const by = rules.setOffBy[rule] as number;
    const zone = rules.zone[rule] as number;
    if (((zones >> zone) & 1) === 0) continue;
    if (mover && by === SET_OFF_BY.inside && setOffBy === SET_OFF_BY.arriving) actForMover(session, toucher, placement, rule);
    if (by !== setOffBy) continue;
    const attempt = attempted(session, toucher, placement, rule, phase);
    if (first !== ANY_SIDE) readSide(session, attempt, zone, first);
    if (mayAct(session, attempt)) setOff(session, toucher, placement, rule, cause);
    else if (rules.keepTrying[rule] === 1 && !mover) {
      const pair = findPair(session, toucher, placement, zone);
      if (pair >= 0) keepTrying(session, pair, rule);
    }
  }
}

/** Marks all contacts of a player with one thing, from `pair` on, as ended. Answers with which zones (bits). */
function leaveAll({ state }: Session, player: number, placement: number, pair: number, seconds: number): number {
  let zones = 0;
  for (let at = pair; at < (state.clock[CLOCK.pairs] as number); at += 1) {
    if (state.pairToucher[at] !== player || state.pairPlacement[at] !== placement) break;
    if ((state.pairLeft[at] as number) < 0) state.pairLeft[at] = seconds;
    zones |= 1 << (state.pairZone[at] as number);
  }
  return zones;
}

/**
 * Being put elsewhere ends all contacts of a player: their leaving rules act, by the line that did it. Whatever it overlaps
 * where it is now arrives in the next step, in every order of placements.
 */
export function endMoved(session: Session, seconds: number): void {
  const { compiled, state, scratch } = session;
  for (let player = 0; player < compiled.playerCount; player += 1) {
    const motion = scratch.motions[player] as PlayerMotion;
    while (motion.movedBy !== NONE) {
      const line = motion.movedBy;
      motion.movedBy = NONE;
      for (let pair = firstPair(session, player); state.pairToucher[pair] === player; pair = firstPair(session, player)) {
        if (pair >= (state.clock[CLOCK.pairs] as number)) break;
        const placement = state.pairPlacement[pair] as number;
        const zones = leaveAll(session, player, placement, pair, seconds);
        dropWindUp(session, player, placement, zones);
        actOnTouch(session, player, placement, ANY_SIDE, zones, line);
        for (let zone = WHOLE; zones >> zone > 0; zone += 1) {
          const at = findPair(session, player, placement, zone);
          if (at >= 0) removePair(session, at, line);
        }
      }
    }
  }
}

/** The last of the crossings that happen at one moment with zones of one thing, from `first` on. */
function lastOfMeeting({ scratch: { crossings } }: Session, first: number): number {
  const { at, toucher, placement, type, zone } = crossings;
  let k = first;
  while (
    k + 1 < crossings.count &&
    at[k + 1] === at[first] &&
    toucher[k + 1] === toucher[first] &&
    placement[k + 1] === placement[first] &&
    type[k + 1] === type[first] &&
    (zone[k + 1] as number) > (zone[k] as number)
  ) {
    k += 1;
  }
  return k;
}

/** A contact that begins, or begins anew. */
function arrive(session: Session, k: number, seconds: number): void {
  const { compiled, state } = session;
  const { crossings } = session.scratch;
  const toucher = crossings.toucher[k] as number;
  const placement = crossings.placement[k] as number;
  const zone = crossings.zone[k] as number;
  const pair = findPair(session, toucher, placement, zone);
  if (pair < 0) {
    const added = addPair(session, -1 - pair, toucher, placement, zone, seconds);
    if (added) state.pairInside[-1 - pair] = crossings.inside[k] as number;
  } else if ((state.pairLeft[pair] as number) >= 0) {
    // Out and in again within one step: one contact ends and another begins.
    if (zone === WHOLE) {
      session.recorder?.contact(
        namedToucher(session, toucher),
        namedThing(session, placement),
        state.pairFrom[pair] as number,
        state.pairLeft[pair] as number,
      );
    }
    state.pairFrom[pair] = seconds;
    state.pairLeft[pair] = NONE;
  } else {
    const form = state.form[placement] as number;
    if (form >= 0 && compiled.forms.inside[form] === 1 && onlyPulses(session, form)) resetSlots(session, pair);
  }
  // Whoever came before in this step may have brought sensing back: this one was not yet there to be told.
  if (comesBack(session, toucher, placement, (state.clock[CLOCK.step] as number) + 1)) wakeToucher(session, toucher);
}

/** 5 crossings, by time. Answers whether any was a leaving. */
export function actOnCrossings(session: Session): boolean {
  const { compiled, state, scratch } = session;
  const { crossings } = scratch;
  const start = ((state.clock[CLOCK.step] as number) - 1) * compiled.stepSeconds;
  let leaves = false;
  scratch.acted = false;
  for (let k = 0; k < crossings.count; k += 1) {
    const toucher = crossings.toucher[k] as number;
    const placement = crossings.placement[k] as number;
    const seconds = start + (crossings.at[k] as number) * compiled.stepSeconds;
    if (toucher < compiled.playerCount && (scratch.motions[toucher] as PlayerMotion).dropped) continue;
    scratch.contactShare = crossings.at[k] as number;
    const arrives = crossings.type[k] === ARRIVE;
    const last = compiled.mostZones === 0 ? k : lastOfMeeting(session, k);
    let zones = 0;
    const first = k;
    for (; k <= last; k += 1) {
      const zone = crossings.zone[k] as number;
      const pair = findPair(session, toucher, placement, zone);
      if (!arrives && pair < 0) continue;
      zones |= 1 << zone;
      if (arrives) arrive(session, k, seconds);
      else state.pairLeft[pair] = seconds;
    }
    k = last;
    if (zones === 0) continue;
    if (arrives) actOnTouch(session, toucher, placement, first, zones, NONE);
    else {
      leaves = true;
      dropWindUp(session, toucher, placement, zones);
      actOnTouch(session, toucher, placement, ANY_SIDE, zones, NONE);
    }
    endMoved(session, seconds);
  }
  scratch.contactShare = 1;
  return leaves;
}

/** Whether all inside rules of a form are pulses: they begin anew when sensing comes back. */
function onlyPulses(session: Session, form: number): boolean {
  const { forms, rules } = session.compiled;
  for (let rule = forms.ruleStart[form] as number; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
    if (rules.setOffBy[rule] === SET_OFF_BY.inside && rules.pulseEvery[rule] === 0) return false;
  }
  return true;
}
