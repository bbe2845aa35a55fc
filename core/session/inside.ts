import { amounts, becomes, changeMeter, countUse, mayAct, noteLimit, outOfHealth, writeLine } from './acting.ts';
import * as codes from './codes.ts';
import { TooManyContacts } from './contacts.ts';
import type { Session } from './running.ts';
import { CLOCK } from './state.ts';

const NONE = -1;

/** Moves the contacts from `from` on by one place, up or down, to make or close a gap. */
function shiftPairs(session: Session, from: number, by: 1 | -1): void {
  const { state } = session;
  const count = state.clock[CLOCK.pairs] as number;
  const slots = session.compiled.slotsPerPair;
  state.pairToucher.copyWithin(from + by, from, count);
  state.pairPlacement.copyWithin(from + by, from, count);
  state.pairFrom.copyWithin(from + by, from, count);
  state.pairInside.copyWithin(from + by, from, count);
  state.pairLeft.copyWithin(from + by, from, count);
  state.slotFrom.copyWithin((from + by) * slots, from * slots, count * slots);
  state.slotAsked.copyWithin((from + by) * slots, from * slots, count * slots);
  state.slotApplied.copyWithin((from + by) * slots, from * slots, count * slots);
  state.slotRefused.copyWithin((from + by) * slots, from * slots, count * slots);
  state.clock[CLOCK.pairs] = count + by;
}

/** Adds a contact at its place in the sorted list. */
export function addPair(session: Session, at: number, toucher: number, placement: number, seconds: number, inside: number): void {
  const { state } = session;
  if ((state.clock[CLOCK.pairs] as number) === state.pairToucher.length) throw new TooManyContacts();
  shiftPairs(session, at, 1);
  state.pairToucher[at] = toucher;
  state.pairPlacement[at] = placement;
  state.pairFrom[at] = seconds;
  state.pairInside[at] = inside;
  state.pairLeft[at] = NONE;
  const slots = session.compiled.slotsPerPair;
  state.slotFrom.fill(NONE, at * slots, (at + 1) * slots);
  state.slotRefused.fill(0, at * slots, (at + 1) * slots);
}

/** Ends the span of one effect of an inside rule, writing what it came to. Returns the line, or −1 when none ran. */
function closeSpan(session: Session, pair: number, rule: number, effect: number, slot: number): number {
  const { compiled, state } = session;
  const from = state.slotFrom[slot] as number;
  if (from === NONE) return NONE;
  state.slotFrom[slot] = NONE;
  const toucher = state.pairToucher[pair] as number;
  const meter = compiled.effects.meter[effect] as number;
  const after = state.meter[toucher * compiled.meters.lower.length + meter] as number;
  const placement = state.pairPlacement[pair] as number;
  const asked = state.slotAsked[slot] as number;
  const applied = state.slotApplied[slot] as number;
  return writeLine(session, codes.LINE.rate, toucher, placement, rule, meter, NONE, asked, applied, 0, after, NONE, from);
}

/** Ends the spans of one rule; then the thing becomes what the rule states. Returns the last line written, or −1. */
function closeRule(session: Session, pair: number, rule: number): number {
  const { compiled, state } = session;
  const start = compiled.rules.effectStart[rule] as number;
  const firstSlot = pair * compiled.slotsPerPair + (compiled.rules.slot[rule] as number);
  let last = NONE;
  for (let effect = start; effect < (compiled.rules.effectStart[rule + 1] as number); effect += 1) {
    const line = closeSpan(session, pair, rule, effect, firstSlot + effect - start);
    if (line !== NONE) last = line;
  }
  if (last !== NONE) becomes(session, state.pairPlacement[pair] as number, rule, last);
  return last;
}

/** Ends all spans of a contact. Returns the last line written, or −1. */
function closeSpans(session: Session, pair: number): number {
  const { compiled, state } = session;
  const kind = compiled.placements.kind[state.pairPlacement[pair] as number] as number;
  let last = NONE;
  for (let rule = compiled.kinds.ruleStart[kind] as number; rule < (compiled.kinds.ruleStart[kind + 1] as number); rule += 1) {
    if (compiled.rules.setOffBy[rule] === codes.INSIDE) last = Math.max(last, closeRule(session, pair, rule));
  }
  return last;
}

