import { LIFE, LINE, PHASE, SET_OFF_BY } from '../compile/codes.ts';
import { actWoundUp } from './acting.ts';
import { setOffUntouched } from './chain.ts';
import { firstPair } from '../contact/contacts.ts';
import { comeBack } from './life.ts';
import { NONE, note } from '../state/lines.ts';
import { endDueChanges } from './modifiers.ts';
import { becomes, enterPhase, turnCycle } from './phases.ts';
import { dueAt, dropIdle, dueFor, nextRunning } from '../state/due.ts';
import type { Session } from '../state/running.ts';
import { CLOCK, NEVER } from '../state/state.ts';
import { exists, phaseSlot } from '../state/things.ts';
import { endGlides, wakeToucher } from '../state/waking.ts';

function runPlayerTimers(session: Session, player: number, step: number): void {
  const { state } = session;
  endDueChanges(session, player);
  if (state.shieldUntil[player] === step) note(session, LINE.shield, player, NONE, NONE, 0, NONE, NONE);
  else if ((state.shieldUntil[player] as number) > step) dueAt(session, state.shieldUntil[player] as number);
  if (state.graceUntil[player] === step) endGrace(session, player);
  else if ((state.graceUntil[player] as number) > step) dueAt(session, state.graceUntil[player] as number);
  if (state.life[player] === LIFE.dead && (state.dueReturn[player] as number) <= step) comeBack(session, player);
  else if (state.life[player] === LIFE.dead) dueAt(session, state.dueReturn[player] as number);
}

/** When grace ends, whoever is inside what would have harmed arrives there. */
function endGrace(session: Session, player: number): void {
  const { state } = session;
  const pairs = state.clock[CLOCK.pairs] as number;
  for (let pair = firstPair(session, player); pair < pairs && state.pairToucher[pair] === player; pair += 1) {
    if (state.pairGraced[pair] === 0) continue;
    state.pairGraced[pair] = 0;
    const placement = state.pairPlacement[pair] as number;
    state.backStep[phaseSlot(session, placement, player, true)] = (state.clock[CLOCK.step] as number) + 1;
    endGlides(session);
    wakeToucher(session, player);
  }
}

function runPhaseTimer(session: Session, placement: number, slot: number, step: number): void {
  const { state } = session;
  const due = state.phaseDue[slot] as number;
  if (due > step) {
    dueFor(session, placement, due);
    return;
  }
  state.phaseDue[slot] = NEVER;
  const rule = state.phaseRule[slot] as number;
  const by = state.phaseBy[slot] as number;
  if (state.phase[slot] === PHASE.windingUp) actWoundUp(session, placement, slot);
  else if (state.phase[slot] === PHASE.active) becomes(session, placement, rule, by, NONE);
  else enterPhase(session, placement, slot, PHASE.ready, NONE, NONE, NEVER, NONE);
}

function runEveryTimers(session: Session, placement: number, step: number): void {
  const { compiled, state } = session;
  const { rules, forms, placements } = compiled;
  const form = state.form[placement] as number;
  for (let rule = forms.ruleStart[form] as number; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
    if (rules.setOffBy[rule] !== SET_OFF_BY.every) continue;
    const at = (placements.ruleSlot[placement] as number) + rule - (forms.ruleStart[form] as number);
    if ((state.everyDue[at] as number) <= step) {
      state.everyDue[at] = (state.everyDue[at] as number) + (rules.everySteps[rule] as number);
      setOffUntouched(session, NONE, placement, rule, NONE);
      if (!exists(session, placement)) return;
    }
    dueFor(session, placement, state.everyDue[at] as number);
  }
}

/** All timers of one thing that are due; for the others it is listed again. */
function runThingTimers(session: Session, placement: number, step: number): void {
  const { compiled, state } = session;
  const slots = compiled.phaseSlots;
  for (let slot = placement * slots; slot < (placement + 1) * slots; slot += 1) {
    if (state.phaseDue[slot] !== NEVER && exists(session, placement)) runPhaseTimer(session, placement, slot, step);
  }
  if (!exists(session, placement)) return;
  if (compiled.has.cycles && state.cycleDue[placement] !== NEVER) {
    if ((state.cycleDue[placement] as number) <= step) turnCycle(session, placement);
    else dueFor(session, placement, state.cycleDue[placement] as number);
  }
  if (compiled.has.every) runEveryTimers(session, placement, step);
}

/** Lists all things that have a timer running, as the state has them. */
export function listTimers(session: Session): void {
  const { compiled, state } = session;
  const { rules, forms, placements } = compiled;
  const slots = compiled.phaseSlots;
  for (let placement = 0; placement < state.form.length; placement += 1) {
    if (!exists(session, placement)) continue;
    for (let slot = placement * slots; slot < (placement + 1) * slots; slot += 1)
      dueFor(session, placement, state.phaseDue[slot] as number);
    dueFor(session, placement, state.cycleDue[placement] as number);
    if (!compiled.has.every) continue;
    const form = state.form[placement] as number;
    const first = forms.ruleStart[form] as number;
    for (let rule = first; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
      if (rules.setOffBy[rule] !== SET_OFF_BY.every) continue;
      dueFor(session, placement, state.everyDue[(placements.ruleSlot[placement] as number) + rule - first] as number);
    }
  }
}

/** 2 timers, as soon as the step before is over: changes end, phases move on, returns fall due, what happens every so often happens. */
export function runTimers(session: Session): void {
  const { compiled, state, scratch } = session;
  const step = state.clock[CLOCK.step] as number;
  if (step < (state.clock[CLOCK.nextDue] as number)) return;
  state.clock[CLOCK.nextDue] = NEVER;
  for (let player = 0; player < compiled.playerCount; player += 1) runPlayerTimers(session, player, step);
  for (let placement = nextRunning(scratch.timers, -1); placement >= 0; placement = nextRunning(scratch.timers, placement)) {
    if (exists(session, placement)) runThingTimers(session, placement, step);
    dropIdle(scratch.timers, placement);
  }
}
