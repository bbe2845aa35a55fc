import { Motion, readBox, region, Span, sweepShapes } from '../../geometry/index.ts';
import { putDown, takeDue } from '../state/agenda.ts';
import { gatherCourses, listDue, takeTurns } from '../state/courses.ts';
import type { Session } from '../state/running.ts';
import { CLOCK, NEVER } from '../state/state.ts';
import { placeX, placeY } from '../state/things.ts';
import { beginCourses } from './beginCourses.ts';
import { boundTrack } from './bounds.ts';
import { mayTouch, senseOne, touches } from './contacts.ts';
import { HAIR, senseAt, senseRest, senseStills, senseTraveller } from './sensing.ts';

/** Whether a traveller sets things off by touching them. */
function isToucher(session: Session, traveller: number): boolean {
  const { compiled, state } = session;
  const form = state.form[compiled.travellers.placement[traveller] as number] as number;
  return mayTouch(compiled, traveller, form) && touches(session, traveller);
}

/** Whether a traveller takes notice of who touches it. */
function notices({ compiled, state }: Session, traveller: number): boolean {
  const form = state.form[compiled.travellers.placement[traveller] as number] as number;
  return form >= 0 && compiled.forms.senses[form] === 1;
}

const between = new Motion();
const outer = new Span();
const inner = new Span();

/** After what share of the motion in `between` the contact of two forms may first change: 2 when it does not. */
function shareToChange({ compiled: { forms, shapes } }: Session, own: number, form: number): number {
  const grow = forms.grow[form] as number;
  let share = 2;
  for (let shape = forms.shapeStart[form] as number; shape < (forms.shapeStart[form + 1] as number); shape += 1) {
    for (let at = forms.shapeStart[own] as number; at < (forms.shapeStart[own + 1] as number); at += 1) {
      between.grow = grow + HAIR;
      if (!sweepShapes(shapes, at, shape, between, outer)) continue;
      if (outer.enter > 0) {
        share = Math.min(share, outer.enter);
        continue;
      }
      between.grow = grow - HAIR;
      const deep = sweepShapes(shapes, at, shape, between, inner) && inner.enter === 0;
      // Neither clearly apart nor clearly within: any step may decide.
      if (!deep) return 0;
      if (inner.leave < 1) share = Math.min(share, inner.leave);
    }
  }
  return share;
}

/** In how many of so many steps the contact of two forms may first change, their motion being in `between`; 0 when it does not. */
function stepsToChange(session: Session, own: number, form: number, steps: number): number {
  const share = shareToChange(session, own, form);
  return share > 1 ? 0 : Math.min(steps, Math.floor(share * steps) + 1);
}

/** Puts down when two travellers, while both keep their courses, next come to, or from, touching. */
function foresee(session: Session, traveller: number, other: number, now: number): void {
  const { compiled, state, scratch } = session;
  const { courses } = scratch;
  const forward = isToucher(session, traveller) && notices(session, other);
  const backward = isToucher(session, other) && notices(session, traveller);
  if (!forward && !backward) return;
  const until = Math.min(courses.until[traveller] as number, courses.until[other] as number);
  const steps = until - now;
  if (steps <= 0 || until === NEVER) return;
  if (courses.roams[traveller] === 1 || courses.roams[other] === 1) {
    putDown(courses.meetings, now + 1, traveller, courses.serial[traveller] as number, other, courses.serial[other] as number);
    return;
  }
  const own = compiled.travellers.placement[traveller] as number;
  const placement = compiled.travellers.placement[other] as number;
  between.x = placeX(session, own) - placeX(session, placement);
  between.y = placeY(session, own) - placeY(session, placement);
  between.dx = ((courses.wayX[traveller] as number) - (courses.wayX[other] as number)) * steps;
  between.dy = ((courses.wayY[traveller] as number) - (courses.wayY[other] as number)) * steps;
  const ownForm = state.form[own] as number;
  const form = state.form[placement] as number;
  const { grow } = compiled.forms;
  let next = forward || grow[form] === grow[ownForm] ? stepsToChange(session, ownForm, form, steps) : 0;
  if (backward && grow[form] !== grow[ownForm]) {
    between.x = -between.x;
    between.y = -between.y;
    between.dx = -between.dx;
    between.dy = -between.dy;
    const back = stepsToChange(session, form, ownForm, steps);
    if (back > 0 && (next === 0 || back < next)) next = back;
  }
  if (next === 0) return;
  putDown(courses.meetings, now + next, traveller, courses.serial[traveller] as number, other, courses.serial[other] as number);
}

/** Puts down when a traveller, while it keeps its course, next comes to, or from, touching a thing that stays. */
function foreseeStill(session: Session, traveller: number, placement: number, now: number): void {
  const { compiled, state, scratch } = session;
  const { courses } = scratch;
  const steps = (courses.until[traveller] as number) - now;
  if (steps <= 0) return;
  const { count } = compiled.travellers;
  if (courses.roams[traveller] === 1) {
    putDown(courses.meetings, now + 1, traveller, courses.serial[traveller] as number, count + placement, 0);
    return;
  }
  const own = compiled.travellers.placement[traveller] as number;
  between.x = placeX(session, own) - (compiled.placements.x[placement] as number);
  between.y = placeY(session, own) - (compiled.placements.y[placement] as number);
  between.dx = (courses.wayX[traveller] as number) * steps;
  between.dy = (courses.wayY[traveller] as number) * steps;
  const next = stepsToChange(session, state.form[own] as number, state.form[placement] as number, steps);
  if (next === 0) return;
  putDown(courses.meetings, now + next, traveller, courses.serial[traveller] as number, count + placement, 0);
}

