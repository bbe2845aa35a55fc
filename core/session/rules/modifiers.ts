import { AGAIN, ENDING, HOW, LASTS, LINE, MOVEMENT, MOVEMENT_COUNT, PHASE, REASON } from '../compile/codes.ts';
import { comeToNothing, NONE, writeLine, beginLine } from '../state/lines.ts';
import { becomes } from './phases.ts';
import { dueAt } from '../state/due.ts';
import type { Session } from '../state/running.ts';
import { CLOCK, MOST_CHANGES, NEVER } from '../state/state.ts';
import { disturb } from '../state/waking.ts';

/** The base value of a movement. */
function baseOf(session: Session, of: number): number {
  const { body } = session.compiled.level;
  if (of === MOVEMENT.speed) return body.speed;
  if (of === MOVEMENT.jump) return body.jumpSpeed;
  if (of === MOVEMENT.gravity) return body.gravity;
  return of === MOVEMENT.acceleration ? body.acceleration : 1;
}

/** Whether a change lasts only while inside of a thing. */
function isOfPlace({ compiled, state }: Session, at: number): boolean {
  return compiled.effects.lasts[state.changeEffect[at] as number] === LASTS.while && (state.changePlacement[at] as number) >= 0;
}

/** A movement by the changes in force, or by those alone that one takes along: (latest *set*, else base) + adds, × multiplies, never under 0. */
function worked(session: Session, player: number, of: number, alongOnly: boolean): number {
  const { compiled, state } = session;
  const from = player * MOST_CHANGES;
  const count = state.changes[player] as number;
  let value = baseOf(session, of);
  for (let pass: number = HOW.set; pass >= 0; pass -= 1) {
    // Sets, then adds, then multiplies; changes lie in the order they began.
    const how = pass === 2 ? HOW.set : pass === 1 ? HOW.add : HOW.multiply;
    for (let at = from; at < from + count; at += 1) {
      const effect = state.changeEffect[at] as number;
      if (compiled.effects.subject[effect] !== of || compiled.effects.mode[effect] !== how || waits(session, from, at)) continue;
      if (alongOnly && isOfPlace(session, at)) continue;
      const amount = compiled.effects.value[effect] as number;
      value = how === HOW.set ? amount : how === HOW.add ? value + amount : value * amount;
    }
  }
  return Math.max(0, value);
}

/** Works a player's movement out anew. With no change in force it is the base value itself, so nothing is ever restored from a saved one. */
export function refreshMovement(session: Session, player: number): void {
  const { movement } = session.state;
  disturb(session);
  for (let of = 0; of < MOVEMENT_COUNT; of += 1) movement[player * MOVEMENT_COUNT + of] = worked(session, player, of, false);
}

/** Whether a change only waits for an earlier one of the same cause to end: inside two things of one kind, one counts. */
function waits({ compiled, state }: Session, from: number, at: number): boolean {
  if (compiled.effects.again[state.changeEffect[at] as number] === AGAIN.stack) return false;
  for (let earlier = from; earlier < at; earlier += 1) if (state.changeKey[earlier] === state.changeKey[at]) return true;
  return false;
}

export function movementOf(session: Session, player: number, of: number): number {
  return session.state.movement[player * MOVEMENT_COUNT + of] as number;
}

/** The same, without what lasts only while inside of a thing: it goes along wherever the player does. */
export function movementAlong(session: Session, player: number, of: number): number {
  return session.state.changes[player] === 0 ? baseOf(session, of) : worked(session, player, of, true);
}

/** Whether a change in force, counted over all players, ends after a time. */
export function changeEnds({ compiled, state }: Session, at: number): boolean {
  return compiled.effects.lasts[state.changeEffect[at] as number] === LASTS.for;
}

/** Whether any change of a movement is in force. */
export function isChanged(session: Session, player: number, of: number): boolean {
  const { compiled, state } = session;
  const from = player * MOST_CHANGES;
  for (let at = from; at < from + (state.changes[player] as number); at += 1) {
    if (compiled.effects.subject[state.changeEffect[at] as number] === of) return true;
  }
  return false;
}

function givenBy(session: Session, player: number, placement: number, rule: number): boolean {
  const { state } = session;
  const from = player * MOST_CHANGES;
  for (let at = from; at < from + (state.changes[player] as number); at += 1) {
    if (state.changePlacement[at] === placement && state.changeRule[at] === rule) return true;
  }
  return false;
}

/** A thing that is active as long as the changes it gave: its time is over when no player has one left. */
export function settleActive(session: Session, placement: number, rule: number, cause: number): void {
  const { compiled, state } = session;
  if (placement < 0) return;
  for (let player = 0; player < compiled.playerCount; player += 1) if (givenBy(session, player, placement, rule)) return;
  const from = placement * compiled.phaseSlots;
  for (let slot = from; slot < from + compiled.phaseSlots; slot += 1) {
    if (state.phase[slot] !== PHASE.active || state.phaseRule[slot] !== rule || state.phaseDue[slot] !== NEVER) continue;
    becomes(session, placement, rule, state.phaseBy[slot] as number, cause);
  }
}

/** Ends one change of movement. */
function endChange(session: Session, player: number, at: number, cause: number): void {
  const { compiled, state } = session;
  const effect = state.changeEffect[at] as number;
  const placement = state.changePlacement[at] as number;
  const rule = state.changeRule[at] as number;
  const of = compiled.effects.subject[effect] as number;
  const before = movementOf(session, player, of);
  const last = player * MOST_CHANGES + (state.changes[player] as number);
  for (const column of columnsOf(session)) column.copyWithin(at, at + 1, last);
  state.changes[player] = (state.changes[player] as number) - 1;
  refreshMovement(session, player);
  const about = beginLine(session, LINE.movement, player, placement, rule);
  about.subject = of;
  about.before = before;
  about.after = movementOf(session, player, of);
  about.cause = cause;
  const line = writeLine(session, about);
  settleActive(session, placement, rule, line);
}

