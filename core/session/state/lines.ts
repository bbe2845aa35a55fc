import { LINE } from '../compile/codes.ts';
import { COLUMN } from './ledger.ts';
import { namedThing, namedToucher } from './naming.ts';
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
    line[COLUMN.toucher] = namedToucher(session, toucher);
    line[COLUMN.placement] = namedThing(session, placement);
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

/** A line that says why a rule did not act; `until` is the step it lasts to, or −1. */
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

/** A meter as the subject of a line that may also be about an item. */
export const ofMeter = (meter: number): number => -2 - meter;

/** A line that says why an effect of a rule that acted came to nothing; `until` is the step the reason lasts to, or −1. */
export function comeToNothing(
  session: Session,
  toucher: number,
  placement: number,
  rule: number,
  reason: number,
  subject: number,
  asked: number,
  until: number,
  cause: number,
): void {
  writeLine(session, LINE.nothing, toucher, placement, rule, subject, reason, asked, 0, 0, 0, cause, until);
}
