import { LINE } from '../compile/codes.ts';
import type { Line } from './ledger.ts';
import { namedThing, namedToucher } from './naming.ts';
import type { Session } from './running.ts';
import { CLOCK } from './state.ts';

export const NONE = -1;

/** Begins a line: of what type, who, at what, by which rule; all else of it is none, or nought, until it is stated. */
export function beginLine({ scratch: { line } }: Session, type: number, toucher: number, placement: number, rule: number): Line {
  line.type = type;
  line.toucher = toucher;
  line.placement = placement;
  line.rule = rule;
  line.subject = NONE;
  line.reason = NONE;
  line.asked = 0;
  line.applied = 0;
  line.before = 0;
  line.after = 0;
  line.cause = NONE;
  line.other = NONE;
  return line;
}

/** A line about a place has it where others have an amount before and after. Units. */
export function atPlace(line: Line, x: number, y: number): void {
  line.before = x;
  line.after = y;
}

/** Writes a line that was begun and returns its number. Numbers run on whether or not anyone records them. */
export function writeLine(session: Session, line: Line): number {
  const { state, recorder } = session;
  const index = state.clock[CLOCK.lines] as number;
  state.clock[CLOCK.lines] = index + 1;
  if (recorder !== null) {
    line.step = state.clock[CLOCK.step] as number;
    line.toucher = namedToucher(session, line.toucher);
    line.placement = namedThing(session, line.placement);
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
  const line = beginLine(session, type, toucher, placement, rule);
  line.subject = subject;
  line.cause = cause;
  line.other = other;
  return writeLine(session, line);
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
  const line = beginLine(session, LINE.refused, toucher, placement, rule);
  line.reason = reason;
  line.subject = subject;
  line.other = until;
  return writeLine(session, line);
}

/** A meter as the subject of a line that may also be about an item. */
export const ofMeter = (meter: number): number => -2 - meter;

/** A line that says why an effect of a rule that acted came to nothing. */
export function comeToNothing(session: Session, toucher: number, placement: number, rule: number, reason: number, cause: number): void {
  const line = beginLine(session, LINE.nothing, toucher, placement, rule);
  line.reason = reason;
  line.cause = cause;
  writeLine(session, line);
}
