import {
  CIRCLE,
  depthIn,
  leaveBox,
  mayBeIn,
  region,
  regionAround,
  shove,
  shoved,
  slide,
  type Track,
  Vector,
} from '../../geometry/index.ts';
import { BUTTON, EFFECT, LIFE, LINE, MOVEMENT, SET_OFF_BY, SQUEEZED } from '../compile/codes.ts';
import { firstPair } from '../contact/contacts.ts';
import { die } from '../rules/life.ts';
import { atPlace, NONE, beginLine, writeLine } from '../state/lines.ts';
import { movementOf } from '../rules/modifiers.ts';
import { isSolidFor, refreshSolid } from '../rules/phases.ts';
import type { PlayerMotion, Session, Steering } from '../state/running.ts';
import { slotOf } from '../rules/spans.ts';
import { CLOCK } from '../state/state.ts';
import { readWish, face } from './walk.ts';
import { exists, placeX, placeY, trackOf } from '../state/things.ts';
import { wakePlayer, wakeSolid } from '../state/waking.ts';

export const createSteering = (): Steering => ({
  pushed: { x: 0, y: 0, accelerationX: 0, accelerationY: 0 },
  carried: new Vector(),
  reached: { velocity: 0, way: 0 },
  motion: new Vector(),
});

/** Sums up the pushes of what a player is inside of. */
function sumPushes(session: Session, player: number): void {
  const { pushed } = session.scratch.steering;
  pushed.x = 0;
  pushed.y = 0;
  pushed.accelerationX = 0;
  pushed.accelerationY = 0;
  const { compiled, state } = session;
  if (!compiled.has.push) return;
  const { rules, forms, effects } = compiled;
  const pairs = state.clock[CLOCK.pairs] as number;
  for (let pair = firstPair(session, player); pair < pairs && state.pairToucher[pair] === player; pair += 1) {
    const form = state.form[state.pairPlacement[pair] as number] as number;
    if (form < 0) continue;
    for (let rule = forms.ruleStart[form] as number; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
      if (rules.setOffBy[rule] !== SET_OFF_BY.inside || state.slotPulses[slotOf(session, pair, rule)] === 0) continue;
      for (let effect = rules.effectStart[rule] as number; effect < (rules.effectStart[rule + 1] as number); effect += 1) {
        if (effects.op[effect] !== EFFECT.push) continue;
        if (effects.mode[effect] === 0) {
          pushed.x += effects.x[effect] as number;
          pushed.y += effects.y[effect] as number;
        } else {
          pushed.accelerationX += effects.x[effect] as number;
          pushed.accelerationY += effects.y[effect] as number;
        }
      }
    }
  }
}

function addCarry(session: Session, placement: number): void {
  const traveller = session.compiled.placements.traveller[placement] as number;
  if (traveller < 0) return;
  const track = trackOf(session, traveller);
  const { carried } = session.scratch.steering;
  carried.x += (track.x[track.count - 1] as number) - (track.x[0] as number);
  carried.y += (track.y[track.count - 1] as number) - (track.y[0] as number);
}

/** What the player stands on carries it: the floor, seen from the side; things that carry, seen from above. */
function sumCarry(session: Session, player: number): void {
  const { compiled, state, scratch } = session;
  const { carried } = scratch.steering;
  carried.x = 0;
  carried.y = 0;
  if (compiled.side) {
    const floor = state.floor[player] as number;
    const owner = floor < 0 ? NONE : (compiled.solids.owner[floor] as number);
    if (owner >= 0 && scratch.solids.on[floor] === 1) addCarry(session, owner);
    return;
  }
  if (!compiled.has.carriers) return;
  const pairs = state.clock[CLOCK.pairs] as number;
  for (let pair = firstPair(session, player); pair < pairs && state.pairToucher[pair] === player; pair += 1) {
    const placement = state.pairPlacement[pair] as number;
    const form = state.form[placement] as number;
    if (form < 0 || compiled.forms.carries[form] === 0 || !standsOn(session, player, placement, form)) continue;
    addCarry(session, placement);
    return;
  }
}

