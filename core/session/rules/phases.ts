import { BECOMES, LINE, PHASE, PHASES, SCOPE, TRAVEL } from '../compile/codes.ts';
import { addLink, LINK } from '../state/links.ts';
import { NONE, note } from '../state/lines.ts';
import type { Session } from '../state/running.ts';
import { CLOCK, NEVER, STAT_COUNT } from '../state/state.ts';
import { exists, phaseFor, phaseSlot } from '../state/things.ts';
import { dueFor } from '../state/due.ts';
import { standAt } from '../state/courses.ts';
import { endGlidesAt, wakeSolid, wakeThing, wakeTouching } from '../state/waking.ts';

function senses(session: Session, placement: number, toucher: number): boolean {
  const form = session.state.form[placement] as number;
  return session.compiled.forms.sensing[form * PHASES.length + phaseFor(session, placement, toucher)] === 1;
}

/** Whether a thing's box stops a player now. */
export function isSolidFor(session: Session, placement: number, player: number): boolean {
  const { forms } = session.compiled;
  const form = session.state.form[placement] as number;
  if (form < 0 || forms.hasSolid[form] === 0 || session.state.solidLater[placement] === 1) return false;
  return forms.solidIn[form * PHASES.length + phaseFor(session, placement, player)] === 1;
}

/** Sets a box on or off as the phase of its thing has it. Turning on with someone inside is settled when players move. */
export function refreshSolid(session: Session, placement: number): void {
  const item = session.compiled.placements.solid[placement] as number;
  if (item >= 0) session.scratch.solids.on[item] = isSolidFor(session, placement, NONE) ? 1 : 0;
}

const SENSED = 1;
const SOLID = 2;

/** What a thing does, in one of its slots, before it changes its phase: as bits. */
export function doesNow(session: Session, placement: number, slot: number): number {
  const player = slot - placement * session.compiled.phaseSlots - 1;
  return (senses(session, placement, player) ? SENSED : 0) | (isSolidFor(session, placement, player) ? SOLID : 0);
}

/** After a thing has changed its phase: whoever it senses again from now on arrives if inside, and its box comes or goes. */
export function settlePhase(session: Session, placement: number, slot: number, before: number): void {
  const { compiled, state } = session;
  const player = slot - placement * compiled.phaseSlots - 1;
  const sensedBefore = (before & SENSED) !== 0;
  const solidBefore = (before & SOLID) !== 0;
  endGlidesAt(session, placement);
  if (!sensedBefore && senses(session, placement, player)) {
    state.backStep[slot] = (state.clock[CLOCK.step] as number) + 1;
    wakeTouching(session, placement);
  }
  if ((compiled.placements.solid[placement] as number) >= 0) {
    if (!solidBefore && isSolidFor(session, placement, player)) state.solidLater[placement] = 1;
    refreshSolid(session, placement);
    wakeSolid(session, placement);
  }
  if ((compiled.placements.traveller[placement] as number) >= 0) wakeThing(session, placement);
}

/** Puts a thing into a phase until a step, and says so. Returns the line. */
export function enterPhase(
  session: Session,
  placement: number,
  slot: number,
  phase: number,
  rule: number,
  by: number,
  until: number,
  cause: number,
): number {
  const { compiled, state } = session;
  const before = doesNow(session, placement, slot);
  session.scratch.acted = true;
  state.phase[slot] = phase;
  state.phaseFrom[slot] = state.clock[CLOCK.step] as number;
  state.phaseDue[slot] = until;
  state.phaseRule[slot] = rule;
  state.phaseBy[slot] = by;
  settlePhase(session, placement, slot, before);
  dueFor(session, placement, until);
  const player = slot - placement * compiled.phaseSlots - 1;
  const line = note(session, LINE.phase, player, placement, rule, phase, cause, until === NEVER ? NONE : until);
  const flourish = compiled.forms.flourish[(state.form[placement] as number) * PHASES.length + phase] as number;
  if (flourish >= 0) note(session, LINE.flourish, NONE, placement, rule, flourish, line, NONE);
  return line;
}

