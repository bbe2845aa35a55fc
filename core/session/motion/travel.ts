import {
  beginTrack,
  depthIn,
  curveArea,
  extendTrack,
  freeShare,
  rebound,
  region,
  regionAround,
  slide,
  type Hull,
} from '../../geometry/index.ts';
import { GLIDING, LIFE, LINE, PHASE, SET_OFF_BY, TRAVEL } from '../compile/codes.ts';
import { wouldAct, phaseReason } from '../rules/acting.ts';
import { moveSolid } from '../rules/chain.ts';
import { NONE, note } from '../state/lines.ts';
import type { PlayerMotion, Session } from '../state/running.ts';
import { CLOCK, NEVER } from '../state/state.ts';
import { distanceTo, exists, ownTrack, phaseFor, placeX, placeY } from '../state/things.ts';
import { mostSteps } from '../contact/beginCourses.ts';
import { travelSpeed } from '../contact/sensing.ts';
import { flyTo, gatherCourses, takeTurns } from '../state/courses.ts';
import { wakeDrawn, wakeThing } from '../state/waking.ts';

/** A margin for rounding. Units. */
const HAIR = 1e-6;
/** On its way home, drawn by no one. */
const HOMEWARD = -2;

const around: { halfWidth: number; halfHeight: number; radius: number } = { halfWidth: 0, halfHeight: 0, radius: 0 };

/** The body of a thing among solids: a disc as wide as it reaches. */
function hullOf(session: Session, form: number): Hull {
  around.radius = session.compiled.forms.reach[form] as number;
  return around;
}

/** Whether one of a thing's arrival rules would accept a player now. */
function accepts(session: Session, placement: number, player: number): boolean {
  const { compiled, state } = session;
  const { rules, forms } = compiled;
  const form = state.form[placement] as number;
  const phase = phaseFor(session, placement, player);
  for (let rule = forms.ruleStart[form] as number; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
    if (rules.setOffBy[rule] !== SET_OFF_BY.arriving) continue;
    if (wouldAct(session, player, placement, rule, phase)) return true;
  }
  return false;
}

/** The nearest player in reach whom the thing would accept, or −1. One it gave up on must have been out of reach since. */
function attractor(session: Session, traveller: number, placement: number, reach: number): number {
  const { state, compiled } = session;
  const x = placeX(session, placement);
  const y = placeY(session, placement);
  let nearest = Infinity;
  let found = NONE;
  for (let player = 0; player < compiled.playerCount; player += 1) {
    if (state.life[player] !== LIFE.alive) continue;
    const given = traveller * compiled.playerCount + player;
    const far = Math.abs((state.playerX[player] as number) - x) > reach || Math.abs((state.playerY[player] as number) - y) > reach;
    const distance = far ? Infinity : distanceTo(session, player, placement);
    if (distance > reach) state.gaveUp[given] = 0;
    if (distance > reach || distance >= nearest || state.gaveUp[given] === 1 || !accepts(session, placement, player)) continue;
    nearest = distance;
    found = player;
  }
  return found;
}

function drawTo(session: Session, traveller: number, placement: number, player: number): void {
  const { state } = session;
  state.drawnBy[traveller] = player;
  state.drawnFrom[traveller] = (state.clock[CLOCK.step] as number) - 1;
  if (player === NONE) wakeThing(session, placement);
  else wakeDrawn(session, traveller);
  note(session, LINE.drawn, Math.max(NONE, player), placement, NONE, player >= 0 ? 1 : 0, NONE, NONE);
}

/** Begins, goes on or ends being drawn. */
function chooseTarget(session: Session, traveller: number, placement: number): void {
  const { compiled, state } = session;
  const { magnets } = compiled;
  const form = state.form[placement] as number;
  const by = state.drawnBy[traveller] as number;
  if (by >= 0 && phaseFor(session, placement, by) !== PHASE.ready) {
    // Taken, or otherwise not to be had: nothing to say.
    state.drawnBy[traveller] = NONE;
    wakeThing(session, placement);
    return;
  }
  if (by >= 0) {
    const distance = distanceTo(session, by, placement);
    const far = distance > (magnets.giveUp[form] as number) || (magnets.latched[form] === 0 && distance > (magnets.reach[form] as number));
    if (!far && state.life[by] === LIFE.alive && accepts(session, placement, by)) return;
    state.gaveUp[traveller * compiled.playerCount + by] = distance > (magnets.giveUp[form] as number) ? 1 : 0;
    drawTo(session, traveller, placement, magnets.goesHome[form] === 1 ? HOMEWARD : NONE);
    return;
  }
  const player = attractor(session, traveller, placement, magnets.reach[form] as number);
  if (player !== NONE) drawTo(session, traveller, placement, player);
}

