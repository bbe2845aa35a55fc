import {
  DiscMotion,
  gathered,
  gatherSolids,
  mayBeIn,
  Motion,
  nearest,
  region,
  sweepCircle,
  sweepDiscBox,
  sweepShapes,
  Span,
} from '../../geometry/index.ts';
import { GOAL } from '../compile/codes.ts';
import { findPair } from '../contact/contacts.ts';
import { moverTrack } from '../compile/kinematics.ts';
import type { PlayerMotion, Session } from '../state/running.ts';
import { nearestBoundary, travelSpeed } from '../contact/sensing.ts';
import { gatherCourses } from '../state/courses.ts';
import { CLOCK } from '../state/state.ts';
import { placeX, placeY } from '../state/things.ts';

/** How far ahead is looked, in units and in steps. */
const FAR = 8;
const LONGEST = 480;
/** Margin for rounding, and for the hair kept from walls. Units. */
const MARGIN = 1e-6;
/** Margin for rounding alone: less than the hair kept from walls, so that one can glide beside a wall. Units. */
const THIN = 1e-8;

const span = new Span();
const toward = new DiscMotion();
const relative = new Motion();
const window = { from: 0, to: 0 };
/** Where a player is, its way in all the steps looked ahead, and the share of it, or of part of it, that is free. */
class Ahead {
  x = 0;
  y = 0;
  dx = 0;
  dy = 0;
  share = 1;
}
const ahead = new Ahead();

function atMost(share: number): void {
  if (share < ahead.share) ahead.share = share;
}

/** The region the free part of the way ahead leads through, so far around. */
function regionAhead(around: number): void {
  const { x, y, share } = ahead;
  const toX = x + ahead.dx * share;
  const toY = y + ahead.dy * share;
  region.left = Math.min(x, toX) - around;
  region.bottom = Math.min(y, toY) - around;
  region.right = Math.max(x, toX) + around;
  region.top = Math.max(y, toY) + around;
}

/** Up to where a player stays on the flat part of the wall that blocks it to a side, or up or down. */
function lookAlongWall({ scratch }: Session, item: number, blocked: 'x' | 'y'): void {
  const { solids } = scratch;
  const from = blocked === 'x' ? ahead.y - (solids.y[item] as number) : ahead.x - (solids.x[item] as number);
  const way = blocked === 'x' ? ahead.dy : ahead.dx;
  const half = ((blocked === 'x' ? solids.halfHeight[item] : solids.halfWidth[item]) as number) - MARGIN;
  if (from < -half || from > half) ahead.share = 0;
  else if (way !== 0) atMost((way > 0 ? half - from : half + from) / Math.abs(way));
}

/** Near solids that move nobody glides. */
function lookAtMovingSolids({ compiled, scratch }: Session, steps: number): void {
  const { solids } = scratch;
  if (solids.firstMoving === solids.x.length) return;
  regionAhead(compiled.hull.radius + compiled.fastest * compiled.stepSeconds * steps + MARGIN);
  for (let item = solids.firstMoving; item < solids.x.length; item += 1) if (mayBeIn(solids, item, region)) ahead.share = 0;
}

/** Up to where no solid is met, the wall slid along excepted. */
function lookAtSolids({ compiled, scratch }: Session, along: number): void {
  const { solids } = scratch;
  toward.radius = compiled.hull.radius + THIN;
  toward.dx = ahead.dx;
  toward.dy = ahead.dy;
  regionAhead(toward.radius);
  const count = gatherSolids(solids);
  for (let k = 0; k < count; k += 1) {
    const item = gathered[k] as number;
    if (item === along || solids.on[item] === 0) continue;
    toward.x = ahead.x - (solids.x[item] as number);
    toward.y = ahead.y - (solids.y[item] as number);
    toward.halfWidth = solids.halfWidth[item] as number;
    toward.halfHeight = solids.halfHeight[item] as number;
    if (sweepDiscBox(toward, span)) atMost(span.enter);
  }
}

