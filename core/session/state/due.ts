import type { Compiled } from '../compile/compile.ts';
import type { Session } from './running.ts';
import { CLOCK, NEVER } from './state.ts';

const LISTED = 1;
const ASKED = 2;

/** Placements that have a timer running, up to the count, in order; and which those are. */
export interface Timers {
  readonly running: Int32Array;
  count: number;
  readonly listed: Uint8Array;
}

export function createTimers({ placements }: Compiled): Timers {
  const count = placements.form.length;
  return { running: new Int32Array(count + 1), count: 0, listed: new Uint8Array(count) };
}

/** Asks the timers to look at a step at the latest. */
export function dueAt({ state: { clock } }: Session, step: number): void {
  if (step < (clock[CLOCK.nextDue] as number)) clock[CLOCK.nextDue] = step;
}

/** The first place in the list from which on placements come after one. */
function placeAfter({ running, count }: Timers, placement: number): number {
  let low = 0;
  let high = count;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((running[middle] as number) <= placement) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Asks the timers to look at a thing in a step at the latest. */
export function dueFor(session: Session, placement: number, step: number): void {
  const { timers } = session.scratch;
  if (step === NEVER) return;
  dueAt(session, step);
  const listed = timers.listed[placement] !== 0;
  timers.listed[placement] = ASKED;
  if (listed) return;
  const at = placeAfter(timers, placement);
  timers.running.copyWithin(at + 1, at, timers.count);
  timers.running[at] = placement;
  timers.count += 1;
}

/** The next placement with a timer after one, which is −1 for the first. It has to be asked for again, else `dropIdle` drops it. Answers −1 when there is none. */
export function nextRunning(timers: Timers, placement: number): number {
  const at = placeAfter(timers, placement);
  if (at === timers.count) return -1;
  const next = timers.running[at] as number;
  timers.listed[next] = LISTED;
  return next;
}

/** Takes a placement off the list, unless a timer of it was asked for since it was last looked at. */
export function dropIdle(timers: Timers, placement: number): void {
  if (timers.listed[placement] === ASKED) return;
  timers.listed[placement] = 0;
  timers.running.copyWithin(placeAfter(timers, placement) - 1, placeAfter(timers, placement), timers.count);
  timers.count -= 1;
}

/** Forgets which timers run. */
export function forgetTimers(timers: Timers): void {
  timers.count = 0;
  timers.listed.fill(0);
}