/** Moves a drawn thing by what its curve gives for this step, towards its target; no further than there. */
function pull(session: Session, traveller: number, placement: number): void {
  const { compiled, state, scratch } = session;
  const form = state.form[placement] as number;
  const by = state.drawnBy[traveller] as number;
  const toX = by >= 0 ? (state.playerX[by] as number) : (compiled.placements.x[placement] as number);
  const toY = by >= 0 ? (state.playerY[by] as number) : (compiled.placements.y[placement] as number);
  const { body } = scratch;
  body.x = state.travelX[traveller] as number;
  body.y = state.travelY[traveller] as number;
  body.velocityX = 0;
  body.velocityY = 0;
  const dx = toX - body.x;
  const dy = toY - body.y;
  const distance = Math.sqrt(dx * dx + dy * dy);
  const now = state.clock[CLOCK.step] as number;
  const since = (now - 1 - (state.drawnFrom[traveller] as number)) * compiled.stepSeconds;
  const { speed } = compiled.magnets;
  const way = Math.min(distance, Math.max(0, curveArea(speed, form, since + compiled.stepSeconds) - curveArea(speed, form, since)));
  const share = distance > 0 ? way / distance : 0;
  const track = ownTrack(session, traveller);
  if (compiled.magnets.passesSolids[form] === 1) {
    beginTrack(track, body.x, body.y);
    body.x += dx * share;
    body.y += dy * share;
    extendTrack(track, 1, body.x, body.y);
  } else {
    body.wayX = dx * share;
    body.wayY = dy * share;
    slide(scratch.solids, hullOf(session, form), body, track);
  }
  scratch.trackStep[traveller] = now;
  state.travelX[traveller] = body.x;
  state.travelY[traveller] = body.y;
  if (by === HOMEWARD && distance <= way) {
    state.drawnBy[traveller] = NONE;
    wakeThing(session, placement);
  }
}

/** Steps for which something that drifts cannot meet a solid that moves. */
function stepsToMovingSolids(session: Session, hull: Hull, speed: number): number {
  const { compiled, state, scratch } = session;
  const { solids, body } = scratch;
  let least = NEVER;
  for (let item = solids.firstMoving; item < solids.x.length; item += 1) {
    const owner = compiled.solids.owner[item] as number;
    const traveller = compiled.placements.traveller[owner] as number;
    if ((state.form[owner] as number) < 0) continue;
    if (state.drawnBy[traveller] !== NONE) return 0;
    solids.bring(item);
    const closing = (speed + travelSpeed(session, traveller)) * compiled.stepSeconds;
    least = Math.min(least, Math.floor((-depthIn(solids, hull, item, body.x, body.y) - HAIR) / closing));
  }
  return Math.max(0, least);
}

/** For how many steps something that drifts, and is in `body`, flies freely: it meets no solid. */
function freeSteps(session: Session, hull: Hull): number {
  const { compiled, scratch } = session;
  const { body, solids } = scratch;
  if (session.exhaustive) return 0;
  const { velocityX, velocityY } = body;
  const speed = Math.sqrt(velocityX * velocityX + velocityY * velocityY);
  const steps = Math.min(mostSteps(session, speed * compiled.stepSeconds), stepsToMovingSolids(session, hull, speed));
  if (steps <= 0) return 0;
  body.wayX = velocityX * compiled.stepSeconds * steps;
  body.wayY = velocityY * compiled.stepSeconds * steps;
  const share = freeShare(solids, hull, body, HAIR);
  return share >= 1 ? steps : Math.floor(share * steps);
}

/** One step of something that drifts, rebounding from solids; then how long it flies freely. */
function drift(session: Session, traveller: number, form: number): void {
  const { compiled, state, scratch } = session;
  const { body, courses } = scratch;
  const now = state.clock[CLOCK.step] as number;
  const hull = hullOf(session, form);
  flyTo(session, traveller, now - 1);
  body.x = state.travelX[traveller] as number;
  body.y = state.travelY[traveller] as number;
  body.velocityX = state.travelVelocityX[traveller] as number;
  body.velocityY = state.travelVelocityY[traveller] as number;
  rebound(scratch.solids, hull, body, compiled.stepSeconds, ownTrack(session, traveller));
  scratch.trackStep[traveller] = now;
  state.travelX[traveller] = body.x;
  state.travelY[traveller] = body.y;
  state.travelVelocityX[traveller] = body.velocityX;
  state.travelVelocityY[traveller] = body.velocityY;
  courses.flownTo[traveller] = now;
  courses.wayX[traveller] = body.velocityX * compiled.stepSeconds;
  courses.wayY[traveller] = body.velocityY * compiled.stepSeconds;
  courses.until[traveller] = now + freeSteps(session, hull);
}

