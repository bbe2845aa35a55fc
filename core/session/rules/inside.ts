import { CHANGE, EFFECT, LIFE, PHASE, SET_OFF_BY, WHOLE } from '../compile/codes.ts';
import { firstPair } from '../contact/contacts.ts';
import { act, attempted, mayAct, setOff } from './acting.ts';
import { runEffects } from './effects.ts';
import { die } from './life.ts';
import { NONE } from '../state/lines.ts';
import { changeMeter, noteLimit, outOfHealth, noteStopped, stoppedBy } from './meters.ts';
import { countUse } from './phases.ts';
import type { PlayerMotion, Session } from '../state/running.ts';
import { closeRule, closeSpan, REFUSED_EFFECT, REFUSED_RULE, removePair, slotOf, TRYING } from './spans.ts';
import { CLOCK } from '../state/state.ts';
import { phaseFor } from '../state/things.ts';

function setFlag(session: Session, slot: number, bit: number, on: boolean): void {
  const flags = session.state.slotRefused[slot] as number;
  session.state.slotRefused[slot] = on ? flags | bit : flags & ~bit;
}

/** Tests an inside rule; a refusal is written once for each unbroken span. */
function mayGoOn(session: Session, pair: number, rule: number): boolean {
  const { state } = session;
  const toucher = state.pairToucher[pair] as number;
  const placement = state.pairPlacement[pair] as number;
  const first = slotOf(session, pair, rule);
  const quiet = ((state.slotRefused[first] as number) & REFUSED_RULE) !== 0;
  const attempt = attempted(session, toucher, placement, rule, phaseFor(session, placement, toucher));
  attempt.goesOn = session.compiled.rules.pulseEvery[rule] === 0 && state.slotPulses[first] !== 0;
  attempt.quiet = quiet;
  const may = mayAct(session, attempt);
  setFlag(session, first, REFUSED_RULE, !may);
  return may;
}

/** One meter effect of a rate, for the time inside. Answers whether the player lives on. */
function runRate(session: Session, pair: number, rule: number, effect: number, slot: number): boolean {
  const { compiled, state } = session;
  const player = state.pairToucher[pair] as number;
  const placement = state.pairPlacement[pair] as number;
  const stopped = stoppedBy(session, player, placement, effect);
  if (stopped !== NONE) {
    closeSpan(session, pair, rule, effect, slot);
    if (((state.slotRefused[slot] as number) & REFUSED_EFFECT) === 0) noteStopped(session, player, placement, rule, stopped);
    setFlag(session, slot, REFUSED_EFFECT, true);
    return true;
  }
  setFlag(session, slot, REFUSED_EFFECT, false);
  if (state.slotFrom[slot] === NONE) {
    state.slotFrom[slot] = (state.clock[CLOCK.step] as number) - 1;
    state.slotAsked[slot] = 0;
    state.slotApplied[slot] = 0;
  }
  const change = compiled.effects.mode[effect] as number;
  const amounts = changeMeter(
    session,
    player,
    placement,
    effect,
    change === CHANGE.add || change === CHANGE.take ? (state.pairInside[pair] as number) : 1,
  );
  state.slotAsked[slot] = (state.slotAsked[slot] as number) + amounts.asked;
  state.slotApplied[slot] = (state.slotApplied[slot] as number) + amounts.applied;
  noteLimit(session, player, compiled.effects.subject[effect] as number, NONE);
  if (!outOfHealth(session, player)) return true;
  die(session, player, placement, NONE, NONE);
  return false;
}

/** Whether a player is no longer inside anything: it died, or was put elsewhere. */
function isGone({ state, scratch }: Session, player: number): boolean {
  return state.life[player] !== LIFE.alive || (scratch.motions[player] as PlayerMotion).movedBy !== NONE;
}

/** A rate: when it begins, whatever is not a rate acts once. Answers whether the player is there still. */
function actRate(session: Session, pair: number, rule: number): boolean {
  const { compiled, state } = session;
  const { rules, effects } = compiled;
  if (!mayGoOn(session, pair, rule)) {
    closeRule(session, pair, rule);
    return true;
  }
  const player = state.pairToucher[pair] as number;
  const placement = state.pairPlacement[pair] as number;
  const first = slotOf(session, pair, rule);
  if (state.slotPulses[first] === 0) {
    state.slotPulses[first] = 1;
    countUse(session, placement, rule, player);
    runEffects(session, player, placement, rule, NONE, true);
    if (isGone(session, player)) return false;
  }
  const start = rules.effectStart[rule] as number;
  for (let effect = start; effect < (rules.effectStart[rule + 1] as number); effect += 1) {
    if (effects.op[effect] === EFFECT.meter && !runRate(session, pair, rule, effect, first + effect - start)) return false;
  }
  return true;
}

