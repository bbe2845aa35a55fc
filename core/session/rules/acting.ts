import { ALL_FACES, BOTTOM, LEFT, RIGHT, TOP } from '../../geometry/index.ts';
import { ACTIVE, BECOMES, LIFE, LINE, PHASE, PHASES, REASON, SCOPE, TEST } from '../compile/codes.ts';
import { failedCondition } from './conditions.ts';
import { runEffects } from './effects.ts';
import { itemThatStops } from './items.ts';
import { NONE, note, refuse } from '../state/lines.ts';
import { settleActive } from './modifiers.ts';
import { becomes, countUse, doesNow, enterPhase, settlePhase, timesUsed } from './phases.ts';
import type { Attempt, Session } from '../state/running.ts';
import { CLOCK, NEVER } from '../state/state.ts';
import { countingSlot, phaseSlot } from '../state/things.ts';

/** The class of a toucher, as rules ask for it: a player, or the kind of a thing. Nobody is of none. */
function classOf(session: Session, toucher: number): number {
  const { compiled, state } = session;
  if (toucher < compiled.playerCount) return toucher;
  const form = state.form[compiled.travellers.placement[toucher - compiled.playerCount] as number] as number;
  return form < 0 ? NONE : compiled.playerCount + (compiled.forms.kind[form] as number);
}

/** The face whose outward direction is nearest a direction; ties go to top, bottom, left, right in that order. */
function faceOf(x: number, y: number): number {
  let face = TOP;
  let most = y;
  if (-y > most) {
    face = BOTTOM;
    most = -y;
  }
  if (-x > most) {
    face = LEFT;
    most = -x;
  }
  return x > most ? RIGHT : face;
}

/** Whether a rule leaves its thing as it is: then it acts also while the thing winds up or is active. */
function leavesAsIs(session: Session, rule: number): boolean {
  const { rules } = session.compiled;
  return (
    rules.windUpSteps[rule] === -1 &&
    rules.becomes[rule] === BECOMES.stays &&
    rules.active[rule] === ACTIVE.instant &&
    rules.uses[rule] === 0
  );
}

/** Why a rule does not act in a phase of its thing; −1 when it may. */
export function phaseReason(session: Session, placement: number, rule: number, phase: number): number {
  const { compiled, state } = session;
  if (compiled.rules.becomes[rule] === BECOMES.ready) return NONE;
  switch (phase) {
    case PHASE.resting:
      return REASON.resting;
    case PHASE.spent:
      return REASON.usedUp;
    case PHASE.off:
      return REASON.off;
    default:
  }
  const busy = phase === PHASE.windingUp ? REASON.windingUp : REASON.active;
  if (phase !== PHASE.ready && !leavesAsIs(session, rule)) return busy;
  const sensing = compiled.forms.sensing[(state.form[placement] as number) * PHASES.length + phase] === 1;
  return sensing ? NONE : phase === PHASE.ready ? REASON.off : busy;
}

/** Whether a rule whose uses count for all of its kind has none left: also things made since have none. */
export function wornOut(session: Session, placement: number, rule: number, toucher: number): boolean {
  const { rules } = session.compiled;
  const most = rules.uses[rule] as number;
  return most > 0 && rules.scope[rule] === SCOPE.kind && timesUsed(session, placement, rule, toucher) >= most;
}

/** An attempt of a rule to act, by whom, at which thing, which is in that phase: without a touch, until its side is stated. */
export function attempted({ scratch: { attempt } }: Session, toucher: number, placement: number, rule: number, phase: number): Attempt {
  attempt.toucher = toucher;
  attempt.placement = placement;
  attempt.rule = rule;
  attempt.phase = phase;
  attempt.anySide = true;
  attempt.supposed = false;
  attempt.goesOn = false;
  attempt.quiet = false;
  attempt.subject = NONE;
  attempt.until = NONE;
  return attempt;
}

/** Why whoever is there does not set a rule off, from where it came; −1 when it does. */
function refusedForWho(session: Session, { toucher, placement, rule, anySide, sideX, sideY }: Attempt): number {
  const { compiled, state } = session;
  const { rules } = compiled;
  const isPlayer = toucher >= 0 && toucher < compiled.playerCount;
  if (toucher >= 0 && rules.accepts[rule * compiled.classCount + classOf(session, toucher)] === 0) return REASON.wrongTag;
  if (isPlayer && compiled.forms.accepted[state.form[placement] as number] === 0) return REASON.notAccepted;
  const faces = rules.faces[rule] as number;
  if (faces === ALL_FACES || anySide) return NONE;
  return (sideX === 0 && sideY === 0) || (faces & faceOf(sideX, sideY)) === 0 ? REASON.wrongSide : NONE;
}

/** Why a rule does not act as the thing is now, and until when; −1 when it does. */
function refusedForPhase(session: Session, attempt: Attempt): number {
  const { state } = session;
  const { toucher, placement, rule, phase } = attempt;
  let reason = phaseReason(session, placement, rule, phase);
  if (reason === NONE && wornOut(session, placement, rule, toucher)) reason = REASON.usedUp;
  if (reason === NONE) return NONE;
  const slot = countingSlot(session, placement, toucher);
  const cycled = state.phase[slot] === PHASE.ready && state.cycledOff[placement] === 1;
  const due = (cycled ? state.cycleDue[placement] : state.phaseDue[slot]) as number;
  attempt.until = due === NEVER || reason === REASON.usedUp ? NONE : due;
  return reason;
}