function columnsOf({ state }: Session): Int32Array[] {
  return [state.changeEffect, state.changeKey, state.changePlacement, state.changeRule, state.changeUntil];
}

/** Adds a change of movement, as the policy of its effect has it. Answers whether anything came of it. */
export function addChange(session: Session, player: number, placement: number, rule: number, effect: number): boolean {
  const { compiled, state } = session;
  const { effects } = compiled;
  const key = effects.key[effect] as number;
  const step = state.clock[CLOCK.step] as number;
  const timed = effects.lasts[effect] === LASTS.for;
  const steps = effects.steps[effect] as number;
  const again = effects.again[effect] as number;
  const from = player * MOST_CHANGES;
  const count = state.changes[player] as number;
  const of = effects.subject[effect] as number;
  const before = movementOf(session, player, of);
  let present = 0;
  let found = NONE;
  for (let at = from; at < from + count; at += 1) {
    if (state.changeKey[at] !== key) continue;
    present += 1;
    found = at;
  }
  if (timed && steps === 0) return false;
  if (present > 0 && again !== AGAIN.stack) {
    if (again === AGAIN.ignore || !timed) {
      const until = timed ? (state.changeUntil[found] as number) : NONE;
      const about = beginLine(session, LINE.nothing, player, placement, rule);
      about.reason = REASON.alreadyPresent;
      about.other = until;
      writeLine(session, about);
      if (effects.lasts[effect] === LASTS.while) insertChange(session, player, placement, rule, effect, NEVER);
      return false;
    }
    const until = (again === AGAIN.extend ? (state.changeUntil[found] as number) : step) + steps;
    state.changeUntil[found] = until;
    dueAt(session, until);
    const about = beginLine(session, LINE.movement, player, placement, rule);
    about.subject = of;
    about.asked = 1;
    about.before = before;
    about.after = before;
    about.other = until;
    writeLine(session, about);
    return true;
  }
  if (again === AGAIN.stack && present >= (effects.most[effect] as number)) {
    comeToNothing(session, player, placement, rule, REASON.alreadyPresent, NONE);
    return false;
  }
  const until = timed ? step + steps : NEVER;
  insertChange(session, player, placement, rule, effect, until);
  const after = movementOf(session, player, of);
  const about = beginLine(session, LINE.movement, player, placement, rule);
  about.subject = of;
  about.asked = 1;
  about.before = before;
  about.after = after;
  about.other = timed ? until : NONE;
  writeLine(session, about);
  return true;
}

function insertChange(session: Session, player: number, placement: number, rule: number, effect: number, until: number): void {
  const { compiled, state } = session;
  const count = state.changes[player] as number;
  if (count === MOST_CHANGES) {
    session.scratch.overfull = ENDING.changes;
    return;
  }
  const at = player * MOST_CHANGES + count;
  state.changeEffect[at] = effect;
  state.changeKey[at] = compiled.effects.key[effect] as number;
  state.changePlacement[at] = placement;
  state.changeRule[at] = rule;
  state.changeUntil[at] = until;
  state.changes[player] = count + 1;
  if (until !== NEVER) dueAt(session, until);
  refreshMovement(session, player);
}

/** Ends the changes whose time is over. */
export function endDueChanges(session: Session, player: number): void {
  const { state } = session;
  const step = state.clock[CLOCK.step] as number;
  const from = player * MOST_CHANGES;
  let at = from;
  while (at < from + (state.changes[player] as number)) {
    if ((state.changeUntil[at] as number) <= step) endChange(session, player, at, NONE);
    else at += 1;
  }
  for (at = from; at < from + (state.changes[player] as number); at += 1) dueAt(session, state.changeUntil[at] as number);
}

/**
 * Ends the changes that last only while inside a thing, or while an item is carried or held: those of one rule, or, without
 * one (−1), those of all rules tied to a zone of the thing.
 */
export function endWhile(session: Session, player: number, placement: number, rule: number, zone: number, cause: number): void {
  const { compiled, state } = session;
  const from = player * MOST_CHANGES;
  let at = from;
  while (at < from + (state.changes[player] as number)) {
    const lasts = compiled.effects.lasts[state.changeEffect[at] as number];
    const own = state.changeRule[at] as number;
    const meant = state.changePlacement[at] === placement && (rule === NONE ? compiled.rules.zone[own] === zone : own === rule);
    if (lasts === LASTS.while && meant) endChange(session, player, at, cause);
    else at += 1;
  }
}

/** Ends all changes of a player, who leaves. */
export function endAllChanges(session: Session, player: number, cause: number): void {
  while ((session.state.changes[player] as number) > 0) endChange(session, player, player * MOST_CHANGES, cause);
}

/** Ends the changes that death ends: those while inside anything, and those until death. */
export function endAtDeath(session: Session, player: number, cause: number): void {
  const { compiled, state } = session;
  const from = player * MOST_CHANGES;
  let at = from;
  while (at < from + (state.changes[player] as number)) {
    const lasts = compiled.effects.lasts[state.changeEffect[at] as number];
    const ends = lasts === LASTS['until death'] || (lasts === LASTS.while && (state.changePlacement[at] as number) >= 0);
    if (ends) endChange(session, player, at, cause);
    else at += 1;
  }
}
