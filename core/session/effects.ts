import { DIRECTION, EFFECT, ENDING, LASTS, LIFE, LINE, REASON } from './codes.ts';
import { speedOf } from './conditions.ts';
import { findPair } from './contacts.ts';
import { changeItems, hold, itemsOf } from './items.ts';
import { die, protect, putPlayer } from './life.ts';
import { addLink, LINK } from './links.ts';
import { NONE, note, notePlace, refuse, refuseNoPlayer, writeLine } from './lines.ts';
import { amountOf, amounts, changeMeter, noteLimit, outOfHealth, refuseStopped, stoppedBy } from './meters.ts';
import { addChange } from './movement.ts';
import { dueAt } from './phases.ts';
import { findDestination, place } from './places.ts';
import type { Session } from './running.ts';
import { CLOCK } from './state.ts';
import { disturb, placeX, placeY } from './things.ts';

function lastLine(session: Session): number {
  return (session.state.clock[CLOCK.lines] as number) - 1;
}

function runMeter(session: Session, player: number, placement: number, rule: number, effect: number, cause: number): void {
  const stopped = stoppedBy(session, player, placement, effect);
  if (stopped !== NONE) {
    refuseStopped(session, player, placement, rule, stopped);
    return;
  }
  changeMeter(session, player, placement, effect, 1);
  const meter = session.compiled.effects.subject[effect] as number;
  const { asked, applied, before, after } = amounts;
  const line = writeLine(session, LINE.changed, player, placement, rule, meter, NONE, asked, applied, before, after, cause, NONE);
  noteLimit(session, player, meter, line);
  if (outOfHealth(session, player)) die(session, player, placement, line, NONE);
}

function runLaunch(session: Session, player: number, placement: number, rule: number, effect: number, cause: number): void {
  const { compiled, state } = session;
  const { effects } = compiled;
  let x = effects.x[effect] as number;
  let y = effects.y[effect] as number;
  if (effects.lasts[effect] === DIRECTION.away) {
    const fromX = placement < 0 ? 0 : (state.playerX[player] as number) - placeX(session, placement);
    const fromY = placement < 0 ? 1 : (state.playerY[player] as number) - placeY(session, placement);
    const length = Math.sqrt(fromX * fromX + fromY * fromY);
    x = length > 0 ? fromX / length : 0;
    y = length > 0 ? fromY / length : 1;
  } else if (effects.lasts[effect] === DIRECTION.along) {
    x = state.facingX[player] as number;
    y = state.facingY[player] as number;
  }
  const strength = amountOf(session, player, placement, effect);
  const before = speedOf(session, player);
  const adds = effects.mode[effect] === 1 ? 1 : 0;
  state.velocityX[player] = adds * (state.velocityX[player] as number) + x * strength;
  state.velocityY[player] = adds * (state.velocityY[player] as number) + y * strength;
  state.floor[player] = NONE;
  state.lateUntil[player] = 0;
  state.jumping[player] = 0;
  disturb(session);
  const after = speedOf(session, player);
  writeLine(session, LINE.launched, player, placement, rule, NONE, NONE, strength, 0, before, after, cause, NONE);
}

function runMove(session: Session, player: number, placement: number, rule: number, effect: number, cause: number): void {
  const { compiled, state } = session;
  const { effects } = compiled;
  findDestination(session, effects.destination[effect] as number, player, placement, rule);
  putPlayer(session, player, place.x, place.y + (compiled.side ? (effects.value[effect] as number) : 0));
  if (effects.mode[effect] === 0) {
    state.velocityX[player] = 0;
    state.velocityY[player] = 0;
  }
  const [x, y] = [state.playerX[player] as number, state.playerY[player] as number];
  const line = notePlace(session, LINE.moved, player, placement, rule, NONE, x, y, cause, NONE);
  if (place.crowded) note(session, LINE.crowded, player, placement, rule, NONE, line, NONE);
  protect(session, player, effects.steps[effect] as number, effects.moreSteps[effect] as number);
}

function runKill(session: Session, player: number, placement: number, rule: number, effect: number, cause: number): void {
  const { compiled, state } = session;
  const step = state.clock[CLOCK.step] as number;
  const grace = step < (state.graceUntil[player] as number);
  const shield = compiled.effects.blockable[effect] === 1 && step < (state.shieldUntil[player] as number);
  if (grace || shield) refuseStopped(session, player, placement, rule, grace ? REASON.grace : REASON.blocked);
  else die(session, player, placement, cause, compiled.effects.destination[effect] as number);
}

function runCheckpoint(session: Session, player: number, placement: number, rule: number, effect: number, cause: number): void {
  const { compiled, state } = session;
  const point = compiled.effects.subject[effect] as number;
  const x =
    point >= 0 ? (compiled.points.x[point] as number) : placement < 0 ? (state.playerX[player] as number) : placeX(session, placement);
  const y =
    point >= 0 ? (compiled.points.y[point] as number) : placement < 0 ? (state.playerY[player] as number) : placeY(session, placement);
  if (state.checkpointX[player] === x && state.checkpointY[player] === y) {
    refuse(session, player, placement, rule, REASON.alreadyPresent, NONE, NONE);
    return;
  }
  state.checkpointX[player] = x;
  state.checkpointY[player] = y;
  notePlace(session, LINE.checkpoint, player, placement, rule, NONE, x, y, cause, NONE);
}

