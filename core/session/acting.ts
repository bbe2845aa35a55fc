import * as codes from './codes.ts';
import { COLUMN } from './ledger.ts';
import type { Session } from './running.ts';
import { CLOCK } from './state.ts';

const NONE = -1;

/** Writes one ledger line and returns its number. Numbers run on whether or not anyone records them. */
export function writeLine(
  session: Session,
  type: number,
  toucher: number,
  placement: number,
  rule: number,
  subject: number,
  reason: number,
  asked: number,
  applied: number,
  before: number,
  after: number,
  cause: number,
  other: number,
): number {
  const { state, recorder } = session;
  const index = state.clock[CLOCK.lines] as number;
  state.clock[CLOCK.lines] = index + 1;
  if (recorder !== null) {
    const line = session.scratch.line;
    line[COLUMN.type] = type;
    line[COLUMN.step] = state.clock[CLOCK.step] as number;
    line[COLUMN.toucher] = toucher;
    line[COLUMN.placement] = placement;
    line[COLUMN.rule] = rule;
    line[COLUMN.subject] = subject;
    line[COLUMN.reason] = reason;
    line[COLUMN.asked] = asked;
    line[COLUMN.applied] = applied;
    line[COLUMN.before] = before;
    line[COLUMN.after] = after;
    line[COLUMN.cause] = cause;
    line[COLUMN.other] = other;
    recorder.line(line);
  }
  return index;
}

function refuse(session: Session, toucher: number, placement: number, rule: number, reason: number, subject: number, until: number): void {
  const { state } = session;
  state.refusals[placement] = (state.refusals[placement] as number) + 1;
  writeLine(session, codes.LINE.refused, toucher, placement, rule, subject, reason, 0, 0, 0, 0, NONE, until);
}

/** The first condition of a rule that does not hold for a player, or −1. */
function failedCondition(session: Session, rule: number, player: number): number {
  const { compiled, state } = session;
  const end = compiled.rules.conditionStart[rule + 1] as number;
  for (let condition = compiled.rules.conditionStart[rule] as number; condition < end; condition += 1) {
    const meter = compiled.conditions.meter[condition] as number;
    const now = state.meter[player * compiled.meters.lower.length + meter] as number;
    const value = compiled.conditions.value[condition] as number;
    const test = compiled.conditions.test[condition] as number;
    const holds =
      test === codes.BELOW_LIMIT
        ? now < (compiled.meters.upper[meter] as number)
        : test === 1
          ? now >= value
          : test === 2
            ? now <= value
            : test === 3
              ? now > value
              : now < value;
    if (!holds) return condition;
  }
  return NONE;
}

/**
 * Tests whether a rule may act now: who, then phase, then conditions. Writes the refusal, unless `quiet`, and answers
 * whether it may act. `phase` is the phase the thing was in when it was touched.
 */
export function mayAct(session: Session, toucher: number, placement: number, rule: number, phase: number, quiet: boolean): boolean {
  const { compiled, state } = session;
  const isPlayer = toucher < compiled.playerCount;
  const kind = isPlayer ? 0 : 1 + (compiled.placements.kind[compiled.movers.placement[toucher - compiled.playerCount] as number] as number);
  let reason: number = NONE;
  let subject = NONE;
  let until = NONE;
  if (compiled.rules.accepts[rule * compiled.classCount + kind] === 0) reason = codes.REASON.wrongTag;
  else if (phase === codes.RESTING) {
    reason = codes.REASON.resting;
    until = state.dueStep[placement] as number;
  } else if (phase === codes.SPENT) reason = codes.REASON.usedUp;
  else if (isPlayer && state.dead[toucher] === 1) reason = codes.REASON.dead;
  else {
    subject = isPlayer ? failedCondition(session, rule, toucher) : NONE;
    if (subject !== NONE) {
      reason = compiled.conditions.test[subject] === codes.BELOW_LIMIT ? codes.REASON.full : codes.REASON.condition;
    }
  }
  if (reason === NONE) return true;
  if (!quiet) refuse(session, toucher, placement, rule, reason, subject, until);
  return false;
}

export const amounts = { asked: 0, applied: 0, before: 0, after: 0 };

/**
 * Changes a meter by effect `effect` times `factor`, within its limits, and books what was asked and applied for the
 * placement. Leaves the figures in `amounts`.
 */