/** How far a player goes in each step of a glide, at most. */
const glideWay = (motion: PlayerMotion): number => Math.abs(motion.wayX) + Math.abs(motion.wayY) + HAIR;

/** How much nearer to a magnet a player may have come by its last step. */
const cameNearer = ({ compiled }: Session, motion: PlayerMotion): number =>
  (motion.gone === GLIDING ? glideWay(motion) : motion.gone) + compiled.fastest * compiled.stepSeconds;

/** Whether no player can have come into reach of a magnet since that was last looked at. */
function magnetsFar(session: Session): boolean {
  let far = true;
  for (const motion of session.scratch.motions) {
    const nearer = cameNearer(session, motion);
    motion.magnetSlack -= nearer;
    motion.magnetsKnown -= nearer;
    if (motion.magnetSlack <= 0) far = false;
  }
  return far;
}

/** Whether a thing is in a phase, for a player, in which none of its arrival rules acts: until it changes it draws nobody. */
function isIdle(session: Session, placement: number, player: number): boolean {
  const { compiled, state } = session;
  const { rules, forms } = compiled;
  const form = state.form[placement] as number;
  const phase = phaseFor(session, placement, player);
  for (let rule = forms.ruleStart[form] as number; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
    if (rules.setOffBy[rule] === SET_OFF_BY.arriving && phaseReason(session, placement, rule, phase) === NONE) return false;
  }
  return true;
}

/** How far beyond their reach magnets are looked for, to learn how far a player can go before it comes into one. Units. */
const LOOK_FOR_MAGNETS = 2;

/** Whether something that travels is a magnet that may yet draw somebody, and there: what follows a path draws nobody. */
function isMagnet({ compiled, state }: Session, traveller: number): boolean {
  const form = state.form[compiled.travellers.placement[traveller] as number] as number;
  if (form < 0 || compiled.magnets.has[form] === 0 || compiled.travellers.how[traveller] === TRAVEL.path) return false;
  return state.drawnBy[traveller] === NONE;
}

/** Gathers all magnets in whose reach a player is, or may come before they are gathered again. */
function gatherMagnets(session: Session, player: number): void {
  const { compiled, state, scratch } = session;
  const { courses } = scratch;
  const motion = scratch.motions[player] as PlayerMotion;
  const { magnetsNear } = motion;
  motion.magnetsKnown = compiled.furthestMagnet > 0 ? LOOK_FOR_MAGNETS : Infinity;
  const around = compiled.furthestMagnet + LOOK_FOR_MAGNETS;
  regionAround(state.playerX[player] as number, state.playerY[player] as number, around, around);
  const found = gatherCourses(courses, region);
  magnetsNear.length = 0;
  for (let k = 0; k < found; k += 1) {
    const traveller = courses.cells.found[k] as number;
    if (isMagnet(session, traveller)) magnetsNear.push(traveller);
  }
}

/** Works out how far those players whose slack is used up can go before they may come into reach of a magnet that draws nobody. */
function lookAtMagnets(session: Session): void {
  const { compiled, state, scratch } = session;
  const { magnets, travellers } = compiled;
  // Magnets that begin a course in this step may not yet be found: the next step looks again.
  let known = true;
  for (let k = 0; k < scratch.courses.dueCount; k += 1) if (isMagnet(session, scratch.courses.due[k] as number)) known = false;
  for (let player = 0; player < compiled.playerCount; player += 1) {
    const motion = scratch.motions[player] as PlayerMotion;
    if (!known) motion.magnetsKnown = 0;
    if (motion.magnetSlack > 0) continue;
    let least = motion.magnetsKnown;
    for (const traveller of motion.magnetsNear) {
      if (least <= 0) break;
      if (state.drawnBy[traveller] !== NONE) continue;
      const placement = travellers.placement[traveller] as number;
      const reach = magnets.reach[state.form[placement] as number] as number;
      const slack = distanceTo(session, player, placement) - reach - HAIR;
      if (slack < least && !isIdle(session, placement, player)) least = slack;
    }
    motion.magnetSlack = least;
  }
}