/** Whether a player's place is inside one of a thing's shapes, where both were when the step began. */
function standsOn(session: Session, player: number, placement: number, form: number): boolean {
  const { compiled, state } = session;
  const { shapes, forms } = compiled;
  const traveller = compiled.placements.traveller[placement] as number;
  const track = traveller < 0 ? null : trackOf(session, traveller);
  const x = (state.playerX[player] as number) - (track === null ? placeX(session, placement) : (track.x[0] as number));
  const y = (state.playerY[player] as number) - (track === null ? placeY(session, placement) : (track.y[0] as number));
  for (let shape = forms.shapeStart[form] as number; shape < (forms.shapeStart[form + 1] as number); shape += 1) {
    const px = x - (shapes.x[shape] as number);
    const py = y - (shapes.y[shape] as number);
    if (shapes.type[shape] === CIRCLE) {
      if (px * px + py * py <= (shapes.a[shape] as number) * (shapes.a[shape] as number)) return true;
      continue;
    }
    let inside = true;
    const first = shapes.cornerStart[shape] as number;
    const end = shapes.cornerStart[shape + 1] as number;
    for (let corner = first; corner < end; corner += 1) {
      const next = corner + 1 === end ? first : corner + 1;
      const ax = shapes.cornerX[corner] as number;
      const ay = shapes.cornerY[corner] as number;
      const ex = (shapes.cornerX[next] as number) - ax;
      const ey = (shapes.cornerY[next] as number) - ay;
      if (ex * (py - ay) - ey * (px - ax) < 0) inside = false;
    }
    if (inside) return true;
  }
  return false;
}

/** Moves a player out of the way of boxes that travel, and settles being squeezed. */
function giveWay(session: Session, player: number): void {
  const { compiled, scratch } = session;
  const { solids, body, sideTrack } = scratch;
  for (let item = solids.firstMoving; item < solids.x.length; item += 1) {
    const owner = compiled.solids.owner[item] as number;
    if (solids.on[item] === 0 || !exists(session, owner)) continue;
    regionAround(body.x, body.y, compiled.hull.halfWidth + compiled.hull.radius, compiled.hull.halfHeight + compiled.hull.radius);
    if (!mayBeIn(solids, item, region)) continue;
    solids.bring(item);
    const track = trackOf(session, compiled.placements.traveller[owner] as number);
    const dx = (track.x[track.count - 1] as number) - (track.x[0] as number);
    const dy = (track.y[track.count - 1] as number) - (track.y[0] as number);
    if ((dx === 0 && dy === 0) || !shove(solids, compiled.hull, item, dx, dy, body)) continue;
    body.wayX = shoved.x;
    body.wayY = shoved.y;
    solids.on[item] = 0;
    slide(solids, compiled.hull, body, sideTrack);
    solids.on[item] = 1;
    if (depthIn(solids, compiled.hull, item, body.x, body.y) > 1e-6) squeeze(session, player, owner, item);
  }
}

/** A player inside something solid: out the shortest way, else as the level states. Answers whether the box may be solid. */
function squeeze(session: Session, player: number, placement: number, item: number): boolean {
  const { compiled, state, scratch } = session;
  const { hull } = compiled;
  const width = 2 * (hull.halfWidth + hull.radius);
  if (leaveBox(scratch.solids, hull, scratch.body, item, 2 * width)) return true;
  if (compiled.death.squeezed === SQUEEZED.killed) {
    die(session, player, placement, NONE, NONE);
    return true;
  }
  if (compiled.death.squeezed === SQUEEZED['left in']) return true;
  state.solidLater[placement] = 1;
  scratch.solids.on[item] = 0;
  return false;
}

/** Things that turned solid with someone inside: whoever can is moved out; else the thing waits until it is clear. */
export function settleSolids(session: Session): void {
  const { compiled, state, scratch } = session;
  const { solids, body } = scratch;
  const { owner } = compiled.solids;
  for (let item = 0; item < owner.length; item += 1) {
    const placement = owner[item] as number;
    if (placement < 0 || state.solidLater[placement] === 0) continue;
    if (item >= solids.firstMoving) solids.bring(item);
    state.solidLater[placement] = 0;
    let clear = true;
    for (let player = 0; player < compiled.playerCount; player += 1) {
      if (state.life[player] !== LIFE.alive || !isSolidFor(session, placement, player)) continue;
      const x = state.playerX[player] as number;
      const y = state.playerY[player] as number;
      if (depthIn(solids, compiled.hull, item, x, y) <= 1e-6) continue;
      body.x = x;
      body.y = y;
      clear = squeeze(session, player, placement, item) && clear;
      if (state.life[player] === LIFE.alive && (body.x !== x || body.y !== y)) {
        state.playerX[player] = body.x;
        state.playerY[player] = body.y;
        const about = beginLine(session, LINE.moved, player, placement, NONE);
        atPlace(about, body.x, body.y);
        writeLine(session, about);
        wakePlayer(session, player);
      }
    }
    state.solidLater[placement] = clear ? 0 : 1;
    refreshSolid(session, placement);
    wakeSolid(session, placement);
  }
}