/** Why the terms of a rule are not met, and by what; −1 when they are. */
function refusedForTerms(session: Session, attempt: Attempt): number {
  const { compiled, state } = session;
  const { toucher, placement, rule } = attempt;
  const isPlayer = toucher >= 0 && toucher < compiled.playerCount;
  if (isPlayer && state.life[toucher] !== LIFE.alive) return REASON.dead;
  const failed = failedCondition(session, rule, toucher, placement, !attempt.supposed);
  if (failed !== NONE) {
    attempt.subject = failed;
    return compiled.conditions.test[failed] === TEST['below limit'] ? REASON.full : REASON.condition;
  }
  if (!isPlayer || attempt.goesOn || compiled.rules.hitsAll[rule] === 1) return NONE;
  const effect = itemThatStops(session, toucher, rule);
  if (effect === NONE) return NONE;
  attempt.subject = compiled.effects.subject[effect] as number;
  return (compiled.effects.value[effect] as number) > 0 ? REASON.carryLimit : REASON.empty;
}

/** Tests whether a rule may act now: who and from which side, the phase, then its terms. Writes the refusal, unless it is quiet. */
export function mayAct(session: Session, attempt: Attempt): boolean {
  let reason = refusedForWho(session, attempt);
  if (reason === NONE) reason = refusedForPhase(session, attempt);
  if (reason === NONE) reason = refusedForTerms(session, attempt);
  if (reason === NONE) return true;
  const { toucher, placement, rule, subject, until } = attempt;
  if (!attempt.quiet) refuse(session, toucher, placement, rule, reason, subject, until);
  return false;
}

/** Whether a rule would act for a toucher now, from any side, were the thing in a phase. Nothing is drawn for it, and nothing written. */
export function wouldAct(session: Session, toucher: number, placement: number, rule: number, phase: number): boolean {
  const attempt = attempted(session, toucher, placement, rule, phase);
  attempt.supposed = true;
  attempt.quiet = true;
  return mayAct(session, attempt);
}

/** Lets a rule act: its effects, then what becomes of the thing, at once or when it is no longer active. */
export function act(session: Session, toucher: number, placement: number, rule: number, cause: number): void {
  const { compiled, state } = session;
  const { rules } = compiled;
  session.scratch.acted = true;
  countUse(session, placement, rule, toucher);
  const line = runEffects(session, toucher, placement, rule, cause, false);
  if (!session.scratch.happened) state.nothings[placement] = (state.nothings[placement] as number) + 1;
  if ((state.form[placement] as number) < 0) return;
  const slot = phaseSlot(session, placement, toucher, rules.scope[rule] === SCOPE.player);
  const active = rules.active[rule] as number;
  if (active === ACTIVE.instant || state.phase[slot] !== PHASE.ready) {
    becomes(session, placement, rule, toucher, line);
    return;
  }
  const steps = rules.activeSteps[rule] as number;
  if (active === ACTIVE.for && steps === 0) {
    becomes(session, placement, rule, toucher, line);
    return;
  }
  const until = active === ACTIVE.for ? (state.clock[CLOCK.step] as number) + steps : NEVER;
  const begun = enterPhase(session, placement, slot, PHASE.active, rule, toucher, until, line);
  if (active === ACTIVE.movement) settleActive(session, placement, rule, begun);
}

/** Sets off a rule that may act: it winds up first if it has to. */
export function setOff(session: Session, toucher: number, placement: number, rule: number, cause: number): void {
  const { compiled, state } = session;
  const steps = compiled.rules.windUpSteps[rule] as number;
  if (steps <= 0) {
    session.scratch.windUpSeconds = 0;
    act(session, toucher, placement, rule, cause);
    return;
  }
  const slot = phaseSlot(session, placement, toucher, compiled.rules.scope[rule] === SCOPE.player);
  enterPhase(session, placement, slot, PHASE.windingUp, rule, toucher, (state.clock[CLOCK.step] as number) + steps, cause);
}

/** A wind-up is over: the rule is tested again and acts, or the thing is ready again. */
export function actWoundUp(session: Session, placement: number, slot: number): void {
  const { compiled, state } = session;
  const rule = state.phaseRule[slot] as number;
  const toucher = state.phaseBy[slot] as number;
  session.scratch.windUpSeconds = (compiled.rules.windUpSteps[rule] as number) * compiled.stepSeconds;
  const did = doesNow(session, placement, slot);
  state.phase[slot] = PHASE.ready;
  // The side was right when it was set off.
  const may = mayAct(session, attempted(session, toucher, placement, rule, PHASE.ready));
  const before = state.clock[CLOCK.lines] as number;
  if (may) act(session, toucher, placement, rule, NONE);
  session.scratch.windUpSeconds = 0;
  if ((state.form[placement] as number) < 0) return;
  settlePhase(session, placement, slot, did);
  if (state.phase[slot] !== PHASE.ready) return;
  const cause = (state.clock[CLOCK.lines] as number) > before ? (state.clock[CLOCK.lines] as number) - 1 : NONE;
  note(session, LINE.phase, NONE, placement, rule, PHASE.ready, cause, NONE);
}

/** Drops what winds up when whoever set it off leaves the thing, or those zones of it (bits), where the rule says so. */
export function dropWindUp(session: Session, toucher: number, placement: number, zones: number): void {
  const { compiled, state } = session;
  const from = placement * compiled.phaseSlots;
  for (let slot = from; slot < from + compiled.phaseSlots; slot += 1) {
    if (state.phase[slot] !== PHASE.windingUp || state.phaseBy[slot] !== toucher) continue;
    const rule = state.phaseRule[slot] as number;
    const left = ((zones >> (compiled.rules.zone[rule] as number)) & 1) === 1;
    if (left && compiled.rules.windUpKept[rule] === 0) enterPhase(session, placement, slot, PHASE.ready, rule, toucher, NEVER, NONE);
  }
}
