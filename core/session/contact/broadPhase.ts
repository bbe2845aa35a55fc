import { nearest, region, regionAround } from '../../geometry/index.ts';
import { GLIDING, LIFE } from '../compile/codes.ts';
import type { PlayerMotion, Session } from '../state/running.ts';
import { CLOCK } from '../state/state.ts';
import { gatherCourses, noneIsDue } from '../state/courses.ts';
import { boundTrack } from './bounds.ts';
import { HAIR, nearestBoundary, senseDrawn, senseRest, senseStills, senseTravellers } from './sensing.ts';
import { beginDue, senseDue } from './meetings.ts';

/** How far around a player things are looked at to learn how far it can go undisturbed. Units. */
const LOOK_AROUND = 1.5;

/** Works out how far a player can go before its contacts with things that stay can change. */
function lookAtStills(session: Session, player: number): void {
  const { compiled, state, scratch } = session;
  const x = state.playerX[player] as number;
  const y = state.playerY[player] as number;
  const around = compiled.bodyReach + LOOK_AROUND;
  let slack = LOOK_AROUND;
  regionAround(x, y, around, around);
  const found = compiled.stillGrid.query(region);
  for (let k = 0; k < found; k += 1) {
    nearestBoundary(session, player, compiled.stillPlacement[compiled.stillGrid.found[k] as number] as number);
    slack = Math.min(slack, nearest.distance);
  }
  (scratch.motions[player] as PlayerMotion).stillSlack = slack - HAIR;
}

/** The same for things that travel, but for what is drawn to somebody: that is looked at in each step. */
function lookAtTravellers(session: Session, player: number): void {
  const { compiled, state, scratch } = session;
  const { courses } = scratch;
  const motion = scratch.motions[player] as PlayerMotion;
  let slack = LOOK_AROUND;
  motion.travelSlack = 0;
  const around = compiled.bodyReach + slack;
  regionAround(state.playerX[player] as number, state.playerY[player] as number, around, around);
  const found = gatherCourses(courses, region);
  for (let k = 0; k < found; k += 1) {
    const traveller = courses.cells.found[k] as number;
    if (state.drawnBy[traveller] !== -1) continue;
    nearestBoundary(session, player, compiled.travellers.placement[traveller] as number);
    slack = Math.min(slack, nearest.distance);
    if (slack <= 0) return;
  }
  motion.travelSlack = slack - HAIR;
}

function sensePlayer(session: Session, player: number): void {
  const { compiled, state, scratch } = session;
  const motion = scratch.motions[player] as PlayerMotion;
  const still = motion.stillSlack - motion.gone;
  const travel = motion.travelSlack - motion.gone - compiled.fastest * compiled.stepSeconds;
  motion.stillSlack = still;
  motion.travelSlack = travel;
  const lookStills = still <= 0 || session.exhaustive;
  const lookTravellers = travel <= 0 || session.exhaustive;
  const pairs = state.clock[CLOCK.pairs] as number;
  for (let own = 0; own < pairs && (state.pairToucher[own] as number) <= player; own += 1) {
    if (state.pairToucher[own] === player) state.pairInside[own] = compiled.stepSeconds;
  }
  scratch.senseStamp += 1;
  senseDrawn(session, player);
  if (!lookStills && !lookTravellers) return;
  // Where the nearest boundary is now further away than all has come since, nothing was crossed on the way here.
  const mayCross = lookStills && (lookAtStills(session, player), still === -Infinity || motion.stillSlack <= motion.gone);
  const closing = motion.gone + compiled.fastest * compiled.stepSeconds;
  const mayMeet = lookTravellers && (lookAtTravellers(session, player), travel === -Infinity || motion.travelSlack <= closing);
  if (!mayCross && !mayMeet && !session.exhaustive) return;
  boundTrack(session, player);
  if (mayCross || session.exhaustive) senseStills(session, player);
  if (mayMeet || session.exhaustive) senseTravellers(session, player);
  senseRest(session, player, mayCross || session.exhaustive, mayMeet || session.exhaustive);
}

/** Fills the list of this step's crossings for all players and travellers. */
export function sense(session: Session): void {
  const { compiled, state, scratch } = session;
  const now = state.clock[CLOCK.step] as number;
  scratch.crossings.count = 0;
  beginDue(session);
  for (let player = 0; player < compiled.playerCount; player += 1) {
    const { gone, dropped } = scratch.motions[player] as PlayerMotion;
    // Whoever was put somewhere in this step is looked at in the next.
    if (state.life[player] !== LIFE.alive || dropped) continue;
    if (gone === GLIDING) senseDrawn(session, player);
    else sensePlayer(session, player);
  }
  if (!noneIsDue(scratch.courses, now)) senseDue(session);
}