/** Foresees all meetings of a traveller with things that stay along its course. */
function foreseeStills(session: Session, traveller: number, now: number): void {
  const { compiled, state, scratch } = session;
  const { box, until } = scratch.courses;
  if (until[traveller] === NEVER || until[traveller] === now) return;
  readBox(box, traveller, region);
  const found = compiled.stillGrid.query(region);
  for (let k = 0; k < found; k += 1) {
    const placement = compiled.stillPlacement[compiled.stillGrid.found[k] as number] as number;
    if (compiled.forms.senses[state.form[placement] as number] === 1) foreseeStill(session, traveller, placement, now);
  }
}

/** Gathers all travellers that one may meet in this step or on its course. Answers how many; they are in the cells' `found`. */
function gatherOthers({ compiled, scratch: { courses }, exhaustive }: Session, traveller: number): number {
  const { cells, box } = courses;
  if (exhaustive) {
    for (let other = 0; other < compiled.travellers.count; other += 1) cells.found[other] = other;
    return compiled.travellers.count;
  }
  readBox(box, traveller, region);
  const found = gatherCourses(courses, region);
  let count = 0;
  for (let k = 0; k < found; k += 1) {
    const other = cells.found[k] as number;
    if (other === traveller) continue;
    cells.found[count] = other;
    count += 1;
  }
  return count;
}

/**
 * A traveller that begins a course looks at all around it: what it meets, and who meets it, in this step, and when that changes. Of
 * two that both do so in one step each senses what it touches itself; the first foresees for both.
 */
function lookAround(session: Session, traveller: number, now: number): void {
  const { compiled, scratch } = session;
  const { courses } = scratch;
  const toucher = compiled.playerCount + traveller;
  const acts = isToucher(session, traveller);
  const noticed = notices(session, traveller);
  scratch.senseStamp += 1;
  if (acts) {
    boundTrack(session, toucher);
    senseStills(session, toucher);
    foreseeStills(session, traveller, now);
  }
  const alone = courses.cells.of[traveller] === -1 || (!acts && courses.toucherCount === 0);
  const found = alone ? 0 : gatherOthers(session, traveller);
  for (let k = 0; k < found; k += 1) {
    const other = courses.cells.found[k] as number;
    const looksToo = courses.lookedAt[other] === now;
    if (acts) senseTraveller(session, toucher, other);
    if (noticed && !looksToo && isToucher(session, other)) {
      boundTrack(session, compiled.playerCount + other);
      senseAt(session, compiled.playerCount + other, traveller);
    }
    if (!looksToo || other > traveller) foresee(session, traveller, other, now);
  }
  senseRest(session, toucher, true, true);
}

/** Looks at one traveller that touches another, or may come to touch it in this step. */
function senseMet(session: Session, traveller: number, other: number): void {
  const toucher = session.compiled.playerCount + traveller;
  boundTrack(session, toucher);
  senseAt(session, toucher, other);
}

/** Two that were foreseen to come to, or from, touching in this step. */
function senseMeeting(session: Session, entry: number, now: number): void {
  const { compiled, scratch } = session;
  const { courses } = scratch;
  const { meetings, serial } = courses;
  const one = meetings.one[entry] as number;
  const other = meetings.other[entry] as number;
  const { count } = compiled.travellers;
  if (serial[one] !== meetings.oneSerial[entry]) return;
  if (other >= count) {
    if (isToucher(session, one)) senseOne(session, compiled.playerCount + one, other - count);
    foreseeStill(session, one, other - count, now);
    return;
  }
  if (serial[other] !== meetings.otherSerial[entry]) return;
  if (isToucher(session, one) && notices(session, other)) senseMet(session, one, other);
  if (isToucher(session, other) && notices(session, one)) senseMet(session, other, one);
  foresee(session, one, other, now);
}

/** Gives courses to all whose courses are over, or were disturbed. */
export function beginDue(session: Session): void {
  const { courses } = session.scratch;
  takeTurns(courses, session.state.clock[CLOCK.step] as number);
  if (session.exhaustive) for (let traveller = 0; traveller < courses.due.length; traveller += 1) listDue(courses, traveller);
  if (courses.dueCount > 0) beginCourses(session);
}

/** Lists the crossings of all travellers that begin a course in this step, and of those foreseen to meet in it. */
export function senseDue(session: Session): void {
  const { courses } = session.scratch;
  const now = session.state.clock[CLOCK.step] as number;
  const { due, listed, meetings } = courses;
  for (let k = 0; k < courses.dueCount; k += 1) {
    const traveller = due[k] as number;
    listed[traveller] = 0;
    lookAround(session, traveller, now);
  }
  courses.dueCount = 0;
  for (let entry = takeDue(meetings, now); entry >= 0; entry = takeDue(meetings, now)) senseMeeting(session, entry, now);
}