/** Whether a place in the list of contacts still holds this one. */
function isAt({ state }: Session, pair: number, player: number, placement: number, zone: number): boolean {
  return state.pairToucher[pair] === player && state.pairPlacement[pair] === placement && state.pairZone[pair] === zone;
}

/** Pulses: at fixed times after arriving; several may fall in one step. Answers whether the player lives on. */
function actPulses(session: Session, pair: number, rule: number): boolean {
  const { compiled, state } = session;
  const first = slotOf(session, pair, rule);
  const player = state.pairToucher[pair] as number;
  const placement = state.pairPlacement[pair] as number;
  const inside = (state.slotInside[first] as number) + (state.pairInside[pair] as number);
  state.slotInside[first] = inside;
  const due = Math.floor(inside / (compiled.rules.pulseEvery[rule] as number) + 1e-9) + (compiled.rules.pulseAtOnce[rule] as number);
  while ((state.slotPulses[first] as number) < due) {
    state.slotPulses[first] = (state.slotPulses[first] as number) + 1;
    if (!mayGoOn(session, pair, rule)) continue;
    setOff(session, player, placement, rule, NONE);
    if (isGone(session, player)) return false;
    // A contact may have ended with the thing.
    if (!isAt(session, pair, player, placement, compiled.rules.zone[rule] as number)) return true;
  }
  return true;
}

/** Tries arrivals that failed again, where their rules keep trying. */
function tryAgain(session: Session, pair: number, rule: number): void {
  const { state } = session;
  const slot = slotOf(session, pair, rule);
  if (((state.slotRefused[slot] as number) & TRYING) === 0) return;
  const player = state.pairToucher[pair] as number;
  const placement = state.pairPlacement[pair] as number;
  const attempt = attempted(session, player, placement, rule, phaseFor(session, placement, player));
  attempt.quiet = true;
  if (!mayAct(session, attempt)) return;
  setFlag(session, slot, TRYING, false);
  setOff(session, player, placement, rule, NONE);
}

/** Notes that a failed arrival is to be tried again. */
export function keepTrying(session: Session, pair: number, rule: number): void {
  setFlag(session, slotOf(session, pair, rule), TRYING, true);
}

/** All rules of one contact of a player that go on while inside. Answers whether the player lives on. */
function actPair(session: Session, pair: number): boolean {
  const { compiled, state } = session;
  const { rules, forms } = compiled;
  const player = state.pairToucher[pair] as number;
  const placement = state.pairPlacement[pair] as number;
  const form = state.form[placement] as number;
  if (form < 0) return true;
  const zone = state.pairZone[pair] as number;
  if (zone === WHOLE && phaseFor(session, placement, player) === PHASE.resting) {
    state.waiting[placement] = (state.waiting[placement] as number) + (state.pairInside[pair] as number);
  }
  if (forms.inside[form] === 0 && forms.tries[form] === 0) return true;
  for (let rule = forms.ruleStart[form] as number; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
    if (rules.zone[rule] !== zone) continue;
    if (rules.setOffBy[rule] === SET_OFF_BY.inside) {
      const lives = (rules.pulseEvery[rule] as number) > 0 ? actPulses(session, pair, rule) : actRate(session, pair, rule);
      if (!lives) return false;
    } else if (rules.keepTrying[rule] === 1) {
      tryAgain(session, pair, rule);
      if (isGone(session, player)) return false;
    }
    // A rule may have ended this very contact.
    if (!isAt(session, pair, player, placement, zone)) return true;
  }
  return true;
}

/** 6 inside rules of all players' contacts of this step. Movers' act once, when they arrive. */
export function actAllInside(session: Session): void {
  const { compiled, state } = session;
  let pair = 0;
  while (pair < (state.clock[CLOCK.pairs] as number)) {
    const player = state.pairToucher[pair] as number;
    if (player >= compiled.playerCount) return;
    if (isGone(session, player)) {
      pair += 1;
      continue;
    }
    const lives = actPair(session, pair);
    pair = lives ? pair + 1 : firstPair(session, player + 1);
  }
}

/** Contacts that ended within this step are removed. */
export function removeLeft(session: Session): void {
  const { state } = session;
  let pair = 0;
  while (pair < (state.clock[CLOCK.pairs] as number)) {
    const left = state.pairLeft[pair] as number;
    if (left >= 0) removePair(session, pair);
    else pair += 1;
  }
}

/** A mover's inside rules act once, when it arrives: it has nothing that a rate could change. */
export function actForMover(session: Session, toucher: number, placement: number, rule: number): void {
  const attempt = attempted(session, toucher, placement, rule, phaseFor(session, placement, toucher));
  if (mayAct(session, attempt)) act(session, toucher, placement, rule, NONE);
}
