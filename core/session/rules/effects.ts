import { DIRECTION, EFFECT, ENDING, LASTS, LIFE, LINE, REASON } from '../compile/codes.ts';
import { speedOf } from './conditions.ts';
import { findPair } from '../contact/contacts.ts';
import { changeItems, hold, itemsOf } from './items.ts';
import { die, noteDisplaced, protect, putPlayer } from './life.ts';
import { addLink, LINK } from '../state/links.ts';
import { atPlace, comeToNothing, NONE, ofMeter, note, writeLine, beginLine } from '../state/lines.ts';
import {
  amountOf,
  cellOf,
  changeMeter,
  closeRegeneration,
  hasGrace,
  isShielded,
  noteChange,
  noteLimit,
  noteStopped,
  outOfHealth,
  stoppedBy,
} from './meters.ts';
import { addChange } from './modifiers.ts';
import { dueAt } from '../state/due.ts';
import { findDestination } from './places.ts';
import type { Call, PlayerMotion, Session } from '../state/running.ts';
import { CLOCK } from '../state/state.ts';
import { placeX, placeY, readPlayerSpot, readThingSpot } from '../state/things.ts';
import { disturb } from '../state/waking.ts';

function runMeter(session: Session, player: number, placement: number, rule: number, effect: number, cause: number): void {
  const stopped = stoppedBy(session, player, placement, effect);
  if (stopped !== NONE) {
    noteStopped(session, player, placement, rule, stopped);
    return;
  }
  const meter = session.compiled.effects.subject[effect] as number;
  closeRegeneration(session, player, meter);
  const { asked, wanted, applied } = changeMeter(session, player, placement, effect, 1);
  if (wanted !== 0 && applied === 0) {
    const about = beginLine(session, LINE.nothing, player, placement, rule);
    about.subject = ofMeter(meter);
    about.reason = wanted > 0 ? REASON.full : REASON.empty;
    about.asked = asked;
    about.cause = cause;
    writeLine(session, about);
    return;
  }
  session.scratch.happened = true;
  const line = noteChange(session, player, placement, rule, meter, cause);
  session.scratch.meterLine[cellOf(session, player, meter)] = line;
  noteLimit(session, player, meter, line);
  if (outOfHealth(session, player)) die(session, player, placement, line, NONE);
}

