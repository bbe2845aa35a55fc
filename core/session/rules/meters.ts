import { curveValue } from '../../geometry/index.ts';
import { AMOUNT, CHANGE, LIFE, LINE, REASON } from '../compile/codes.ts';
import { findPair } from '../contact/contacts.ts';
import { addLink, LINK } from '../state/links.ts';
import { NONE, writeLine, beginLine } from '../state/lines.ts';
import type { Amounts, Session } from '../state/running.ts';
import { CLOCK, NEVER } from '../state/state.ts';
import { distanceAtContact } from '../state/things.ts';

/** What a change of a meter asked for, as it is worth in the meter's numbers, and what came of it. */

/** Where a player's meter stands among all. */
export function cellOf(session: Session, player: number, meter: number): number {
  return session.compiled.meterCell[player * session.compiled.ids.meters.length + meter] as number;
}

export function meterOf(session: Session, player: number, meter: number): number {
  return session.state.meter[cellOf(session, player, meter)] as number;
}

/** What a curve depends on: distance to the centre, time inside, or time wound up. */
function curveInput(session: Session, player: number, placement: number, effect: number): number {
  const { effects } = session.compiled;
  const by = effects.curveBy[effect] as number;
  if (by === 2) return session.scratch.windUpSeconds;
  if (placement < 0) return 0;
  if (by === 0) {
    return distanceAtContact(session, player, placement, effects.fromX[effect] as number, effects.fromY[effect] as number);
  }
  const pair = findPair(session, player, placement, effects.zone[effect]);
  const now = (session.state.clock[CLOCK.step] as number) * session.compiled.stepSeconds;
  return pair < 0 ? 0 : now - (session.state.pairFrom[pair] as number);
}

/** The amount of an effect: a number, a share of the limits, or a curve. */
export function amountOf(session: Session, player: number, placement: number, effect: number): number {
  const { effects, meters, curves } = session.compiled;
  const value = effects.value[effect] as number;
  const of = effects.amountOf[effect] as number;
  if (of === AMOUNT.number) return value;
  if (of === AMOUNT.curve) {
    return curveValue(curves, effects.curve[effect] as number, curveInput(session, player, placement, effect));
  }
  const meter = effects.subject[effect] as number;
  return value * ((meters.upper[meter] as number) - (meters.lower[meter] as number));
}

/** What a meter effect asks for, `factor` times: positive for more, negative for less. */
function askedBy(session: Session, player: number, placement: number, effect: number, factor: number): number {
  const { effects, meters } = session.compiled;
  const meter = effects.subject[effect] as number;
  const change = effects.mode[effect] as number;
  const before = meterOf(session, player, meter);
  if (change === CHANGE.fill) return (meters.upper[meter] as number) - before;
  const amount = amountOf(session, player, placement, effect) * (change === CHANGE.set ? 1 : factor);
  if (change === CHANGE.set) return amount - before;
  return change === CHANGE.add ? amount : -amount;
}

/** Whether nothing harms a player in this step. */
export function hasGrace({ state }: Session, player: number): boolean {
  const step = state.clock[CLOCK.step] as number;
  return step >= (state.graceFrom[player] as number) && step <= (state.graceUntil[player] as number);
}

/** Whether a shield stops what can be blocked in this step. */
export function isShielded({ state }: Session, player: number): boolean {
  const step = state.clock[CLOCK.step] as number;
  return step >= (state.shieldFrom[player] as number) && step <= (state.shieldUntil[player] as number);
}

/** Why an effect that takes is stopped: grace, or a shield; −1 when it is not. */
export function stoppedBy(session: Session, player: number, placement: number, effect: number): number {
  const { compiled } = session;
  const grace = hasGrace(session, player);
  const shield = compiled.effects.blockable[effect] === 1 && isShielded(session, player);
  if (!grace && !shield) return NONE;
  if (askedBy(session, player, placement, effect, 1) >= 0) return NONE;
  if (grace && compiled.effects.subject[effect] === compiled.meters.health) return REASON.grace;
  return shield ? REASON.blocked : NONE;
}

