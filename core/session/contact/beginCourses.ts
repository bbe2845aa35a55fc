import { boundPlace, boundWay, readBox, Region, widen, writeBox, type Track } from '../../geometry/index.ts';
import { PHASE, TRAVEL } from '../compile/codes.ts';
import { evenMotion, evenly } from '../compile/kinematics.ts';
import { putDown } from '../state/agenda.ts';
import { leaveCell, putInCell } from '../state/cells.ts';
import { FURTHEST_COURSE, LONGEST_COURSE } from '../state/courses.ts';
import type { Session } from '../state/running.ts';
import { mayTouch } from './contacts.ts';
import { HAIR } from './sensing.ts';
import { CLOCK, NEVER } from '../state/state.ts';
import { trackOf } from '../state/things.ts';

const covered = new Region();

/** How far something that is drawn may come on its course. Units. */
const ROAMED = 1;

/** Whether a thing turns at present: then whoever is near is looked at in each step. */
function turnsNow({ compiled, state }: Session, placement: number, form: number): boolean {
  if (compiled.forms.turns[form] === 0) return false;
  const phase = state.phase[placement * compiled.phaseSlots];
  return phase === PHASE.windingUp || phase === PHASE.active;
}

/** For how many steps something that goes so far in each keeps its course at most. */
export function mostSteps({ compiled }: Session, way: number): number {
  const longest = Math.floor(LONGEST_COURSE * compiled.rate);
  return way > 0 ? Math.min(longest, Math.floor(FURTHEST_COURSE / way)) : longest;
}

/** A mover along a path: evenly to the end of its leg. */
function followPath(session: Session, traveller: number, now: number): void {
  const { compiled, scratch } = session;
  const { courses } = scratch;
  const { stepSeconds } = compiled;
  evenMotion(compiled.movers, compiled.travellers.path[traveller] as number, now * stepSeconds);
  const wayX = evenly.velocityX * stepSeconds;
  const wayY = evenly.velocityY * stepSeconds;
  const steps = Math.max(0, Math.floor(evenly.seconds / stepSeconds));
  courses.wayX[traveller] = wayX;
  courses.wayY[traveller] = wayY;
  courses.until[traveller] = now + Math.min(steps, mostSteps(session, Math.abs(wayX) + Math.abs(wayY)));
}

/** States how long a traveller goes on evenly from the end of this step on, and how. What drifts has its course since it moved. */
function stateCourse(session: Session, traveller: number, placement: number, form: number, now: number): void {
  const { compiled, state, scratch } = session;
  const { courses } = scratch;
  const path = compiled.travellers.how[traveller] === TRAVEL.path;
  const turns = turnsNow(session, placement, form);
  if (!turns && !path && (compiled.forms.driftSpeed[form] as number) > 0 && (courses.until[traveller] as number) > now) {
    courses.roams[traveller] = 0;
    return;
  }
  courses.wayX[traveller] = 0;
  courses.wayY[traveller] = 0;
  courses.until[traveller] = now;
  courses.roams[traveller] = 1;
  if (turns || session.exhaustive) return;
  if (!path && state.drawnBy[traveller] !== -1) {
    const steps = Math.floor(ROAMED / ((compiled.magnets.fastest[form] as number) * compiled.stepSeconds + HAIR));
    courses.until[traveller] = now + Math.min(steps, mostSteps(session, 0));
    return;
  }
  courses.roams[traveller] = 0;
  if (path) followPath(session, traveller, now);
  else if ((compiled.forms.driftSpeed[form] as number) <= 0) courses.until[traveller] = NEVER;
}

/** Notes what the box of a mover may cover while it keeps its course, and in the step after; what travels otherwise is moved in each step. */
function boundSolid({ compiled, scratch }: Session, traveller: number, solid: number): void {
  const { courses, solids } = scratch;
  if (compiled.travellers.how[traveller] !== TRAVEL.path) return;
  readBox(courses.box, traveller, covered);
  writeBox(solids.mayCover, solid - solids.firstMoving, covered, compiled.fastest * compiled.stepSeconds + HAIR);
}

/** Notes all that a traveller covers in this step and on its course. */
function boundCourse(session: Session, traveller: number, placement: number, form: number, now: number): void {
  const { compiled, state, scratch } = session;
  const { courses } = scratch;
  const roamed = courses.roams[traveller] === 1 ? ROAMED : 0;
  const reach = (compiled.forms.touchReach[form] as number) + roamed + HAIR;
  const until = courses.until[traveller] as number;
  if (until === NEVER && scratch.trackStep[traveller] !== now && courses.flewIn[traveller] !== now) {
    // At rest, where it was before.
    boundPlace(state.travelX[traveller] as number, state.travelY[traveller] as number, covered);
  } else {
    const track: Track = trackOf(session, traveller);
    const steps = until === NEVER ? 0 : until - now;
    const endX = (track.x[track.count - 1] as number) + (courses.wayX[traveller] as number) * steps;
    const endY = (track.y[track.count - 1] as number) + (courses.wayY[traveller] as number) * steps;
    boundWay(track, covered);
    widen(covered, endX, endY);
  }
  writeBox(courses.box, traveller, covered, reach);
  putInCell(courses.cells, traveller, covered, reach);
  const solid = compiled.placements.solid[placement] as number;
  if (solid >= 0) boundSolid(session, traveller, solid);
}

/** Notes whether a traveller is there and may touch others. */
function noteToucher({ compiled, scratch: { courses } }: Session, traveller: number, form: number): void {
  const may = mayTouch(compiled, traveller, form) ? 1 : 0;
  courses.toucherCount += may - (courses.touchers[traveller] as number);
  courses.touchers[traveller] = may;
}

/** Gives all that are due their courses, and puts down when these end. */
export function beginCourses(session: Session): void {
  const { compiled, state, scratch } = session;
  const { courses } = scratch;
  const now = state.clock[CLOCK.step] as number;
  for (let k = 0; k < courses.dueCount; k += 1) {
    const traveller = courses.due[k] as number;
    const placement = compiled.travellers.placement[traveller] as number;
    const form = state.form[placement] as number;
    const serial = (courses.serial[traveller] as number) + 1;
    courses.serial[traveller] = serial;
    courses.lookedAt[traveller] = now;
    noteToucher(session, traveller, form);
    if (form < 0) {
      leaveCell(courses.cells, traveller);
      continue;
    }
    stateCourse(session, traveller, placement, form, now);
    boundCourse(session, traveller, placement, form, now);
    const until = courses.until[traveller] as number;
    if (until < NEVER) putDown(courses.turns, until + 1, traveller, serial, -1, 0);
  }
}