/** Records and removes a contact. */
export function removePair(session: Session, pair: number, seconds: number): void {
  const { state, recorder } = session;
  closeSpans(session, pair);
  recorder?.contact(state.pairToucher[pair] as number, state.pairPlacement[pair] as number, state.pairFrom[pair] as number, seconds);
  shiftPairs(session, pair + 1, -1);
}

/** A player's death: final for the step. Its spans end; `cause` is the line that did it, or −1. */
export function die(session: Session, player: number, placement: number, cause: number): void {
  const { state } = session;
  let last = cause;
  for (let pair = 0; pair < (state.clock[CLOCK.pairs] as number); pair += 1) {
    if (state.pairToucher[pair] !== player) continue;
    const line = closeSpans(session, pair);
    if (line !== NONE && state.pairPlacement[pair] === placement && cause === NONE) last = line;
  }
  state.dead[player] = 1;
  state.velocityX[player] = 0;
  state.velocityY[player] = 0;
  writeLine(session, codes.LINE.died, player, placement, NONE, NONE, NONE, 0, 0, 0, 0, last, NONE);
}

function actInside(session: Session, pair: number, rule: number): void {
  const { compiled, state } = session;
  const toucher = state.pairToucher[pair] as number;
  const placement = state.pairPlacement[pair] as number;
  const start = compiled.rules.effectStart[rule] as number;
  const end = compiled.rules.effectStart[rule + 1] as number;
  const firstSlot = pair * compiled.slotsPerPair + (compiled.rules.slot[rule] as number);
  const quiet = state.slotRefused[firstSlot] === 1;
  if (!mayAct(session, toucher, placement, rule, state.phase[placement] as number, quiet)) {
    state.slotRefused[firstSlot] = 1;
    closeRule(session, pair, rule);
    return;
  }
  state.slotRefused[firstSlot] = 0;
  // A mover has no meters: nothing to change, and no line a step.
  if (toucher >= compiled.playerCount) return;
  for (let effect = start; effect < end; effect += 1) {
    const slot = firstSlot + effect - start;
    if (state.slotFrom[slot] === NONE) {
      state.slotFrom[slot] = (state.clock[CLOCK.step] as number) - 1;
      state.slotAsked[slot] = 0;
      state.slotApplied[slot] = 0;
      if (effect === start) countUse(session, placement);
    }
    changeMeter(session, toucher, placement, effect, state.pairInside[pair] as number);
    state.slotAsked[slot] = (state.slotAsked[slot] as number) + amounts.asked;
    state.slotApplied[slot] = (state.slotApplied[slot] as number) + amounts.applied;
    noteLimit(session, toucher, effect, NONE);
    if (outOfHealth(session, toucher)) {
      die(session, toucher, placement, NONE);
      return;
    }
  }
}

/** Inside rules of all contacts of this step, then those that have ended are removed. */
export function actAllInside(session: Session): void {
  const { compiled, state } = session;
  for (let pair = 0; pair < (state.clock[CLOCK.pairs] as number); pair += 1) {
    const toucher = state.pairToucher[pair] as number;
    if (toucher < compiled.playerCount) {
      if (state.dead[toucher] === 1) continue;
      const placement = state.pairPlacement[pair] as number;
      if (state.phase[placement] === codes.RESTING) {
        state.waiting[placement] = (state.waiting[placement] as number) + (state.pairInside[pair] as number);
      }
    }
    const kind = compiled.placements.kind[state.pairPlacement[pair] as number] as number;
    const end = compiled.kinds.ruleStart[kind + 1] as number;
    for (let rule = compiled.kinds.ruleStart[kind] as number; rule < end; rule += 1) {
      if (compiled.rules.setOffBy[rule] === codes.INSIDE) actInside(session, pair, rule);
    }
  }
  let pair = 0;
  while (pair < (state.clock[CLOCK.pairs] as number)) {
    const left = state.pairLeft[pair] as number;
    if (left >= 0) removePair(session, pair, left);
    else pair += 1;
  }
}
