import { gathered, gatherSolids, mayBeIn, met, region, regionAround, slide, Vector, type Track } from '../../geometry/index.ts';
import { MOVEMENT, MOVEMENT_COUNT } from '../compile/codes.ts';
import { noteMotion } from './glide.ts';
import { firstPair } from '../contact/contacts.ts';
import { NONE } from '../state/lines.ts';
import { movementOf } from '../rules/modifiers.ts';
import type { PlayerMotion, Session } from '../state/running.ts';
import { CLOCK } from '../state/state.ts';

/** A key held in full. */
const FULL = 127;

/** What the keys ask for, as a direction no longer than 1. Answers with one object for all wishes of a session. */
export function readWish(session: Session, player: number, moveX: number, moveY: number): Vector {
  const { compiled, state } = session;
  const { wish } = session.scratch;
  const locked = (state.clock[CLOCK.step] as number) <= (state.lockUntil[player] as number);
  const control = locked ? 0 : Math.min(1, movementOf(session, player, MOVEMENT.control));
  wish.x = (moveX / FULL) * control;
  wish.y = compiled.side ? 0 : (moveY / FULL) * control;
  const length = Math.sqrt(wish.x * wish.x + wish.y * wish.y);
  if (length <= 1) return wish;
  wish.x /= length;
  wish.y /= length;
  return wish;
}

/** A player faces the way it is asked to go. */
export function face({ state, scratch: { wish } }: Session, player: number): void {
  if (wish.x === 0 && wish.y === 0) return;
  const length = Math.sqrt(wish.x * wish.x + wish.y * wish.y);
  state.facingX[player] = wish.x / length;
  state.facingY[player] = wish.y / length;
}

/** Works out what the keys ask for, once for as long as they stay the same. */
function keepWish(session: Session, player: number, motion: PlayerMotion, moveX: number, moveY: number, control: number): void {
  const wish = readWish(session, player, moveX, moveY);
  motion.wishFor.x = moveX;
  motion.wishFor.y = moveY;
  motion.wishFor.control = control;
  motion.wishX = wish.x;
  motion.wishY = wish.y;
  face(session, player);
}

/** How far around a body solids are looked for, to learn how far it can go without meeting one. Units. */
const LOOK_AROUND = 2;

/** How far a body is from a solid. Units. */
function gapTo({ compiled, scratch, state }: Session, player: number, item: number): number {
  const { solids } = scratch;
  const awayX = Math.abs((state.playerX[player] as number) - (solids.x[item] as number)) - (solids.halfWidth[item] as number);
  const awayY = Math.abs((state.playerY[player] as number) - (solids.y[item] as number)) - (solids.halfHeight[item] as number);
  const x = Math.max(0, awayX);
  const y = Math.max(0, awayY);
  return Math.sqrt(x * x + y * y) - compiled.hull.radius;
}

/** Works out how far a player can go before it can meet a solid, and before it can meet any but the nearest. */
function freeWay(session: Session, player: number, motion: PlayerMotion): void {
  const { compiled, scratch, state } = session;
  const around = LOOK_AROUND + compiled.hull.radius;
  regionAround(state.playerX[player] as number, state.playerY[player] as number, around, around);
  const count = gatherSolids(scratch.solids);
  let least = LOOK_AROUND;
  let next = LOOK_AROUND;
  motion.nearSolid = NONE;
  for (let k = 0; k < count; k += 1) {
    const item = gathered[k] as number;
    // Those that move are looked for in each step.
    if (item >= scratch.solids.firstMoving) continue;
    const gap = gapTo(session, player, item);
    if (gap < least) {
      next = least;
      least = gap;
      motion.nearSolid = item;
    } else if (gap < next) next = gap;
  }
  motion.solidSlack = least - 1e-6;
  motion.besideSlack = next - 1e-6;
}

/** Whether a solid that moves may be met in this step, or meet the player. */
function movesNear({ compiled, state, scratch: { solids } }: Session, player: number): boolean {
  const speed = state.movement[player * MOVEMENT_COUNT + MOVEMENT.speed] as number;
  const velocity = Math.abs(state.velocityX[player] as number) + Math.abs(state.velocityY[player] as number);
  const around = compiled.hull.radius + (2 * speed + velocity) * compiled.stepSeconds + 1e-3;
  regionAround(state.playerX[player] as number, state.playerY[player] as number, around, around);
  for (let item = solids.firstMoving; item < solids.x.length; item += 1) if (mayBeIn(solids, item, region)) return true;
  return false;
}