/** Moves a meter by an amount, within its limits, and books what was asked and applied. Answers with one object for all figures of a session. */
function moveMeter(session: Session, player: number, placement: number, meter: number, asked: number, wanted: number): Amounts {
  const { compiled, state, scratch } = session;
  const { amounts } = scratch;
  const cell = cellOf(session, player, meter);
  const before = state.meter[cell] as number;
  const after = Math.min(compiled.meters.upper[meter] as number, Math.max(compiled.meters.lower[meter] as number, before + wanted));
  state.meter[cell] = after;
  session.scratch.meterLine[cell] = NONE;
  amounts.asked = asked;
  amounts.wanted = wanted;
  amounts.applied = after - before;
  amounts.before = before;
  amounts.after = after;
  if (amounts.applied < 0) state.lossStep[cell] = state.clock[CLOCK.step] as number;
  if (meter === compiled.meters.health) {
    state.lowestHealth[player] = Math.min(state.lowestHealth[player] as number, after);
  }
  if (placement < 0) return amounts;
  if (meter === compiled.meters.score) state.scored[placement] = (state.scored[placement] as number) + amounts.applied;
  if (meter !== compiled.meters.health) return amounts;
  if (wanted > 0) {
    state.healed[placement] = (state.healed[placement] as number) + amounts.applied;
    state.wasted[placement] = (state.wasted[placement] as number) + wanted - amounts.applied;
  } else {
    state.hurt[placement] = (state.hurt[placement] as number) - amounts.applied;
    const form = state.form[placement] as number;
    if (form < 0) return amounts;
    const slot = player * compiled.kindCount + (compiled.forms.kind[form] as number);
    state.damageByKind[slot] = (state.damageByKind[slot] as number) - amounts.applied;
  }
  return amounts;
}

/** Parts of a whole meter's changes are kept for each cause until they make a whole one. The margin undoes rounding. */
function wholePart(session: Session, player: number, effect: number, asked: number): number {
  const { compiled, state } = session;
  const slot = player * compiled.keyCount + (compiled.effects.key[effect] as number);
  const sum = asked + (state.remainder[slot] as number);
  const wanted = Math.trunc(sum + (sum < 0 ? -1e-9 : 1e-9));
  state.remainder[slot] = sum - wanted;
  return wanted;
}

/** Changes a meter by a meter effect, `factor` times. Answers with one object for all figures of a session. */
export function changeMeter(session: Session, player: number, placement: number, effect: number, factor: number): Amounts {
  const { compiled } = session;
  const meter = compiled.effects.subject[effect] as number;
  const asked = askedBy(session, player, placement, effect, factor);
  let wanted = asked;
  if (compiled.meters.whole[meter] === 1) {
    const change = compiled.effects.mode[effect];
    const exact = change === CHANGE.set || change === CHANGE.fill;
    wanted = exact
      ? Math.round(meterOf(session, player, meter) + asked) - meterOf(session, player, meter)
      : wholePart(session, player, effect, asked);
  }
  return moveMeter(session, player, placement, meter, asked, wanted);
}

/** Notes that a meter has just come to one of its limits, and posts its notice. */
export function noteLimit(session: Session, player: number, meter: number, cause: number): void {
  const { meters } = session.compiled;
  const { before, after } = session.scratch.amounts;
  if (after === before) return;
  const upper = after === meters.upper[meter];
  if (!upper && after !== meters.lower[meter]) return;
  const about = beginLine(session, LINE.limit, player, NONE, NONE);
  about.subject = meter;
  about.before = before;
  about.after = after;
  about.cause = cause;
  const line = writeLine(session, about);
  const notice = (upper ? meters.atUpper[meter] : meters.atLower[meter]) as number;
  if (notice >= 0) addLink(session, LINK.notice, notice, NONE, player, line);
}

/** The line that says what a meter was changed by, from the figures of the change just made. */
export function noteChange(session: Session, player: number, placement: number, rule: number, meter: number, cause: number): number {
  const { asked, applied, before, after } = session.scratch.amounts;
  const about = beginLine(session, LINE.changed, player, placement, rule);
  about.subject = meter;
  about.asked = asked;
  about.applied = applied;
  about.before = before;
  about.after = after;
  about.cause = cause;
  return writeLine(session, about);
}

/** Changes a meter for a reason other than a rule: an outside event, death, coming back. Writes the line and returns it. */
export function changePlainly(session: Session, player: number, meter: number, by: number, cause: number): number {
  closeRegeneration(session, player, meter);
  const wanted = session.compiled.meters.whole[meter] === 1 ? Math.round(by) : by;
  moveMeter(session, player, NONE, meter, by, wanted);
  const line = noteChange(session, player, NONE, NONE, meter, cause);
  session.scratch.meterLine[cellOf(session, player, meter)] = line;
  noteLimit(session, player, meter, line);
  return line;
}

