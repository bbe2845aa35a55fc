/**
 * What may be skipped, and who takes that back: the one place for both. Each player carries how far it may go before it can meet
 * anything (its *slack*: of things that stay, of those that travel, of solids, of what lies beside it, of magnets), and *glides* until
 * `glideUntil` while its velocity is steady; each traveller keeps its *course* (`state/courses`) until a step, and the agenda has when it may meet anything.
 *
 * | what happened | who calls | what is looked at again |
 * | --- | --- | --- |
 * | something stands or travels otherwise than was foreseen | `endGlides` | how long players may glide |
 * | a thing changes its phase | `endGlidesAt` | the same, of those who touch it |
 * | players may move otherwise than they did (a change of movement) | `disturb` | that, and whether they are steady |
 * | a player was put somewhere | `wakePlayer` | all that it may meet, and how it moves |
 * | one toucher has to look at all it touches | `wakeToucher` | all that it may meet; a player glides no more |
 * | a thing senses again, or is elsewhere | `wakeTouching` | the same, of those who touch it |
 * | a thing came, went, was moved, began or ceased to travel | `wakeThing` | all that it, who touches it, and every player may meet |
 * | a thing begins to be drawn | `wakeDrawn` | all that it may meet; players look at it in each step |
 * | a box became solid, or ceased to be | `wakeSolid` | how players move, and the courses of what drifts near |
 * | a snapshot was put back | `wakeAll` | everything |
 */
import { region, regionAround, type Solids } from '../../geometry/index.ts';
import { TRAVEL } from '../compile/codes.ts';
import { leaveCell } from './cells.ts';
import { flyTo, gatherCourses, listDue } from './courses.ts';
import type { PlayerMotion, Session } from './running.ts';
import { CLOCK, NEVER } from './state.ts';

/** Whether a magnet has given up on anybody, who has still to go out of its reach. */
function gaveUp({ compiled, state }: Session, traveller: number): boolean {
  const from = traveller * compiled.playerCount;
  for (let at = from; at < from + compiled.playerCount; at += 1) if (state.gaveUp[at] === 1) return true;
  return false;
}

/** Whether a traveller has to be moved in each step: it is drawn, solid, or a magnet that gave somebody up. */
function stirs(session: Session, traveller: number): boolean {
  const { compiled, state } = session;
  const placement = compiled.travellers.placement[traveller] as number;
  if ((state.form[placement] as number) < 0) return false;
  if (compiled.travellers.how[traveller] === TRAVEL.path) return false;
  if ((compiled.placements.solid[placement] as number) >= 0) return true;
  return state.drawnBy[traveller] !== -1 || gaveUp(session, traveller);
}

/** Notes whether a traveller has to be moved in each step: they are listed in their order. */
function listStirring(session: Session, traveller: number): void {
  const { scratch } = session;
  const { moving } = scratch;
  let at = scratch.movingCount;
  while (at > 0 && (moving[at - 1] as number) > traveller) at -= 1;
  const has = at > 0 && moving[at - 1] === traveller;
  const wants = stirs(session, traveller);
  if (has === wants) return;
  moving.copyWithin(wants ? at + 1 : at - 1, at, scratch.movingCount);
  if (wants) moving[at] = traveller;
  scratch.movingCount += wants ? 1 : -1;
}

/** After anything that players may meet otherwise than was foreseen, how long they glide has to be worked out anew. */
export function endGlides({ scratch }: Session): void {
  scratch.stirred = true;
  for (const motion of scratch.motions) motion.glideUntil = 0;
  scratch.quietUntil = 0;
}

/** After a thing has become another to those who touch it, they do not glide on past it. */
export function endGlidesAt(session: Session, placement: number): void {
  const { compiled, state } = session;
  const pairs = state.clock[CLOCK.pairs] as number;
  for (let pair = 0; pair < pairs && (state.pairToucher[pair] as number) < compiled.playerCount; pair += 1) {
    if (state.pairPlacement[pair] === placement) endGlides(session);
  }
}

/** After anything by which players may move otherwise than they did, no one glides on. */
export function disturb(session: Session): void {
  endGlides(session);
  for (const motion of session.scratch.motions) motion.steady = false;
}

/** A traveller begins a new course, and looks at all around it, in the next step. */
function wakeTraveller(session: Session, traveller: number): void {
  const { compiled, state, scratch } = session;
  const { courses } = scratch;
  listStirring(session, traveller);
  listDue(courses, traveller);
  flyTo(session, traveller, courses.moved);
  courses.flownTo[traveller] = NEVER;
  courses.until[traveller] = 0;
  courses.serial[traveller] = (courses.serial[traveller] as number) + 1;
  const placement = compiled.travellers.placement[traveller] as number;
  const there = (state.form[placement] as number) >= 0;
  if (!there) leaveCell(courses.cells, traveller);
  const solid = compiled.placements.solid[placement] as number;
  if (solid >= 0) coverAnything(scratch.solids, solid, there);
}

/** Until it has a course, the box of something that travels may be anywhere; it is nowhere when it is gone. */
function coverAnything({ mayCover, firstMoving }: Solids, solid: number, there: boolean): void {
  const at = (solid - firstMoving) * 4;
  mayCover.fill(there ? -Infinity : Infinity, at, at + 2);
  mayCover.fill(there ? Infinity : -Infinity, at + 2, at + 4);
}