export function changeMeter(session: Session, player: number, placement: number, effect: number, factor: number): void {
  const { compiled, state } = session;
  const meter = compiled.effects.meter[effect] as number;
  const at = player * compiled.meters.lower.length + meter;
  const before = state.meter[at] as number;
  const amount = (compiled.effects.amount[effect] as number) * factor;
  const change = compiled.effects.change[effect] as number;
  const asked = change === codes.SET ? amount - before : change === codes.ADD ? amount : -amount;
  let wanted = asked;
  if (compiled.meters.whole[meter] === 1 && change !== codes.SET) {
    // Parts of a whole meter's changes are kept until they make a whole one. The margin undoes rounding of their sum.
    const slot = player * compiled.effects.amount.length + effect;
    const sum = asked + (state.remainder[slot] as number);
    wanted = Math.trunc(sum + (sum < 0 ? -1e-9 : 1e-9));
    state.remainder[slot] = sum - wanted;
  }
  const after = Math.min(compiled.meters.upper[meter] as number, Math.max(compiled.meters.lower[meter] as number, before + wanted));
  state.meter[at] = after;
  amounts.asked = asked;
  amounts.applied = after - before;
  amounts.before = before;
  amounts.after = after;
  book(session, player, placement, meter, wanted, after - before);
}

function book(session: Session, player: number, placement: number, meter: number, wanted: number, applied: number): void {
  const { compiled, state } = session;
  if (meter === compiled.meters.score) state.scored[placement] = (state.scored[placement] as number) + applied;
  if (meter !== compiled.meters.health) return;
  if (wanted > 0) {
    state.healed[placement] = (state.healed[placement] as number) + applied;
    state.wasted[placement] = (state.wasted[placement] as number) + wanted - applied;
  } else {
    state.hurt[placement] = (state.hurt[placement] as number) - applied;
    const slot = player * compiled.ids.kinds.length + (compiled.placements.kind[placement] as number);
    state.damageByKind[slot] = (state.damageByKind[slot] as number) - applied;
    state.lowestHealth[player] = Math.min(state.lowestHealth[player] as number, amounts.after);
  }
}

/** Notes that a meter has just come to one of its limits. */
export function noteLimit(session: Session, player: number, effect: number, cause: number): void {
  const meter = session.compiled.effects.meter[effect] as number;
  const { before, after } = amounts;
  if (after === before) return;
  if (after === session.compiled.meters.upper[meter] || after === session.compiled.meters.lower[meter]) {
    writeLine(session, codes.LINE.limit, player, NONE, NONE, meter, NONE, 0, 0, before, after, cause, NONE);
  }
}

/** Whether a player's health has come to its lower limit. */
export function outOfHealth(session: Session, player: number): boolean {
  const { compiled, state } = session;
  const { health, lower } = compiled.meters;
  return (state.meter[player * lower.length + health] as number) <= (lower[health] as number);
}

/** Counts a use of a thing. */
export function countUse(session: Session, placement: number): void {
  const { state } = session;
  if ((state.uses[placement] as number) === 0) state.firstUse[placement] = state.clock[CLOCK.step] as number;
  state.uses[placement] = (state.uses[placement] as number) + 1;
}

/** Sends a thing that is ready into the phase the rule states. */
export function becomes(session: Session, placement: number, rule: number, cause: number): void {
  const { compiled, state } = session;
  const step = state.clock[CLOCK.step] as number;
  if (state.phase[placement] !== codes.READY) return;
  const become = compiled.rules.becomes[rule];
  if (become === codes.RESTS && (compiled.rules.restSteps[rule] as number) > 0) {
    const due = step + (compiled.rules.restSteps[rule] as number);
    state.phase[placement] = codes.RESTING;
    state.dueStep[placement] = due;
    state.clock[CLOCK.nextDue] = Math.min(state.clock[CLOCK.nextDue] as number, due);
    writeLine(session, codes.LINE.phase, NONE, placement, rule, codes.RESTING, NONE, 0, 0, 0, 0, cause, due);
  } else if (become === codes.IS_SPENT) {
    state.phase[placement] = codes.SPENT;
    writeLine(session, codes.LINE.phase, NONE, placement, rule, codes.SPENT, NONE, 0, 0, 0, 0, cause, NONE);
  }
}