/** Boxes whose phase is kept for each player are on or off as this player has them. */
function solidsFor(session: Session, player: number): void {
  const { compiled, scratch } = session;
  if (!compiled.solidsApart) return;
  const { owner } = compiled.solids;
  for (let item = 0; item < owner.length; item += 1) {
    const placement = owner[item] as number;
    if (placement >= 0) scratch.solids.on[item] = isSolidFor(session, placement, player) ? 1 : 0;
  }
}

/** Even acceleration from one velocity towards another along a line, for so long: velocity and way gone. */
function approach({ reached }: Steering, from: number, to: number, acceleration: number, seconds: number): void {
  const change = to - from;
  const turning = acceleration > 0 ? Math.min(seconds, Math.abs(change) / acceleration) : change === 0 ? 0 : seconds;
  const gained = acceleration > 0 ? Math.sign(change) * acceleration * turning : 0;
  reached.velocity = Math.abs(gained) >= Math.abs(change) ? to : from + gained;
  reached.way = ((from + reached.velocity) / 2) * turning + reached.velocity * (seconds - turning);
}

/** Seen from above: velocity goes towards what is asked for, the same in all directions. */
function steerTop(session: Session, player: number, acceleration: number, speed: number): void {
  const { state, scratch, compiled } = session;
  const { body, wish } = scratch;
  const { pushed, motion } = scratch.steering;
  const seconds = compiled.stepSeconds;
  const fromX = (state.velocityX[player] as number) + pushed.accelerationX * seconds;
  const fromY = (state.velocityY[player] as number) + pushed.accelerationY * seconds;
  const changeX = wish.x * speed - fromX;
  const changeY = wish.y * speed - fromY;
  const change = Math.sqrt(changeX * changeX + changeY * changeY);
  const turning = acceleration > 0 ? Math.min(seconds, change / acceleration) : seconds;
  const share = change > 0 ? (acceleration * turning) / change : 0;
  body.velocityX = fromX + changeX * share;
  body.velocityY = fromY + changeY * share;
  motion.x = ((fromX + body.velocityX) / 2) * turning + body.velocityX * (seconds - turning);
  motion.y = ((fromY + body.velocityY) / 2) * turning + body.velocityY * (seconds - turning);
}

/** Falling for so long under gravity, no faster than the limit: velocity and way gone. Position is v·t + ½·a·t². */
function fall({ reached }: Steering, from: number, gravity: number, limit: number, seconds: number): void {
  const start = Math.max(from, -limit);
  const until = gravity > 0 ? Math.min(seconds, (start + limit) / gravity) : seconds;
  reached.velocity = start - gravity * until;
  reached.way = start * until - 0.5 * gravity * until * until + reached.velocity * (seconds - until);
}

/** Seen from the side: walking, jumping, falling. */
function steerSide(session: Session, player: number, acceleration: number, speed: number, held: number, pressed: number): void {
  const { state, scratch, compiled } = session;
  const { body, wish, steering } = scratch;
  const { pushed, motion, reached } = steering;
  const feel = compiled.level.body;
  const seconds = compiled.stepSeconds;
  const step = state.clock[CLOCK.step] as number;
  const grounded = (state.floor[player] as number) >= 0;
  const grip = grounded ? 1 : feel.airControl;
  approach(steering, (state.velocityX[player] as number) + pushed.accelerationX * seconds, wish.x * speed, acceleration * grip, seconds);
  body.velocityX = reached.velocity;
  motion.x = reached.way;
  let rise = state.velocityY[player] as number;
  if (grounded) state.lateUntil[player] = step + Math.round(feel.lateJump * compiled.rate);
  let jumps = false;
  if ((pressed & BUTTON.jump) !== 0 && (grounded || step <= (state.lateUntil[player] as number))) {
    const control = movementOf(session, player, MOVEMENT.control);
    if (control > 0) {
      rise = movementOf(session, player, MOVEMENT.jump);
      state.lateUntil[player] = 0;
      state.jumping[player] = 1;
      jumps = true;
    }
  }
  if (state.jumping[player] === 1 && rise <= 0) state.jumping[player] = 0;
  if (state.jumping[player] === 1 && (held & BUTTON.jump) === 0 && !jumps) {
    rise *= feel.shortJump;
    state.jumping[player] = 0;
  }
  const gravity = movementOf(session, player, MOVEMENT.gravity);
  fall(steering, rise + pushed.accelerationY * seconds, gravity, feel.fallLimit, seconds);
  body.velocityY = reached.velocity;
  // Standing, one keeps in touch with the ground also without gravity.
  motion.y = grounded && !jumps && reached.way <= 0 ? Math.min(reached.way, -4e-7) : reached.way;
}