/** Whether a player may `walk`: its keys are free, and it is inside nothing that could push or carry it. */
export function mayWalk(session: Session, player: number): boolean {
  const { compiled, state, scratch, exhaustive } = session;
  if (compiled.side || compiled.solidsApart || exhaustive || (state.clock[CLOCK.step] as number) <= (state.lockUntil[player] as number))
    return false;
  if (scratch.solids.firstMoving < scratch.solids.x.length && movesNear(session, player)) return false;
  if (!compiled.pushesOrCarries) return true;
  const pairs = state.clock[CLOCK.pairs] as number;
  for (let pair = firstPair(session, player); pair < pairs && state.pairToucher[pair] === player; pair += 1) {
    const form = state.form[state.pairPlacement[pair] as number] as number;
    if (form >= 0 && compiled.forms.drives[form] === 1) return false;
  }
  return true;
}

/**
 * The short way for what players do most: seen from above, nothing pushing or carrying. Gives what `movePlayer` would, to
 * the bit. The length of the player's way, or more, is left in its motion, in units.
 */
export function walk(session: Session, player: number, moveX: number, moveY: number): void {
  const { compiled, state, scratch } = session;
  const { movement } = state;
  const from = player * MOVEMENT_COUNT;
  const control = Math.min(1, movement[from + MOVEMENT.control] as number);
  const own = scratch.motions[player] as PlayerMotion;
  const { wishFor } = own;
  if (wishFor.x !== moveX || wishFor.y !== moveY || wishFor.control !== control) keepWish(session, player, own, moveX, moveY, control);
  const { wishX, wishY } = own;
  const seconds = compiled.stepSeconds;
  const speed = movement[from + MOVEMENT.speed] as number;
  // Adding nought turns −0 into 0, as pushes of nought do in `movePlayer`.
  const fromX = (state.velocityX[player] as number) + 0;
  const fromY = (state.velocityY[player] as number) + 0;
  const changeX = wishX * speed - fromX;
  const changeY = wishY * speed - fromY;
  const acceleration = (wishX !== 0 || wishY !== 0 ? movement[from + MOVEMENT.acceleration] : compiled.braking) as number;
  const change = Math.sqrt(changeX * changeX + changeY * changeY);
  const turning = acceleration > 0 ? Math.min(seconds, change / acceleration) : seconds;
  const share = change > 0 ? (acceleration * turning) / change : 0;
  let velocityX = fromX + changeX * share;
  let velocityY = fromY + changeY * share;
  const dx = ((fromX + velocityX) / 2) * turning + velocityX * (seconds - turning) + 0;
  const dy = ((fromY + velocityY) / 2) * turning + velocityY * (seconds - turning) + 0;
  const x = state.playerX[player] as number;
  const y = state.playerY[player] as number;
  let toX = x + dx;
  let toY = y + dy;
  const track = scratch.tracks[player] as Track;
  // A hair more than it is, since rounding may eat some.
  const way = Math.sqrt(dx * dx + dy * dy) + 1e-9;
  const slack = own.solidSlack - way;
  own.solidSlack = slack;
  // Sliding, a body is put a hair off each wall.
  const beside = own.besideSlack - way - 1e-6;
  own.besideSlack = beside;
  if (slack > 0) {
    track.count = 2;
    track.at[0] = 0;
    track.x[0] = x;
    track.y[0] = y;
    track.at[1] = 1;
    track.x[1] = toX;
    track.y[1] = toY;
    state.floor[player] = NONE;
    met.count = 0;
  } else {
    const { body } = scratch;
    body.x = x;
    body.y = y;
    body.velocityX = velocityX;
    body.velocityY = velocityY;
    body.wayX = dx;
    body.wayY = dy;
    slide(scratch.solids, compiled.hull, body, track, beside > 0 ? own.nearSolid : NONE);
    toX = body.x;
    toY = body.y;
    velocityX = body.velocityX;
    velocityY = body.velocityY;
    // Seen from above nothing is stood on.
    state.floor[player] = NONE;
  }
  own.steady = velocityX === state.velocityX[player] && velocityY === state.velocityY[player];
  if (own.steady) noteMotion(own, dx, dy, moveX, moveY);
  const wentX = toX - x;
  const wentY = toY - y;
  state.playerX[player] = toX;
  state.playerY[player] = toY;
  state.velocityX[player] = velocityX;
  state.velocityY[player] = velocityY;
  state.distance[player] = (state.distance[player] as number) + Math.sqrt(wentX * wentX + wentY * wentY);
  if (slack <= 0) {
    if (beside <= 0) freeWay(session, player, own);
    else if (met.count === 0) own.solidSlack = Math.min(beside, gapTo(session, player, own.nearSolid) - 1e-6);
  }
  own.gone = way;
}
