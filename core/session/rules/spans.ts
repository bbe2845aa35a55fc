import { EFFECT, ENDING, LINE, SET_OFF_BY, WHOLE } from '../compile/codes.ts';
import { NONE, writeLine, beginLine } from '../state/lines.ts';
import { cellOf } from './meters.ts';
import { endWhile } from './modifiers.ts';
import { becomes } from './phases.ts';
import type { Session } from '../state/running.ts';
import { CLOCK, makePairRoom, movePairs } from '../state/state.ts';
import { namedThing, namedToucher } from '../state/naming.ts';

/** Bits of a slot's refusals: of its rule, of its effect; and that an arrival is tried again. */
export const REFUSED_RULE = 1;
export const REFUSED_EFFECT = 2;
export const TRYING = 4;

/** From so many contacts on, moving whole columns is quicker than moving contact by contact. */
const MANY = 64;

function copyPair(state: Session['state'], from: number, to: number): void {
  state.pairToucher[to] = state.pairToucher[from] as number;
  state.pairPlacement[to] = state.pairPlacement[from] as number;
  state.pairFrom[to] = state.pairFrom[from] as number;
  state.pairInside[to] = state.pairInside[from] as number;
  state.pairLeft[to] = state.pairLeft[from] as number;
  state.pairGraced[to] = state.pairGraced[from] as number;
  state.pairZone[to] = state.pairZone[from] as number;
}

function copySlot(state: Session['state'], from: number, to: number): void {
  state.slotFrom[to] = state.slotFrom[from] as number;
  state.slotInside[to] = state.slotInside[from] as number;
  state.slotAsked[to] = state.slotAsked[from] as number;
  state.slotApplied[to] = state.slotApplied[from] as number;
  state.slotPulses[to] = state.slotPulses[from] as number;
  state.slotRefused[to] = state.slotRefused[from] as number;
}

/** Moves the contacts from `from` on by one place, up or down, to make or close a gap. */
function shiftPairs({ compiled, state }: Session, from: number, by: 1 | -1): void {
  const count = state.clock[CLOCK.pairs] as number;
  state.clock[CLOCK.pairs] = count + by;
  if (count - from > MANY) {
    movePairs(state, from, from + by, count);
    return;
  }
  const slots = compiled.slotsPerPair;
  for (let k = 0; k < count - from; k += 1) {
    const pair = by > 0 ? count - 1 - k : from + k;
    copyPair(state, pair, pair + by);
    for (let slot = pair * slots; slot < (pair + 1) * slots; slot += 1) copySlot(state, slot, slot + by * slots);
  }
}

/**
 * Adds a contact that began at a time, in seconds, at its place in the sorted list; how long it lasts in this step is for the
 * caller to say. Where there are too many, the session ends with this step, and false is answered.
 */
export function addPair(session: Session, at: number, toucher: number, placement: number, zone: number, from: number): boolean {
  const { state, scratch } = session;
  if ((state.clock[CLOCK.pairs] as number) === state.pairRoom.count && !makePairRoom(state)) {
    scratch.overfull = ENDING.contacts;
    return false;
  }
  shiftPairs(session, at, 1);
  state.pairToucher[at] = toucher;
  state.pairPlacement[at] = placement;
  state.pairZone[at] = zone;
  state.pairInside[at] = 0;
  state.pairLeft[at] = NONE;
  state.pairGraced[at] = 0;
  state.pairFrom[at] = from;
  resetSlots(session, at);
  return true;
}

/** Forgets what the rules of a contact have done so far: it arrives anew. */
export function resetSlots({ state, compiled }: Session, pair: number): void {
  const slots = compiled.slotsPerPair;
  if (slots === 0) return;
  state.slotFrom.fill(NONE, pair * slots, (pair + 1) * slots);
  state.slotAsked.fill(0, pair * slots, (pair + 1) * slots);
  state.slotApplied.fill(0, pair * slots, (pair + 1) * slots);
  state.slotInside.fill(0, pair * slots, (pair + 1) * slots);
  state.slotPulses.fill(0, pair * slots, (pair + 1) * slots);
  state.slotRefused.fill(0, pair * slots, (pair + 1) * slots);
}

/** The first slot of a rule in a contact. */
export function slotOf(session: Session, pair: number, rule: number): number {
  return pair * session.compiled.slotsPerPair + (session.compiled.rules.slot[rule] as number);
}