/** Shares the way by which a player was carried evenly over the step. */
function spreadCarry(track: Track, x: number, y: number): void {
  for (let k = 0; k < track.count; k += 1) {
    const rest = 1 - (track.at[k] as number);
    track.x[k] = (track.x[k] as number) - x * rest;
    track.y[k] = (track.y[k] as number) - y * rest;
  }
}

/** 4 a player moves. The length of its way, or more, is left in its motion, in units. */
export function movePlayer(session: Session, player: number, moveX: number, moveY: number, held: number, pressed: number): void {
  const { compiled, state, scratch } = session;
  const { body, solids } = scratch;
  const { pushed, motion, carried } = scratch.steering;
  const track = scratch.tracks[player] as Track;
  const feel = compiled.level.body;
  const fromX = state.playerX[player] as number;
  const fromY = state.playerY[player] as number;
  solidsFor(session, player);
  const wish = readWish(session, player, moveX, moveY);
  const asks = wish.x !== 0 || wish.y !== 0;
  face(session, player);
  sumPushes(session, player);
  const acceleration = asks ? movementOf(session, player, MOVEMENT.acceleration) : feel.braking;
  const speed = movementOf(session, player, MOVEMENT.speed);
  const locked = (state.clock[CLOCK.step] as number) <= (state.lockUntil[player] as number);
  if (compiled.side) steerSide(session, player, acceleration, speed, held, locked ? 0 : pressed);
  else steerTop(session, player, acceleration, speed);
  motion.x += pushed.x * compiled.stepSeconds;
  motion.y += pushed.y * compiled.stepSeconds;

  body.x = fromX;
  body.y = fromY;
  let carriedX = 0;
  let carriedY = 0;
  if (solids.firstMoving < solids.x.length || compiled.has.carriers) {
    const { velocityX, velocityY } = body;
    sumCarry(session, player);
    if (carried.x !== 0 || carried.y !== 0) {
      const floor = state.floor[player] as number;
      const on = floor < 0 ? 0 : (solids.on[floor] as number);
      if (floor >= 0) solids.on[floor] = 0;
      body.wayX = carried.x;
      body.wayY = carried.y;
      slide(solids, compiled.hull, body, scratch.sideTrack);
      if (floor >= 0) solids.on[floor] = on;
    }
    giveWay(session, player);
    if (state.life[player] !== LIFE.alive) return;
    carriedX = body.x - fromX;
    carriedY = body.y - fromY;
    body.velocityX = velocityX;
    body.velocityY = velocityY;
  }
  const way = Math.sqrt(motion.x * motion.x + motion.y * motion.y);
  body.wayX = motion.x;
  body.wayY = motion.y;
  slide(solids, compiled.hull, body, track);
  const own = scratch.motions[player] as PlayerMotion;
  own.steady = false;
  own.solidSlack = 0;
  own.besideSlack = 0;
  if (carriedX !== 0 || carriedY !== 0) spreadCarry(track, carriedX, carriedY);
  state.playerX[player] = body.x;
  state.playerY[player] = body.y;
  state.velocityX[player] = body.velocityX;
  state.velocityY[player] = body.velocityY;
  // Seen from above nothing is stood on: what one goes against stops, and is no ground.
  state.floor[player] = session.compiled.side ? body.floor : NONE;
  const dx = body.x - fromX;
  const dy = body.y - fromY;
  const went = Math.sqrt(dx * dx + dy * dy);
  state.distance[player] = (state.distance[player] as number) + went;
  own.gone = Math.max(went, way) + Math.abs(carriedX) + Math.abs(carriedY);
}