/** Up to where of `relative`, a player's motion seen from a thing, its contact with it cannot change; left in `span.leave`. */
function lookAtContact({ compiled, state }: Session, placement: number, touches: boolean): void {
  const { forms, shapes } = compiled;
  const form = state.form[placement] as number;
  relative.grow = (forms.grow[form] as number) + (touches ? -MARGIN : MARGIN);
  const end = forms.shapeStart[form + 1] as number;
  let share = touches ? 0 : 1;
  for (let shape = forms.shapeStart[form] as number; shape < end; shape += 1) {
    if (!sweepShapes(shapes, 0, shape, relative, span)) continue;
    if (!touches) share = Math.min(share, span.enter);
    else if (span.enter === 0) share = Math.max(share, span.leave);
  }
  span.leave = share;
}

/** Whether contact may change within what a thing covers: it turns, or has zones. */
function mayChangeWithin({ compiled: { forms } }: Session, form: number): boolean {
  return forms.turns[form] === 1 || forms.zones[form] !== 0;
}

/** Up to where no contact with anything that stays changes. */
function lookAtStills(session: Session, player: number): void {
  const { compiled, state } = session;
  const { x, y } = compiled.placements;
  regionAhead(compiled.bodyReach + 2 * MARGIN);
  const found = compiled.stillGrid.query(region);
  for (let k = 0; k < found && ahead.share > 0; k += 1) {
    const placement = compiled.stillPlacement[compiled.stillGrid.found[k] as number] as number;
    if (mayChangeWithin(session, state.form[placement] as number)) ahead.share = 0;
    relative.x = ahead.x - (x[placement] as number);
    relative.y = ahead.y - (y[placement] as number);
    relative.dx = ahead.dx;
    relative.dy = ahead.dy;
    lookAtContact(session, placement, findPair(session, player, placement) >= 0);
    atMost(span.leave);
  }
}

/** Up to where no goal that is a place is reached. */
function lookAtGoals({ compiled }: Session): void {
  for (const goal of compiled.goals) {
    if (goal.type !== GOAL.reach) continue;
    toward.x = ahead.x - goal.x;
    toward.y = ahead.y - goal.y;
    toward.dx = ahead.dx;
    toward.dy = ahead.dy;
    toward.radius = goal.value + MARGIN;
    if (sweepCircle(toward, span)) atMost(span.enter);
  }
}

/** Whether the way ahead, whose region is in `region`, comes near what a mover on its path ever covers. */
function crossesPath({ compiled: { movers } }: Session, path: number, reach: number): boolean {
  const at = path * 4;
  return (
    (movers.range[at] as number) - reach <= region.right &&
    (movers.range[at + 2] as number) + reach >= region.left &&
    (movers.range[at + 1] as number) - reach <= region.top &&
    (movers.range[at + 3] as number) + reach >= region.bottom
  );
}

/** Up to where, in so many steps, the contact with something that follows a path does not change. */
function lookAtPath(session: Session, path: number, placement: number, touches: boolean, steps: number): void {
  const { compiled, state, scratch } = session;
  const track = scratch.longTrack;
  window.from = (state.clock[CLOCK.step] as number) * compiled.stepSeconds;
  window.to = window.from + steps * compiled.stepSeconds;
  moverTrack(compiled.movers, path, window, track);
  // Too many corners to be told apart: no promise is made.
  if (track.count >= track.at.length) ahead.share = 0;
  for (let k = 0; k < track.count - 1; k += 1) {
    const begin = track.at[k] as number;
    const length = (track.at[k + 1] as number) - begin;
    relative.x = ahead.x + ahead.dx * begin - (track.x[k] as number);
    relative.y = ahead.y + ahead.dy * begin - (track.y[k] as number);
    relative.dx = ahead.dx * length - ((track.x[k + 1] as number) - (track.x[k] as number));
    relative.dy = ahead.dy * length - ((track.y[k + 1] as number) - (track.y[k] as number));
    lookAtContact(session, placement, touches);
    if (span.leave === 1) continue;
    atMost(begin + span.leave * length);
    return;
  }
}