/** A player looks at all that it may meet in the next step. */
function wakeMotion(motion: PlayerMotion): void {
  motion.stillSlack = -Infinity;
  motion.travelSlack = -Infinity;
}

/** A toucher looks at everything again in the next step; a player looks at nothing while it glides. */
export function wakeToucher(session: Session, toucher: number): void {
  const motion = session.scratch.motions[toucher];
  if (motion === undefined) {
    wakeTraveller(session, toucher - session.compiled.playerCount);
    return;
  }
  endGlides(session);
  wakeMotion(motion);
}

/** Everyone who touches a thing looks at everything again in the next step. */
export function wakeTouching(session: Session, placement: number): void {
  const { state } = session;
  const pairs = state.clock[CLOCK.pairs] as number;
  for (let pair = 0; pair < pairs; pair += 1) {
    if (state.pairPlacement[pair] === placement) wakeToucher(session, state.pairToucher[pair] as number);
  }
}

/** A player is elsewhere, or moves otherwise. */
export function wakePlayer(session: Session, player: number): void {
  const motion = session.scratch.motions[player] as PlayerMotion;
  disturb(session);
  wakeMotion(motion);
  motion.solidSlack = 0;
  motion.besideSlack = 0;
  motion.magnetSlack = 0;
  motion.magnetsKnown = 0;
}

/** What rests further than this from a player comes into its way in no glide. Units. */
const FAR_APART = 12;

/** How far something that rests is from coming to touch a player, at least; 0 when it travels. Units. */
function restsApart({ compiled, state }: Session, player: number, traveller: number): number {
  if (traveller < 0 || compiled.travellers.how[traveller] === TRAVEL.path || state.drawnBy[traveller] !== -1) return 0;
  const form = state.form[compiled.travellers.placement[traveller] as number] as number;
  if (form < 0 || (compiled.forms.driftSpeed[form] as number) > 0) return 0;
  const x = (state.playerX[player] as number) - (state.travelX[traveller] as number);
  const y = (state.playerY[player] as number) - (state.travelY[traveller] as number);
  return Math.max(0, Math.sqrt(x * x + y * y) - (compiled.forms.touchReach[form] as number) - compiled.bodyReach);
}

/** A thing begins to be drawn: players look at it in each step, and may go on past all else. */
export function wakeDrawn(session: Session, traveller: number): void {
  wakeTraveller(session, traveller);
}

/** A thing has come, is gone, is elsewhere, or begins or ceases to travel, draw or be drawn. */
export function wakeThing(session: Session, placement: number): void {
  const { compiled, scratch } = session;
  const traveller = compiled.placements.traveller[placement] as number;
  for (let player = 0; player < compiled.playerCount; player += 1) {
    const motion = scratch.motions[player] as PlayerMotion;
    const apart = restsApart(session, player, traveller);
    if (compiled.furthestMagnet > 0) {
      const slack = Math.max(0, apart - compiled.furthestMagnet);
      motion.magnetSlack = Math.min(motion.magnetSlack, slack);
      motion.magnetsKnown = Math.min(motion.magnetsKnown, slack);
    }
    if (apart > FAR_APART) continue;
    endGlides(session);
    if (traveller < 0) motion.stillSlack = -Infinity;
    motion.travelSlack = -Infinity;
  }
  wakeTouching(session, placement);
  if (traveller >= 0) wakeTraveller(session, traveller);
  if ((compiled.placements.solid[placement] as number) >= 0) wakeSolid(session, placement);
}

/** The box of a thing has become solid, has ceased to be, or is elsewhere. */
export function wakeSolid(session: Session, placement: number): void {
  const { compiled, scratch } = session;
  const { solids, courses } = scratch;
  const item = compiled.placements.solid[placement] as number;
  if (item >= solids.firstMoving) solids.bring(item);
  disturb(session);
  for (const motion of scratch.motions) {
    motion.solidSlack = 0;
    motion.besideSlack = 0;
  }
  // Whoever is due may have begun a course in this step, and its box is still that of the one before.
  for (let k = 0; k < courses.dueCount; k += 1) wakeTraveller(session, courses.due[k] as number);
  regionAround(solids.x[item] as number, solids.y[item] as number, solids.halfWidth[item] as number, solids.halfHeight[item] as number);
  const found = gatherCourses(courses, region);
  for (let k = 0; k < found; k += 1) {
    const traveller = courses.cells.found[k] as number;
    if (compiled.travellers.how[traveller] !== TRAVEL.path) wakeTraveller(session, traveller);
  }
}

/** After anything that was foreseen by nothing, everyone looks at everything again in the next step. */
export function wakeAll(session: Session): void {
  const { compiled, scratch, state } = session;
  for (let player = 0; player < compiled.playerCount; player += 1) wakePlayer(session, player);
  for (let traveller = 0; traveller < compiled.travellers.count; traveller += 1) {
    const listed = scratch.courses.cells.of[traveller] !== -1;
    const there = (state.form[compiled.travellers.placement[traveller] as number] as number) >= 0;
    if (listed || there) wakeTraveller(session, traveller);
  }
}