function runItem(session: Session, player: number, placement: number, rule: number, effect: number, cause: number): void {
  const { effects, items } = session.compiled;
  const item = effects.subject[effect] as number;
  const count = effects.value[effect] as number;
  const line = changeItems(session, player, placement, rule, item, count, effects.mode[effect] === 1, cause);
  if (line === NONE || effects.blockable[effect] === 0 || items.holdable[item] === 0) return;
  if (itemsOf(session, player, item) > 0) hold(session, player, item, line);
}

function runShield(session: Session, player: number, placement: number, rule: number, effect: number, cause: number): void {
  const { state, compiled } = session;
  const until = (state.clock[CLOCK.step] as number) + (compiled.effects.steps[effect] as number);
  state.shieldUntil[player] = Math.max(until, state.shieldUntil[player] as number);
  dueAt(session, state.shieldUntil[player]);
  note(session, LINE.shield, player, placement, rule, 1, cause, state.shieldUntil[player]);
}

/** One effect on one player. */
function runOnPlayer(session: Session, player: number, placement: number, rule: number, effect: number, cause: number): void {
  const { compiled, state } = session;
  if (state.life[player] !== LIFE.alive) {
    refuse(session, player, placement, rule, REASON.dead, NONE, NONE);
    return;
  }
  switch (compiled.effects.op[effect]) {
    case EFFECT.meter:
      runMeter(session, player, placement, rule, effect, cause);
      break;
    case EFFECT.item:
      runItem(session, player, placement, rule, effect, cause);
      break;
    case EFFECT.movement:
      if (compiled.effects.lasts[effect] === LASTS.while && placement >= 0 && findPair(session, player, placement) < 0) break;
      addChange(session, player, placement, rule, effect);
      break;
    case EFFECT.launch:
      runLaunch(session, player, placement, rule, effect, cause);
      break;
    case EFFECT.move:
      runMove(session, player, placement, rule, effect, cause);
      break;
    case EFFECT.kill:
      runKill(session, player, placement, rule, effect, cause);
      break;
    case EFFECT.checkpoint:
      runCheckpoint(session, player, placement, rule, effect, cause);
      break;
    case EFFECT.shield:
      runShield(session, player, placement, rule, effect, cause);
      break;
    // A push goes on while inside: it is summed up when the player moves.
    default:
  }
}

function runOnNobody(session: Session, toucher: number, placement: number, rule: number, effect: number, cause: number): boolean {
  const { effects } = session.compiled;
  const subject = effects.subject[effect] as number;
  switch (effects.op[effect]) {
    case EFFECT.notice: {
      const line = note(session, LINE.notice, toucher, placement, rule, subject, cause, NONE);
      addLink(session, LINK.notice, subject, placement, toucher, line);
      return true;
    }
    case EFFECT.spawn:
      addLink(session, LINK.spawn, effect, placement, toucher, cause);
      return true;
    case EFFECT.end: {
      const line = lastLine(session);
      session.scratch.mayEnd = true;
      if (effects.mode[effect] === ENDING.won) session.scratch.won = Math.max(session.scratch.won, line, 0);
      else session.scratch.lost = Math.max(session.scratch.lost, line, 0);
      return true;
    }
    case EFFECT.flourish:
      note(session, LINE.flourish, toucher, placement, rule, subject, cause, NONE);
      return true;
    default:
      return false;
  }
}

/** Runs one effect of a rule on whoever set it off, or on all players inside. */
function runEffect(session: Session, toucher: number, placement: number, rule: number, effect: number, cause: number): void {
  const { compiled } = session;
  if (runOnNobody(session, toucher, placement, rule, effect, cause)) return;
  if (compiled.rules.hitsAll[rule] === 1 && placement >= 0) {
    for (let player = 0; player < compiled.playerCount; player += 1) {
      if (findPair(session, player, placement) >= 0) runOnPlayer(session, player, placement, rule, effect, cause);
    }
  } else if (toucher < 0 || toucher >= compiled.playerCount) refuseNoPlayer(session, toucher, placement, rule);
  else runOnPlayer(session, toucher, placement, rule, effect, cause);
}

/** Runs the effects of a rule, in order; in a rate all but its meter effects. Returns the last line written, or `cause`. */
export function runEffects(
  session: Session,
  toucher: number,
  placement: number,
  rule: number,
  cause: number,
  exceptMeters: boolean,
): number {
  const { rules, effects } = session.compiled;
  const before = lastLine(session);
  for (let effect = rules.effectStart[rule] as number; effect < (rules.effectStart[rule + 1] as number); effect += 1) {
    if (exceptMeters && effects.op[effect] === EFFECT.meter) continue;
    runEffect(session, toucher, placement, rule, effect, cause);
  }
  const after = lastLine(session);
  return after > before ? after : cause;
}