/** Up to where, in so many steps, the contact with something that drifts or rests does not change: exactly while it keeps its course, then at the least. */
function lookAtCourse(session: Session, player: number, traveller: number, placement: number, form: number, steps: number): void {
  const { compiled, state, scratch } = session;
  const { courses } = scratch;
  nearestBoundary(session, player, placement);
  const closing = Math.sqrt(ahead.dx * ahead.dx + ahead.dy * ahead.dy) / steps + travelSpeed(session, traveller) * compiled.stepSeconds;
  const safe = closing > 0 ? (nearest.distance - MARGIN) / closing : steps;
  if (safe >= steps) return;
  const even = Math.min(steps, (courses.until[traveller] as number) - (state.clock[CLOCK.step] as number));
  if (even <= safe || mayChangeWithin(session, form)) {
    atMost(safe / steps);
    return;
  }
  relative.x = ahead.x - placeX(session, placement);
  relative.y = ahead.y - placeY(session, placement);
  relative.dx = (ahead.dx * even) / steps - (courses.wayX[traveller] as number) * even;
  relative.dy = (ahead.dy * even) / steps - (courses.wayY[traveller] as number) * even;
  lookAtContact(session, placement, findPair(session, player, placement) >= 0);
  if (span.leave < 1 || even < steps) atMost((span.leave * even) / steps);
}

/** Up to where nothing that travels comes to, or from, touching the player, in so many steps. */
function lookAtTravellers(session: Session, player: number, steps: number): void {
  const { compiled, state, scratch } = session;
  const { placement: placements, path: paths } = compiled.travellers;
  const { cells } = scratch.courses;
  const around = compiled.bodyReach + 2 * MARGIN;
  regionAhead(around + compiled.fastest * compiled.stepSeconds * steps);
  const found = gatherCourses(scratch.courses, region);
  regionAhead(around);
  for (let k = 0; k < found && ahead.share > 0; k += 1) {
    const traveller = cells.found[k] as number;
    // What is drawn to somebody is looked at in each step.
    if (state.drawnBy[traveller] !== -1) continue;
    const placement = placements[traveller] as number;
    const form = state.form[placement] as number;
    const path = paths[traveller] as number;
    if (path < 0) lookAtCourse(session, player, traveller, placement, form, steps);
    else if (crossesPath(session, path, compiled.forms.touchReach[form] as number)) {
      if (mayChangeWithin(session, form)) ahead.share = 0;
      lookAtPath(session, path, placement, findPair(session, player, placement) >= 0, steps);
    }
  }
}

/** For how many more steps nothing comes in the way of a player whose motion is steady. */
export function stepsAhead(session: Session, player: number, motion: PlayerMotion): number {
  const { state, compiled } = session;
  const { wayX: dx, wayY: dy, along } = motion;
  const way = Math.sqrt(dx * dx + dy * dy);
  const most = way > 0 ? Math.min(LONGEST, Math.max(1, Math.floor(FAR / way))) : LONGEST;
  ahead.x = state.playerX[player] as number;
  ahead.y = state.playerY[player] as number;
  ahead.dx = dx * most;
  ahead.dy = dy * most;
  ahead.share = 1;
  lookAtMovingSolids(session, most);
  lookAtSolids(session, along);
  if (along >= 0) lookAlongWall(session, along, dx === motion.x ? 'y' : 'x');
  if (compiled.goals.length > 0) lookAtGoals(session);
  if (ahead.share > 0) lookAtStills(session, player);
  if (ahead.share > 0) lookAtTravellers(session, player, most);
  return ahead.share >= 1 ? most : Math.floor(ahead.share * most);
}