/** Ends the span of one effect of a rate, writing what it came to. Returns the line, or −1 when none ran. */
export function closeSpan(session: Session, pair: number, rule: number, effect: number, slot: number): number {
  const { compiled, state } = session;
  const from = state.slotFrom[slot] as number;
  if (from === NONE) return NONE;
  state.slotFrom[slot] = NONE;
  const toucher = state.pairToucher[pair] as number;
  const meter = compiled.effects.subject[effect] as number;
  const after = state.meter[cellOf(session, toucher, meter)] as number;
  const asked = state.slotAsked[slot] as number;
  const applied = state.slotApplied[slot] as number;
  const about = beginLine(session, LINE.rate, toucher, state.pairPlacement[pair] as number, rule);
  about.subject = meter;
  about.asked = asked;
  about.applied = applied;
  about.after = after;
  about.other = from;
  return writeLine(session, about);
}

/** Ends a rate: its spans, its changes of movement while inside; then the thing becomes what the rule states. */
export function closeRule(session: Session, pair: number, rule: number): number {
  const { compiled, state } = session;
  const { rules, effects } = compiled;
  const start = rules.effectStart[rule] as number;
  const first = slotOf(session, pair, rule);
  if ((rules.pulseEvery[rule] as number) > 0 || state.slotPulses[first] === 0) return NONE;
  state.slotPulses[first] = 0;
  const toucher = state.pairToucher[pair] as number;
  const placement = state.pairPlacement[pair] as number;
  let last = NONE;
  for (let effect = start; effect < (rules.effectStart[rule + 1] as number); effect += 1) {
    if (effects.op[effect] !== EFFECT.meter) continue;
    const line = closeSpan(session, pair, rule, effect, first + effect - start);
    // What becomes of whoever was inside is by what was done to its health.
    if (line !== NONE && (last === NONE || effects.subject[effect] === compiled.meters.health)) last = line;
  }
  if (toucher < compiled.playerCount) endWhile(session, toucher, placement, rule, NONE, last);
  becomes(session, placement, rule, toucher, last);
  return last;
}

/** Ends all spans of a contact. Returns the last line written, or −1. */
export function closeSpans(session: Session, pair: number): number {
  const { compiled, state } = session;
  const form = state.form[state.pairPlacement[pair] as number] as number;
  if (form < 0 || compiled.forms.inside[form] === 0) return NONE;
  let last = NONE;
  const end = compiled.forms.ruleStart[form + 1] as number;
  for (let rule = compiled.forms.ruleStart[form] as number; rule < end; rule += 1) {
    if (compiled.rules.setOffBy[rule] === SET_OFF_BY.inside) last = Math.max(last, closeRule(session, pair, rule));
  }
  return last;
}

/** Records a contact that has ended, at the time noted, and ends what went on inside. */
function closePair(session: Session, pair: number): void {
  const { state, recorder } = session;
  const toucher = state.pairToucher[pair] as number;
  const placement = state.pairPlacement[pair] as number;
  const zone = state.pairZone[pair] as number;
  closeSpans(session, pair);
  if (zone === WHOLE) {
    recorder?.contact(
      namedToucher(session, toucher),
      namedThing(session, placement),
      state.pairFrom[pair] as number,
      state.pairLeft[pair] as number,
    );
  }
}

/** Records and removes a contact that has ended, at the time noted; by a line, or −1. */
export function removePair(session: Session, pair: number, cause: number = NONE): void {
  const { compiled, state } = session;
  const toucher = state.pairToucher[pair] as number;
  const placement = state.pairPlacement[pair] as number;
  const zone = state.pairZone[pair] as number;
  closePair(session, pair);
  shiftPairs(session, pair + 1, -1);
  if (toucher < compiled.playerCount) endWhile(session, toucher, placement, NONE, zone, cause);
}

/** Ends all contacts at a time, in seconds, in their order: first those of players, one by one, then the others at once. */
export function endAllPairs(session: Session, seconds: number): void {
  const { compiled, state } = session;
  while ((state.clock[CLOCK.pairs] as number) > 0 && (state.pairToucher[0] as number) < compiled.playerCount) {
    state.pairLeft[0] = seconds;
    removePair(session, 0);
  }
  for (let pair = 0; pair < (state.clock[CLOCK.pairs] as number); pair += 1) {
    state.pairLeft[pair] = seconds;
    closePair(session, pair);
  }
  state.clock[CLOCK.pairs] = 0;
}
