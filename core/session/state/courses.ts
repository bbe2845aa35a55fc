import { boxMeets, type Region } from '../../geometry/index.ts';
import { clearAgenda, createAgenda, isDue, takeDue, type Agenda } from './agenda.ts';
import { createCells, gatherNear, type Cells } from './cells.ts';
import type { Compiled } from '../compile/compile.ts';
import type { Session } from './running.ts';
import { NEVER } from './state.ts';

/** How long a course is followed at most, and how far. Seconds, units. */
export const LONGEST_COURSE = 16;
export const FURTHEST_COURSE = 32;

/**
 * The course of each traveller: how it goes on evenly, or not at all, until a step. While it keeps its course nothing is done
 * for it; the step in which it may come to, or from, touching something is put down in the agenda when the course begins.
 */
export interface Courses {
  /** The last step of the course, and its way in each step. Units. */
  readonly until: Int32Array;
  readonly wayX: Float64Array;
  readonly wayY: Float64Array;
  /** Whether it goes otherwise: no further than its box, but nobody knows how. */
  readonly roams: Uint8Array;
  /** Left, bottom, right, top of all it covers from the step it began in to the last. Units. */
  readonly box: Float64Array;
  /** Counts courses: what the agenda says of an earlier one no longer holds. */
  readonly serial: Int32Array;
  /** The step in which all around it was last looked at. */
  readonly lookedAt: Int32Array;
  /** To which step the place of what flies freely has been worked out, else never; where it was a step before; and the last step it flew. */
  readonly flownTo: Int32Array;
  readonly fromX: Float64Array;
  readonly fromY: Float64Array;
  readonly flewIn: Int32Array;
  /** When each has to begin another course, and when two of them may meet, or part. */
  readonly turns: Agenda;
  readonly meetings: Agenda;
  readonly cells: Cells;
  /** Which are there and may touch others, and how many. */
  readonly touchers: Uint8Array;
  toucherCount: number;
  /** Travellers that begin a course in this step, or the next, up to the count; and which of them are listed. */
  readonly due: Int32Array;
  dueCount: number;
  readonly listed: Uint8Array;
  /** The step up to which things have moved. */
  moved: number;
}

export function createCourses({ level, travellers: { count }, rate }: Compiled): Courses {
  const integers = (value: number): Int32Array => new Int32Array(count).fill(value);
  return {
    until: integers(0),
    wayX: new Float64Array(count),
    wayY: new Float64Array(count),
    roams: new Uint8Array(count),
    box: new Float64Array(4 * count),
    serial: integers(0),
    lookedAt: integers(-1),
    flownTo: integers(NEVER),
    fromX: new Float64Array(count),
    fromY: new Float64Array(count),
    flewIn: integers(-1),
    turns: createAgenda(LONGEST_COURSE * rate + 2),
    meetings: createAgenda(LONGEST_COURSE * rate + 2),
    cells: createCells(level.size.width, level.size.height, count),
    touchers: new Uint8Array(count),
    toucherCount: 0,
    due: new Int32Array(count),
    dueCount: 0,
    listed: new Uint8Array(count),
    moved: 0,
  };
}

/** Forgets all courses, as things are where the state has them at a step. */
export function forgetCourses(courses: Courses, step: number): void {
  courses.flownTo.fill(NEVER);
  courses.flewIn.fill(-1);
  courses.lookedAt.fill(-1);
  courses.listed.fill(0);
  courses.dueCount = 0;
  courses.moved = step;
  clearAgenda(courses.turns);
  clearAgenda(courses.meetings);
}

/** Lists a traveller that begins another course in this step, or in the next. */
export function listDue(courses: Courses, traveller: number): void {
  if (courses.listed[traveller] === 1) return;
  courses.listed[traveller] = 1;
  courses.due[courses.dueCount] = traveller;
  courses.dueCount += 1;
}

/** Lists all whose courses end with the step before. */
export function takeTurns(courses: Courses, step: number): void {
  const { turns } = courses;
  for (let entry = takeDue(turns, step); entry >= 0; entry = takeDue(turns, step)) {
    const traveller = turns.one[entry] as number;
    if (turns.oneSerial[entry] === courses.serial[traveller]) listDue(courses, traveller);
  }
}

/** Whether no traveller begins a course, meets or parts in a step. */
export function noneIsDue({ turns, meetings, dueCount }: Courses, step: number): boolean {
  return dueCount === 0 && !isDue(turns, step) && !isDue(meetings, step);
}

/** Works out where something that flies freely is at the end of a step. */
export function flyTo({ compiled, state, scratch: { courses } }: Session, traveller: number, step: number): void {
  const from = courses.flownTo[traveller] as number;
  if (from >= step) return;
  const wayX = (state.travelVelocityX[traveller] as number) * compiled.stepSeconds;
  const wayY = (state.travelVelocityY[traveller] as number) * compiled.stepSeconds;
  let x = state.travelX[traveller] as number;
  let y = state.travelY[traveller] as number;
  let fromX = x;
  let fromY = y;
  for (let at = from; at < step; at += 1) {
    fromX = x;
    fromY = y;
    x += wayX;
    y += wayY;
  }
  courses.fromX[traveller] = fromX;
  courses.fromY[traveller] = fromY;
  courses.flewIn[traveller] = step;
  courses.flownTo[traveller] = step;
  state.travelX[traveller] = x;
  state.travelY[traveller] = y;
}

/** Something stands at a place from now on, without having gone there. Units. */
export function standAt({ state, scratch: { courses, trackStep } }: Session, traveller: number, x: number, y: number): void {
  courses.flownTo[traveller] = NEVER;
  courses.flewIn[traveller] = -1;
  trackStep[traveller] = -1;
  state.travelX[traveller] = x;
  state.travelY[traveller] = y;
}

/** Works out where all are that fly freely: the state has it then. */
export function flyAll(session: Session): void {
  const { courses } = session.scratch;
  for (let traveller = 0; traveller < courses.flownTo.length; traveller += 1) flyTo(session, traveller, courses.moved);
}

/** Gathers all travellers that cover anything of a region. Answers how many; they are in the cells' `found`. */
export function gatherCourses({ cells, box }: Courses, region: Region): number {
  const { found } = cells;
  const near = gatherNear(cells, region);
  let count = 0;
  for (let k = 0; k < near; k += 1) {
    const traveller = found[k] as number;
    if (!boxMeets(box, traveller, region)) continue;
    found[count] = traveller;
    count += 1;
  }
  return count;
}

/** All things that travel and may be in a region, in no order: those that cover any of it, and those that have yet to begin a course, wherever they were. */
export function travellersIn(session: Session, region: Region): number[] {
  const { compiled, state, scratch } = session;
  const { cells, due, dueCount, listed } = scratch.courses;
  const count = gatherCourses(scratch.courses, region);
  const near: number[] = [];
  for (let k = 0; k < count; k += 1) {
    const traveller = cells.found[k] as number;
    if (listed[traveller] === 0) near.push(traveller);
  }
  for (let k = 0; k < dueCount; k += 1) {
    const traveller = due[k] as number;
    if ((state.form[compiled.travellers.placement[traveller] as number] as number) >= 0) near.push(traveller);
  }
  return near;
}