/** Turns a thing on or off by its cycle. */
export function turnCycle(session: Session, placement: number): void {
  const { compiled, state } = session;
  const form = state.form[placement] as number;
  const off = state.cycledOff[placement] === 1 ? 0 : 1;
  const step = state.clock[CLOCK.step] as number;
  const slot = placement * compiled.phaseSlots;
  const before = doesNow(session, placement, slot);
  state.cycledOff[placement] = off;
  settlePhase(session, placement, slot, before);
  const length = (off === 1 ? compiled.forms.cycleOff[form] : compiled.forms.cycleOn[form]) as number;
  state.cycleDue[placement] = step + length;
  dueFor(session, placement, step + length);
  const phase = off === 1 ? PHASE.off : PHASE.ready;
  const line = note(session, LINE.phase, NONE, placement, NONE, phase, NONE, step + length);
  const flourish = compiled.forms.flourish[form * PHASES.length + phase] as number;
  if (flourish >= 0) note(session, LINE.flourish, NONE, placement, NONE, flourish, line, NONE);
}

/** Index of the count of uses of a rule of a thing, as its scope has it. */
function usesAt(session: Session, placement: number, rule: number, toucher: number): number {
  const { compiled, state } = session;
  const local = rule - (compiled.forms.ruleStart[state.form[placement] as number] as number);
  const perPlayer = compiled.rules.scope[rule] === SCOPE.player;
  const slot = phaseSlot(session, placement, toucher, perPlayer) - placement * compiled.phaseSlots;
  return ((compiled.placements.ruleSlot[placement] as number) + local) * compiled.phaseSlots + slot;
}

/** How often a rule has acted at a thing, as its scope counts: here, for this player, or at all of the kind. */
export function timesUsed(session: Session, placement: number, rule: number, toucher: number): number {
  const { compiled, state } = session;
  if (compiled.rules.scope[rule] === SCOPE.kind) return state.kindUses[compiled.rules.kindRule[rule] as number] as number;
  return state.timesUsed[usesAt(session, placement, rule, toucher)] as number;
}

/** Counts a use of a thing by one of its rules. */
export function countUse(session: Session, placement: number, rule: number, toucher: number): void {
  const { state } = session;
  if ((state.uses[placement] as number) === 0) state.firstUse[placement] = state.clock[CLOCK.step] as number;
  state.uses[placement] = (state.uses[placement] as number) + 1;
  const { rules } = session.compiled;
  if (rules.scope[rule] === SCOPE.kind) {
    const at = rules.kindRule[rule] as number;
    state.kindUses[at] = (state.kindUses[at] as number) + 1;
    return;
  }
  const at = usesAt(session, placement, rule, toucher);
  state.timesUsed[at] = (state.timesUsed[at] as number) + 1;
}

const FIRST_USE = 2;

/** What a placement has come to, in the order of `STAT_COUNT`. */
export function statsOf({ state }: Session, placement: number): number[] {
  const { uses, refusals, firstUse, healed, wasted, hurt, scored, waiting, nothings } = state;
  return [uses, refusals, firstUse, healed, wasted, hurt, scored, waiting, nothings].map((column) =>
    Math.max(0, column[placement] as number),
  );
}

function clearStats({ state }: Session, placement: number): void {
  const { uses, refusals, firstUse, healed, wasted, hurt, scored, waiting, nothings } = state;
  for (const column of [uses, refusals, healed, wasted, hurt, scored, waiting, nothings]) column[placement] = 0;
  firstUse[placement] = NONE;
}

/** Gives up the room of a spawned thing that is spent, once nothing touches it and it touches nothing. */
export function giveUpRoom(session: Session, placement: number): void {
  const { compiled, state } = session;
  const at = (compiled.forms.kind[state.form[placement] as number] as number) * STAT_COUNT;
  const before = [...state.goneStats.subarray(at, at + STAT_COUNT)];
  statsOf(session, placement).forEach((value, index) => {
    const first = index === FIRST_USE && before[0] !== 0;
    state.goneStats[at + index] = first ? Math.min(before[index] as number, value) : (before[index] as number) + value;
  });
  clearStats(session, placement);
  state.form[placement] = NONE;
  refreshSolid(session, placement);
  wakeThing(session, placement);
}