/** Something that drifts, and is drawn by nobody, goes on where its course is over. */
function driftOn(session: Session, traveller: number): void {
  const { compiled, state, scratch } = session;
  const form = state.form[compiled.travellers.placement[traveller] as number] as number;
  if (form < 0 || compiled.travellers.how[traveller] === TRAVEL.path || state.drawnBy[traveller] !== NONE) return;
  if ((compiled.forms.driftSpeed[form] as number) <= 0) return;
  if ((scratch.courses.until[traveller] as number) < (state.clock[CLOCK.step] as number)) drift(session, traveller, form);
}

/** Where one traveller goes within this step. Those along paths are worked out when asked for. */
function moveTraveller(session: Session, traveller: number): void {
  const { compiled, state } = session;
  const { travellers, magnets, placements } = compiled;
  const placement = travellers.placement[traveller] as number;
  if (travellers.how[traveller] === TRAVEL.path) return;
  if (!exists(session, placement)) return;
  const form = state.form[placement] as number;
  const now = state.clock[CLOCK.step] as number;
  if (magnets.has[form] === 1) chooseTarget(session, traveller, placement);
  if (state.drawnBy[traveller] !== NONE) pull(session, traveller, placement);
  else driftOn(session, traveller);
  if ((placements.solid[placement] as number) < 0) return;
  flyTo(session, traveller, now);
  moveSolid(session, placement);
}

/** Adds a traveller to those that are moved in this step, in their order. */
function addToMove({ scratch }: Session, traveller: number): void {
  const { toMove } = scratch;
  let at = scratch.toMoveCount;
  while (at > 0 && (toMove[at - 1] as number) > traveller) at -= 1;
  if (at > 0 && toMove[at - 1] === traveller) return;
  toMove.copyWithin(at + 1, at, scratch.toMoveCount);
  toMove[at] = traveller;
  scratch.toMoveCount += 1;
}

/** Whether a thing is a magnet at rest into whose reach a player has come. */
function isInReach(session: Session, player: number, traveller: number): boolean {
  const { compiled, state } = session;
  const placement = compiled.travellers.placement[traveller] as number;
  const form = state.form[placement] as number;
  return distanceTo(session, player, placement) <= (compiled.magnets.reach[form] as number);
}

/** Lists all that have to be moved in this step: what stirs, whose course is over, and magnets into whose reach a player may have come. */
function listToMove(session: Session, far: boolean): void {
  const { compiled, scratch } = session;
  const { courses, moving, toMove } = scratch;
  scratch.toMoveCount = scratch.movingCount;
  for (let at = 0; at < scratch.movingCount; at += 1) toMove[at] = moving[at] as number;
  for (let k = 0; k < courses.dueCount; k += 1) addToMove(session, courses.due[k] as number);
  for (let player = 0; player < compiled.playerCount && !far; player += 1) {
    const motion = scratch.motions[player] as PlayerMotion;
    if (motion.magnetSlack > 0) continue;
    if (motion.magnetsKnown <= 0) gatherMagnets(session, player);
    for (const traveller of motion.magnetsNear) if (isInReach(session, player, traveller)) addToMove(session, traveller);
  }
  if (!session.exhaustive) return;
  scratch.toMoveCount = compiled.travellers.count;
  for (let traveller = 0; traveller < compiled.travellers.count; traveller += 1) toMove[traveller] = traveller;
}

/**
 * 3 movers and magnets: where things go within this step. What keeps its course is not looked at, nor are magnets at rest into
 * whose reach no player can have come.
 */
export function moveTravellers(session: Session): void {
  const { state, scratch } = session;
  const { courses } = scratch;
  const now = state.clock[CLOCK.step] as number;
  takeTurns(courses, now);
  const far = magnetsFar(session);
  if (!far || scratch.movingCount > 0 || courses.dueCount > 0 || session.exhaustive) {
    const listed = courses.dueCount;
    listToMove(session, far);
    for (let at = 0; at < scratch.toMoveCount; at += 1) {
      scratch.movedBefore = scratch.toMove[at] as number;
      moveTraveller(session, scratch.movedBefore);
    }
    // What was woken by something that began, or ceased, to be drawn has still to go its way.
    for (let k = listed; k < courses.dueCount; k += 1) {
      const traveller = courses.due[k] as number;
      scratch.movedBefore = traveller;
      if (scratch.trackStep[traveller] !== now) driftOn(session, traveller);
    }
    scratch.movedBefore = NONE;
  }
  courses.moved = now;
  if (!far) lookAtMagnets(session);
}
