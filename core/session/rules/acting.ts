import { ALL_FACES, BOTTOM, LEFT, RIGHT, TOP } from '../../geometry/index.ts';
import { ACTIVE, BECOMES, LIFE, LINE, PHASE, PHASES, REASON, SCOPE, TEST } from '../compile/codes.ts';
import { failedCondition } from './conditions.ts';
import { runEffects } from './effects.ts';
import { itemThatStops } from './items.ts';
import { NONE, note, refuse } from '../state/lines.ts';
import { settleActive } from './modifiers.ts';
import { becomes, countUse, doesNow, enterPhase, settlePhase, timesUsed } from './phases.ts';
import type { Session } from '../state/running.ts';
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

/**
 * The direction of the contact that set a rule off, seen from the thing; (0, 0) when they overlapped already. `supposed`:
 * only asked. `goesOn`: a rate that has begun, whose items have been given.
 */
class Touched {
  x = 0;
  y = 0;
  anySide = false;
  supposed = false;
  goesOn = false;
}
export const touched = new Touched();

/** Whether a rule whose uses count for all of its kind has none left: also things made since have none. */
export function wornOut(session: Session, placement: number, rule: number, toucher: number): boolean {
  const { rules } = session.compiled;
  const most = rules.uses[rule] as number;
  return most > 0 && rules.scope[rule] === SCOPE.kind && timesUsed(session, placement, rule, toucher) >= most;
}

/**
 * Tests whether a rule may act now: who, side, phase, then conditions. Writes the refusal, unless `quiet`, and answers
 * whether it may. `phase` is the phase the thing was in when it was touched.
 */
export function mayAct(session: Session, toucher: number, placement: number, rule: number, phase: number, quiet: boolean): boolean {
  const { compiled, state } = session;
  const { rules } = compiled;
  const isPlayer = toucher >= 0 && toucher < compiled.playerCount;
  let reason: number = NONE;
  let subject = NONE;
  let until = NONE;
  const form = state.form[placement] as number;
  const faces = rules.faces[rule] as number;
  if (toucher >= 0 && rules.accepts[rule * compiled.classCount + classOf(session, toucher)] === 0) reason = REASON.wrongTag;
  else if (isPlayer && compiled.forms.accepted[form] === 0) reason = REASON.notAccepted;
  else if (
    faces !== ALL_FACES &&
    !touched.anySide &&
    ((touched.x === 0 && touched.y === 0) || (faces & faceOf(touched.x, touched.y)) === 0)
  ) {
    reason = REASON.wrongSide;
  } else {
    reason = phaseReason(session, placement, rule, phase);
    if (reason === NONE && wornOut(session, placement, rule, toucher)) reason = REASON.usedUp;
    if (reason !== NONE) {
      const slot = countingSlot(session, placement, toucher);
      const cycled = state.phase[slot] === PHASE.ready && state.cycledOff[placement] === 1;
      const due = (cycled ? state.cycleDue[placement] : state.phaseDue[slot]) as number;
      until = due === NEVER || reason === REASON.usedUp ? NONE : due;
    } else if (isPlayer && state.life[toucher] !== LIFE.alive) reason = REASON.dead;
    else {
      subject = failedCondition(session, rule, toucher, placement, !touched.supposed);
      if (subject !== NONE) reason = compiled.conditions.test[subject] === TEST['below limit'] ? REASON.full : REASON.condition;
      else if (isPlayer && !touched.goesOn && rules.hitsAll[rule] === 0) {
        const effect = itemThatStops(session, toucher, rule);
        if (effect !== NONE) {
          reason = (compiled.effects.value[effect] as number) > 0 ? REASON.carryLimit : REASON.empty;
          subject = compiled.effects.subject[effect] as number;
        }
      }
    }
  }
  if (reason === NONE) return true;
  if (!quiet) refuse(session, toucher, placement, rule, reason, subject, until);
  return false;
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
  touched.anySide = true;
  const may = mayAct(session, toucher, placement, rule, PHASE.ready, false);
  touched.anySide = false;
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
