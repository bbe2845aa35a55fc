import {
  beginTrack,
  curveArea,
  extendTrack,
  gathered,
  gatherSolids,
  rebound,
  regionAround,
  slide,
  type Hull,
  type Track,
} from '../../geometry/index.ts';
import { GLIDING, LIFE, LINE, PHASE, SET_OFF_BY, TRAVEL } from '../compile/codes.ts';
import { attempted, mayAct, phaseReason } from '../rules/acting.ts';
import { moveSolid } from '../rules/chain.ts';
import { NONE, note } from '../state/lines.ts';
import type { PlayerMotion, Session } from '../state/running.ts';
import { CLOCK } from '../state/state.ts';
import { distanceTo, exists, phaseFor, placeX, placeY, trackOf } from '../state/things.ts';
import { putInCell } from '../state/cells.ts';
import { wakeAll } from '../state/waking.ts';

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
    const attempt = attempted(session, player, placement, rule, phase);
    attempt.supposed = true;
    attempt.quiet = true;
    if (mayAct(session, attempt)) return true;
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
  wakeAll(session);
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
    wakeAll(session);
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
  const track = scratch.tracks[compiled.playerCount + traveller] as Track;
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
    wakeAll(session);
  }
}

/** How far around something that drifts solids are looked for, to learn how long it flies freely. Units. */
const LOOK_AROUND = 6;

/** Steps for which something that drifts cannot meet a solid; 0 where solids move. */
function freeSteps(session: Session, traveller: number, form: number): number {
  const { compiled, state, scratch } = session;
  const { solids } = scratch;
  if (solids.firstMoving < solids.x.length || session.exhaustive) return 0;
  const radius = compiled.forms.reach[form] as number;
  const x = state.travelX[traveller] as number;
  const y = state.travelY[traveller] as number;
  regionAround(x, y, radius + LOOK_AROUND, radius + LOOK_AROUND);
  const count = gatherSolids(solids);
  let gap = LOOK_AROUND;
  for (let k = 0; k < count; k += 1) {
    const item = gathered[k] as number;
    const awayX = Math.max(0, Math.abs(x - (solids.x[item] as number)) - (solids.halfWidth[item] as number));
    const awayY = Math.max(0, Math.abs(y - (solids.y[item] as number)) - (solids.halfHeight[item] as number));
    gap = Math.min(gap, Math.sqrt(awayX * awayX + awayY * awayY) - radius);
  }
  // The hair kept from walls, and one more for rounding.
  return Math.max(0, Math.floor((gap - 2 * HAIR) / ((compiled.forms.driftSpeed[form] as number) * compiled.stepSeconds)));
}

/** A step of free flight: what `rebound` comes to where nothing is met. */
function fly({ compiled, state, scratch }: Session, traveller: number, now: number): void {
  const x = state.travelX[traveller] as number;
  const y = state.travelY[traveller] as number;
  const toX = x + (state.travelVelocityX[traveller] as number) * compiled.stepSeconds;
  const toY = y + (state.travelVelocityY[traveller] as number) * compiled.stepSeconds;
  scratch.flewStep[traveller] = now;
  scratch.flewFromX[traveller] = x;
  scratch.flewFromY[traveller] = y;
  scratch.flewToX[traveller] = toX;
  scratch.flewToY[traveller] = toY;
  state.travelX[traveller] = toX;
  state.travelY[traveller] = toY;
}

/** Something that drifts is found in the cell it has come to. */
function keepInCell({ state, scratch: { cells } }: Session, traveller: number): void {
  if ((cells.of[traveller] as number) >= 0)
    putInCell(cells, traveller, state.travelX[traveller] as number, state.travelY[traveller] as number);
}

