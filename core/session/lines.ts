import { LINE, REASON } from './codes.ts';
import { COLUMN } from './ledger.ts';
import type { Session } from './running.ts';
import { CLOCK } from './state.ts';

export const NONE = -1;

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

/** A line without amounts. */
export function note(
  session: Session,
  type: number,
  toucher: number,
  placement: number,
  rule: number,
  subject: number,
  cause: number,
  other: number,
): number {
  return writeLine(session, type, toucher, placement, rule, subject, NONE, 0, 0, 0, 0, cause, other);
}

/** A line about a place. */
export function notePlace(
  session: Session,
  type: number,
  toucher: number,
  placement: number,
  rule: number,
  subject: number,
  x: number,
  y: number,
  cause: number,
  other: number,
): number {
  return writeLine(session, type, toucher, placement, rule, subject, NONE, 0, 0, x, y, cause, other);
}

/** A line that says why nothing happened; `until` is the step it lasts to, or −1. */
export function refuse(
  session: Session,
  toucher: number,
  placement: number,
  rule: number,
  reason: number,
  subject: number,
  until: number,
): number {
  const { state } = session;
  if (placement >= 0) state.refusals[placement] = (state.refusals[placement] as number) + 1;
  return writeLine(session, LINE.refused, toucher, placement, rule, subject, reason, 0, 0, 0, 0, NONE, until);
}

/** An effect on a player that found none. */
export function refuseNoPlayer(session: Session, toucher: number, placement: number, rule: number): void {
  refuse(session, toucher, placement, rule, REASON.noPlayer, NONE, NONE);
}