function becomesHere(session: Session, placement: number, rule: number, toucher: number, become: number, cause: number): void {
  const { compiled, state } = session;
  const slot = phaseSlot(session, placement, toucher, compiled.rules.scope[rule] === SCOPE.player);
  const phase = state.phase[slot] as number;
  if (become === BECOMES.ready) {
    if (phase !== PHASE.ready) enterPhase(session, placement, slot, PHASE.ready, rule, toucher, NEVER, cause);
    return;
  }
  const ends = phase === PHASE.active && state.phaseRule[slot] === rule;
  if (phase !== PHASE.ready && !ends) return;
  const step = state.clock[CLOCK.step] as number;
  const restSteps = compiled.rules.restSteps[rule] as number;
  if (become === BECOMES.rests && restSteps > 0) {
    enterPhase(session, placement, slot, PHASE.resting, rule, toucher, step + restSteps, cause);
  } else if (become === BECOMES.spent) {
    enterPhase(session, placement, slot, PHASE.spent, rule, toucher, NEVER, cause);
    if (slot === placement * compiled.phaseSlots && placement >= compiled.placedCount) session.scratch.roomsToEmpty = true;
  } else if (become === BECOMES.off) {
    enterPhase(session, placement, slot, PHASE.off, rule, toucher, NEVER, cause);
  } else {
    if (ends) enterPhase(session, placement, slot, PHASE.ready, rule, toucher, NEVER, cause);
    if (become === BECOMES.moves) addLink(session, LINK.relocate, rule, placement, toucher, cause);
  }
}

/** Sends a thing into what the rule states, for this placement, this player, or all of its kind. */
export function becomes(session: Session, placement: number, rule: number, toucher: number, cause: number): void {
  const { compiled, state } = session;
  const { rules, forms } = compiled;
  const most = rules.uses[rule] as number;
  const worn = most > 0 && timesUsed(session, placement, rule, toucher) >= most;
  const become = worn ? BECOMES.spent : (rules.becomes[rule] as number);
  if (rules.scope[rule] !== SCOPE.kind) {
    becomesHere(session, placement, rule, toucher, become, cause);
    return;
  }
  const kind = forms.kind[state.form[placement] as number];
  for (let other = 0; other < state.form.length; other += 1) {
    if (exists(session, other) && forms.kind[state.form[other] as number] === kind) {
      becomesHere(session, other, rule, toucher, become, cause);
    }
  }
}

/** A thing is for a player, who comes in, as it was for it at the start. */
export function resetForPlayer(session: Session, placement: number, player: number, cause: number): void {
  const { compiled, state } = session;
  const slot = phaseSlot(session, placement, player, true);
  if (state.phase[slot] !== PHASE.ready) enterPhase(session, placement, slot, PHASE.ready, NONE, NONE, NEVER, cause);
  const from = compiled.placements.ruleSlot[placement] as number;
  const to = compiled.placements.ruleSlot[placement + 1] as number;
  const within = slot - placement * compiled.phaseSlots;
  for (let rule = from; rule < to; rule += 1) state.timesUsed[rule * compiled.phaseSlots + within] = 0;
}

/** Puts a thing back as it was at the start: its phase, its uses, its place. */
export function resetThing(session: Session, placement: number, cause: number): void {
  const { compiled, state } = session;
  const from = placement * compiled.phaseSlots;
  const starts = compiled.placements.startPhase[placement] as number;
  const step = state.clock[CLOCK.step] as number;
  for (let slot = from; slot < from + compiled.phaseSlots; slot += 1) {
    const phase = slot === from ? starts : PHASE.ready;
    if (state.phase[slot] === phase && phase !== PHASE.resting) continue;
    const until = phase === PHASE.resting ? step + (compiled.placements.startSteps[placement] as number) : NEVER;
    enterPhase(session, placement, slot, phase, NONE, NONE, until, cause);
  }
  const rulesFrom = (compiled.placements.ruleSlot[placement] as number) * compiled.phaseSlots;
  const rulesTo = (compiled.placements.ruleSlot[placement + 1] as number) * compiled.phaseSlots;
  state.timesUsed.fill(0, rulesFrom, rulesTo);
  const form = state.form[placement] as number;
  for (let rule = compiled.forms.ruleStart[form] as number; rule < (compiled.forms.ruleStart[form + 1] as number); rule += 1) {
    state.kindUses[compiled.rules.kindRule[rule] as number] = 0;
  }
  const traveller = compiled.placements.traveller[placement] as number;
  if (traveller >= 0 && compiled.travellers.how[traveller] !== TRAVEL.path) {
    standAt(session, traveller, compiled.placements.x[placement] as number, compiled.placements.y[placement] as number);
    state.drawnBy[traveller] = NONE;
  }
  wakeThing(session, placement);
}