function runLaunch(session: Session, player: number, placement: number, rule: number, effect: number, cause: number): void {
  const { compiled, state } = session;
  const { effects } = compiled;
  let x = effects.x[effect] as number;
  let y = effects.y[effect] as number;
  if (effects.lasts[effect] === DIRECTION.away) {
    const { x: atX, y: atY } = readPlayerSpot(session, player);
    let [fromX, fromY] = [0, 1];
    if (placement >= 0) {
      const { x: thingX, y: thingY } = readThingSpot(session, placement);
      [fromX, fromY] = [atX - thingX, atY - thingY];
    }
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
  session.scratch.happened = true;
  const about = beginLine(session, LINE.launched, player, placement, rule);
  about.asked = strength;
  about.before = before;
  about.after = after;
  about.cause = cause;
  writeLine(session, about);
}

function runMove(session: Session, player: number, placement: number, rule: number, effect: number, cause: number): void {
  const { compiled, state } = session;
  const { effects } = compiled;
  const place = findDestination(session, effects.destination[effect] as number, player, placement, rule);
  const [toX, toY] = [place.x, place.y + (compiled.side ? (effects.value[effect] as number) : 0)];
  const displaced = putPlayer(session, player, toX, toY);
  if (effects.mode[effect] === 0) {
    state.velocityX[player] = 0;
    state.velocityY[player] = 0;
  }
  const [x, y] = [state.playerX[player] as number, state.playerY[player] as number];
  const about = beginLine(session, LINE.moved, player, placement, rule);
  atPlace(about, x, y);
  about.cause = cause;
  const line = writeLine(session, about);
  (session.scratch.motions[player] as PlayerMotion).movedBy = line;
  session.scratch.happened = true;
  if (place.crowded) note(session, LINE.crowded, player, placement, rule, NONE, line, NONE);
  if (displaced) noteDisplaced(session, player, toX, toY, line);
  protect(session, player, effects.steps[effect] as number, effects.moreSteps[effect] as number);
}

function runKill(session: Session, player: number, placement: number, rule: number, effect: number, cause: number): void {
  const { compiled } = session;
  const grace = hasGrace(session, player);
  const shield = compiled.effects.blockable[effect] === 1 && isShielded(session, player);
  if (grace || shield) {
    noteStopped(session, player, placement, rule, grace ? REASON.grace : REASON.blocked);
    return;
  }
  session.scratch.happened = true;
  die(session, player, placement, cause, compiled.effects.destination[effect] as number);
}

function runCheckpoint(session: Session, player: number, placement: number, rule: number, effect: number, cause: number): void {
  const { compiled, state } = session;
  const point = compiled.effects.subject[effect] as number;
  const x =
    point >= 0 ? (compiled.points.x[point] as number) : placement < 0 ? (state.playerX[player] as number) : placeX(session, placement);
  const y =
    point >= 0 ? (compiled.points.y[point] as number) : placement < 0 ? (state.playerY[player] as number) : placeY(session, placement);
  if (state.checkpointX[player] === x && state.checkpointY[player] === y) {
    comeToNothing(session, player, placement, rule, REASON.alreadyPresent, cause);
    return;
  }
  session.scratch.happened = true;
  state.checkpointX[player] = x;
  state.checkpointY[player] = y;
  const about = beginLine(session, LINE.checkpoint, player, placement, rule);
  atPlace(about, x, y);
  about.cause = cause;
  writeLine(session, about);
}

function runItem(session: Session, player: number, placement: number, rule: number, effect: number, cause: number): void {
  const { effects, items } = session.compiled;
  const item = effects.subject[effect] as number;
  const count = effects.value[effect] as number;
  const line = changeItems(session, player, placement, rule, item, count, effects.mode[effect] === 1, cause);
  if (line !== NONE) session.scratch.happened = true;
  if (line === NONE || effects.blockable[effect] === 0 || items.holdable[item] === 0) return;
  if (itemsOf(session, player, item) > 0) hold(session, player, item, line);
}

function runShield(session: Session, player: number, placement: number, rule: number, effect: number, cause: number): void {
  const { state, compiled } = session;
  const step = state.clock[CLOCK.step] as number;
  const until = step + (compiled.effects.steps[effect] as number);
  if ((state.shieldUntil[player] as number) <= step) state.shieldFrom[player] = step + 1;
  state.shieldUntil[player] = Math.max(until, state.shieldUntil[player] as number);
  session.scratch.happened = true;
  dueAt(session, state.shieldUntil[player]);
  note(session, LINE.shield, player, placement, rule, 1, cause, state.shieldUntil[player]);
}

/** One effect on one player. */
function runOnPlayer(session: Session, player: number, placement: number, rule: number, effect: number, cause: number): void {
  const { compiled, state } = session;
  if (state.life[player] !== LIFE.alive) {
    comeToNothing(session, player, placement, rule, REASON.dead, cause);
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
      if (compiled.effects.lasts[effect] === LASTS.while && placement >= 0 && !isInside(session, player, placement, rule)) break;
      if (addChange(session, player, placement, rule, effect)) session.scratch.happened = true;
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
    default:
      // A push goes on while inside: it is summed up when the player moves.
      session.scratch.happened = true;
  }
}

function runOnNobody(session: Session, toucher: number, placement: number, rule: number, effect: number, cause: number): boolean {
  const { effects } = session.compiled;
  const subject = effects.subject[effect] as number;
  switch (effects.op[effect]) {
    case EFFECT.notice: {
      session.scratch.happened = true;
      const line = note(session, LINE.notice, toucher, placement, rule, subject, cause, NONE);
      addLink(session, LINK.notice, subject, placement, toucher, line);
      return true;
    }
    case EFFECT.spawn:
      session.scratch.happened = true;
      addLink(session, LINK.spawn, effect, placement, toucher, cause);
      return true;
    case EFFECT.end: {
      const { scratch } = session;
      scratch.happened = true;
      scratch.mayEnd = true;
      const call = effects.mode[effect] === ENDING.won ? scratch.won : scratch.lost;
      if (!call.made) Object.assign(call, { made: true, toucher, placement, rule, cause } satisfies Call);
      return true;
    }
    case EFFECT.flourish:
      note(session, LINE.flourish, toucher, placement, rule, subject, cause, NONE);
      return true;
    default:
      return false;
  }
}

/** Whether a player touches a thing, or the zone of it a rule is tied to. */
function isInside(session: Session, player: number, placement: number, rule: number): boolean {
  return findPair(session, player, placement, session.compiled.rules.zone[rule]) >= 0;
}

/** Whether a rule that hits all inside finds anybody there. */
function anybodyInside(session: Session, placement: number, rule: number): boolean {
  for (let player = 0; player < session.compiled.playerCount; player += 1) if (isInside(session, player, placement, rule)) return true;
  return false;
}

/** Runs one effect of a rule on whoever set it off, or on all players inside. */
function runEffect(session: Session, toucher: number, placement: number, rule: number, effect: number, cause: number): void {
  const { compiled } = session;
  if (runOnNobody(session, toucher, placement, rule, effect, cause)) return;
  if (compiled.rules.hitsAll[rule] === 1 && placement >= 0) {
    if (!anybodyInside(session, placement, rule)) {
      comeToNothing(session, toucher, placement, rule, REASON.nobodyThere, cause);
      return;
    }
    for (let player = 0; player < compiled.playerCount; player += 1) {
      if (isInside(session, player, placement, rule)) runOnPlayer(session, player, placement, rule, effect, cause);
    }
  } else if (toucher < 0 || toucher >= compiled.playerCount) {
    comeToNothing(session, toucher, placement, rule, REASON.noPlayer, cause);
  } else runOnPlayer(session, toucher, placement, rule, effect, cause);
}

/**
 * Runs the effects of a rule, in order; in a rate all but its meter effects. Returns the last line they wrote, or `cause`.
 * Whether any of them did anything is left in `scratch.happened`.
 */
export function runEffects(
  session: Session,
  toucher: number,
  placement: number,
  rule: number,
  cause: number,
  exceptMeters: boolean,
): number {
  const { rules, effects } = session.compiled;
  const { clock } = session.state;
  const before = clock[CLOCK.lines] as number;
  const from = rules.effectStart[rule] as number;
  const to = rules.effectStart[rule + 1] as number;
  // A rule without effects does what becomes of its thing.
  session.scratch.happened = from === to;
  for (let effect = from; effect < to; effect += 1) {
    if (exceptMeters && effects.op[effect] === EFFECT.meter) continue;
    runEffect(session, toucher, placement, rule, effect, cause);
  }
  const after = clock[CLOCK.lines] as number;
  return after > before ? after - 1 : cause;
}