/** Changes a meter as part of beginning anew: a line, and nothing that its limits would set off. */
export function setQuietly(session: Session, player: number, meter: number, by: number, cause: number): void {
  moveMeter(session, player, NONE, meter, by, by);
  noteChange(session, player, NONE, NONE, meter, cause);
}

/** Whether a player's health has come to its lower limit. */
export function outOfHealth(session: Session, player: number): boolean {
  const { health, lower } = session.compiled.meters;
  return meterOf(session, player, health) <= (lower[health] as number);
}

/** Ends a span of regeneration and writes what it came to. */
export function closeRegeneration(session: Session, player: number, meter: number): void {
  const { state } = session;
  const cell = cellOf(session, player, meter);
  const from = state.regeneratedFrom[cell] as number;
  if (from === NONE) return;
  state.regeneratedFrom[cell] = NONE;
  const applied = state.regenerated[cell] as number;
  const after = state.regeneratedTo[cell] as number;
  const about = beginLine(session, LINE.rate, player, NONE, NONE);
  about.subject = meter;
  about.asked = applied;
  about.applied = applied;
  about.before = after - applied;
  about.after = after;
  about.other = from;
  writeLine(session, about);
}

export function closeRegenerations(session: Session, player: number): void {
  for (let meter = 0; meter < session.compiled.ids.meters.length; meter += 1) closeRegeneration(session, player, meter);
}

/** 6 what comes back by itself: in each step, unless a loss was too recent or the limit is reached. */
export function regenerate(session: Session, player: number): void {
  const { compiled, state } = session;
  const { meters } = compiled;
  if (state.life[player] !== LIFE.alive) return;
  const step = state.clock[CLOCK.step] as number;
  for (let meter = 0; meter < compiled.ids.meters.length; meter += 1) {
    const perSecond = meters.regeneration[meter] as number;
    if (perSecond === 0) continue;
    const cell = cellOf(session, player, meter);
    const before = state.meter[cell] as number;
    const lost = state.lossStep[cell] as number;
    const paused = lost > 0 && step <= lost + (meters.pauseSteps[meter] as number);
    if (paused || before >= (meters.upper[meter] as number)) {
      closeRegeneration(session, player, meter);
      continue;
    }
    if (state.regeneratedFrom[cell] === NONE) {
      state.regeneratedFrom[cell] = step - 1;
      state.regenerated[cell] = 0;
    }
    let wanted = perSecond * compiled.stepSeconds;
    if (meters.whole[meter] === 1) {
      // A whole meter gains by the seconds since regeneration began.
      const due = Math.floor(perSecond * (step - (state.regeneratedFrom[cell] as number)) * compiled.stepSeconds + 1e-9);
      wanted = due - (state.regenerated[cell] as number);
    }
    const amounts = moveMeter(session, player, NONE, meter, wanted, wanted);
    state.regenerated[cell] = (state.regenerated[cell] as number) + amounts.applied;
    state.regeneratedTo[cell] = amounts.after;
    if (amounts.after === meters.upper[meter]) {
      closeRegeneration(session, player, meter);
      amounts.before = before;
      amounts.after = state.meter[cell] as number;
      noteLimit(session, player, meter, (state.clock[CLOCK.lines] as number) - 1);
    }
  }
}

/** The step a shield or grace lasts to; −1 when there is none. */
function stoppedUntil(session: Session, player: number, reason: number): number {
  const until = (reason === REASON.grace ? session.state.graceUntil[player] : session.state.shieldUntil[player]) as number;
  return until === NEVER ? NONE : until;
}

/** An effect comes to nothing for grace or a shield. */
export function noteStopped(session: Session, player: number, placement: number, rule: number, reason: number): void {
  const { state } = session;
  const about = beginLine(session, LINE.nothing, player, placement, rule);
  about.reason = reason;
  about.other = stoppedUntil(session, player, reason);
  writeLine(session, about);
  if (reason !== REASON.grace || placement < 0) return;
  const pair = findPair(session, player, placement, session.compiled.rules.zone[rule]);
  if (pair >= 0) state.pairGraced[pair] = 1;
}