function drift(session: Session, traveller: number, form: number): void {
  const { compiled, state, scratch } = session;
  const { body } = scratch;
  const now = state.clock[CLOCK.step] as number;
  if (now <= (scratch.freeUntil[traveller] as number)) {
    fly(session, traveller, now);
    keepInCell(session, traveller);
    return;
  }
  body.x = state.travelX[traveller] as number;
  body.y = state.travelY[traveller] as number;
  body.velocityX = state.travelVelocityX[traveller] as number;
  body.velocityY = state.travelVelocityY[traveller] as number;
  rebound(scratch.solids, hullOf(session, form), body, compiled.stepSeconds, scratch.tracks[compiled.playerCount + traveller] as Track);
  scratch.trackStep[traveller] = now;
  state.travelX[traveller] = body.x;
  state.travelY[traveller] = body.y;
  state.travelVelocityX[traveller] = body.velocityX;
  state.travelVelocityY[traveller] = body.velocityY;
  scratch.freeUntil[traveller] = now + freeSteps(session, traveller, form);
  keepInCell(session, traveller);
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
    motion.magnetSlack -= cameNearer(session, motion);
    if (motion.magnetSlack <= 0) far = false;
  }
  return far;
}

/** For how many of so many steps nothing but what follows paths can move, while all players glide on. */
export function stepsAtRest(session: Session, steps: number): number {
  const { compiled, scratch } = session;
  if (!compiled.movesThings) return steps;
  if (scratch.stirs) return 0;
  let rest = steps;
  for (const motion of scratch.motions) {
    const each = glideWay(motion) + compiled.fastest * compiled.stepSeconds;
    rest = Math.min(rest, Math.floor((motion.magnetSlack - cameNearer(session, motion)) / each));
  }
  if (rest <= 0) return 0;
  // These steps are made without looking at magnets: what they use up is taken off now.
  for (const motion of scratch.motions) motion.magnetSlack -= rest * (glideWay(motion) + compiled.fastest * compiled.stepSeconds);
  return rest;
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

/** Works out how far each player can go before it may come into reach of a magnet that rests and draws nobody. */
function lookAtMagnets(session: Session): void {
  const { compiled, state, scratch } = session;
  const { magnets, forms, travellers } = compiled;
  for (const motion of scratch.motions) motion.magnetSlack = Infinity;
  for (let traveller = 0; traveller < scratch.travelling; traveller += 1) {
    const placement = travellers.placement[traveller] as number;
    const form = state.form[placement] as number;
    if (form < 0 || magnets.has[form] === 0 || state.drawnBy[traveller] !== NONE || (forms.driftSpeed[form] as number) > 0) continue;
    for (let player = 0; player < compiled.playerCount; player += 1) {
      const motion = scratch.motions[player] as PlayerMotion;
      const slack = distanceTo(session, player, placement) - (magnets.reach[form] as number) - HAIR;
      if (slack < motion.magnetSlack && !isIdle(session, placement, player)) motion.magnetSlack = slack;
    }
  }
}

/** Where one traveller goes within this step. Those along paths are worked out when asked for, unless they are solid. */
function moveTraveller(session: Session, traveller: number): void {
  const { compiled, state } = session;
  const { travellers, forms, magnets, placements } = compiled;
  const placement = travellers.placement[traveller] as number;
  const solid = (placements.solid[placement] as number) >= 0;
  if (travellers.how[traveller] === TRAVEL.path) {
    if (solid) {
      trackOf(session, traveller);
      moveSolid(session, placement);
    }
    return;
  }
  if (!exists(session, placement)) return;
  const form = state.form[placement] as number;
  if (magnets.has[form] === 1) chooseTarget(session, traveller, placement);
  if (state.drawnBy[traveller] !== NONE) pull(session, traveller, placement);
  else if ((forms.driftSpeed[form] as number) > 0) drift(session, traveller, form);
  if (solid) moveSolid(session, placement);
}

/** 3 movers and magnets: where things go within this step. Magnets at rest are looked at when a player may have come into their reach. */
export function moveTravellers(session: Session): void {
  const { scratch } = session;
  const far = magnetsFar(session);
  if (!far || session.exhaustive) {
    for (let traveller = 0; traveller < scratch.travelling; traveller += 1) moveTraveller(session, traveller);
    lookAtMagnets(session);
    return;
  }
  // The list is made anew when a thing ceases to be drawn, and the next one then stands in its place.
  for (let at = 0; at < scratch.movingCount;) {
    const traveller = scratch.moving[at] as number;
    moveTraveller(session, traveller);
    if (scratch.moving[at] === traveller && at < scratch.movingCount) at += 1;
  }
}
