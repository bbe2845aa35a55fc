import { pushOut, slide, SLIDE_PIECES, createTrack, type Track } from '../geometry/index.ts';
import { amounts, becomes, changeMeter, countUse, mayAct, noteLimit, outOfHealth, writeLine } from './acting.ts';
import * as codes from './codes.ts';
import type { Compiled } from './compile.ts';
import { ARRIVE, createCrossings, findPair, sense } from './contacts.ts';
import { actAllInside, addPair, die, removePair } from './inside.ts';
import { WIDTH, type Recorder } from './ledger.ts';
import { moverTrack } from './movers.ts';
import type { Session } from './running.ts';
import { CLOCK, createState, NEVER } from './state.ts';

/** Numbers of one player's input in a step: move right (−127 … 127), move up (−127 … 127), buttons (bits). */
export const INPUT_WIDTH = 3;
const FULL = 127;
const NONE = -1;

/** Raised whenever the same inputs would no longer give the same session. Part of every key under which one is stored. */
export const SIMULATION_VERSION = 1;

/** Starts a session of a compiled level. */
export function createSession(compiled: Compiled, recorder: Recorder | null = null): Session {
  const state = createState(compiled);
  const placements = compiled.placements.kind.length;
  const pieces = Math.max(SLIDE_PIECES, compiled.movers.mostPieces);
  const session: Session = {
    compiled,
    state,
    recorder,
    scratch: {
      toucherTracks: Array.from({ length: compiled.toucherCount }, () => createTrack(pieces)),
      crossings: createCrossings(),
      line: new Float64Array(WIDTH),
      body: { x: 0, y: 0, velocityX: 0, velocityY: 0 },
      sensed: new Int32Array(placements),
      senseStamp: 0,
      bounds: new Float64Array(compiled.toucherCount * 4),
    },
  };
  state.clock[CLOCK.nextDue] = NEVER;
  state.firstUse.fill(NONE);
  state.backStep.fill(NONE);
  const { body } = session.scratch;
  for (let player = 0; player < compiled.playerCount; player += 1) {
    state.meter.set(compiled.meters.start, player * compiled.meters.start.length);
    state.lowestHealth[player] = compiled.meters.start[compiled.meters.health] as number;
    body.x = compiled.level.start.x;
    body.y = compiled.level.start.y;
    pushOut(compiled.solids, body, compiled.level.body.radius);
    state.playerX[player] = body.x;
    state.playerY[player] = body.y;
  }
  return session;
}

/** A copy of everything that changes, to go on from later. */
export function snapshot(session: Session): Uint8Array {
  return session.state.bytes.slice();
}

/** Goes back to a snapshot of a session of the same compiled level. */
export function restore(session: Session, saved: Uint8Array): void {
  if (saved.length !== session.state.bytes.length) throw new RangeError('this snapshot is of another level');
  session.state.bytes.set(saved);
}

export function stepOf(session: Session): number {
  return session.state.clock[CLOCK.step] as number;
}

export function hasEnded(session: Session): boolean {
  return session.state.clock[CLOCK.ending] !== codes.RUNNING;
}

/** 2 timers: things whose rest is over are ready again. */
function runTimers(session: Session): void {
  const { compiled, state } = session;
  const step = state.clock[CLOCK.step] as number;
  if (step < (state.clock[CLOCK.nextDue] as number)) return;
  let next = NEVER;
  for (let placement = 0; placement < state.phase.length; placement += 1) {
    if (state.phase[placement] !== codes.RESTING) continue;
    const due = state.dueStep[placement] as number;
    if (due > step) {
      next = Math.min(next, due);
      continue;
    }
    state.phase[placement] = codes.READY;
    const kind = compiled.placements.kind[placement] as number;
    const sensedWhileResting = compiled.kinds.sensing[kind * codes.PHASES.length + codes.RESTING] === 1;
    if (!sensedWhileResting) state.backStep[placement] = step;
    writeLine(session, codes.LINE.phase, NONE, placement, NONE, codes.READY, NONE, 0, 0, 0, 0, NONE, NONE);
  }
  state.clock[CLOCK.nextDue] = next;
}

/**
 * Moves a player towards the velocity asked for: even acceleration until it is reached, then steady.
 * Distance is v·t + ½·a·t² up to that moment, so that the way does not depend on the step rate.
 */
function movePlayer(session: Session, player: number, moveX: number, moveY: number): void {
  const { compiled, state, scratch } = session;
  const { body } = scratch;
  const feel = compiled.level.body;
  const seconds = compiled.stepSeconds;
  let wishX = moveX / FULL;
  let wishY = moveY / FULL;
  const length = Math.sqrt(wishX * wishX + wishY * wishY);
  if (length > 1) {
    wishX /= length;
    wishY /= length;
  }
  const acceleration = length > 0 ? feel.acceleration : feel.braking;
  body.x = state.playerX[player] as number;
  body.y = state.playerY[player] as number;
  const fromX = state.velocityX[player] as number;
  const fromY = state.velocityY[player] as number;
  const changeX = wishX * feel.speed - fromX;
  const changeY = wishY * feel.speed - fromY;
  const change = Math.sqrt(changeX * changeX + changeY * changeY);
  const turning = Math.min(seconds, change / acceleration);
  const share = change > 0 ? (acceleration * turning) / change : 0;
  body.velocityX = fromX + changeX * share;
  body.velocityY = fromY + changeY * share;
  const dx = ((fromX + body.velocityX) / 2) * turning + body.velocityX * (seconds - turning);
  const dy = ((fromY + body.velocityY) / 2) * turning + body.velocityY * (seconds - turning);
  slide(compiled.solids, body, feel.radius, dx, dy, scratch.toucherTracks[player] as Track);
  const wentX = body.x - (state.playerX[player] as number);
  const wentY = body.y - (state.playerY[player] as number);
  state.distance[player] = (state.distance[player] as number) + Math.sqrt(wentX * wentX + wentY * wentY);
  state.playerX[player] = body.x;
  state.playerY[player] = body.y;
  state.velocityX[player] = body.velocityX;
  state.velocityY[player] = body.velocityY;
}

/** Lets every arriving rule of a thing act on whoever came in. All of them see the phase it was in when touched. */
function actOnArrival(session: Session, toucher: number, placement: number): void {
  const { compiled, state } = session;
  const kind = compiled.placements.kind[placement] as number;
  const phase = state.phase[placement] as number;
  for (let rule = compiled.kinds.ruleStart[kind] as number; rule < (compiled.kinds.ruleStart[kind + 1] as number); rule += 1) {
    if (compiled.rules.setOffBy[rule] !== codes.ARRIVING || !mayAct(session, toucher, placement, rule, phase, false)) continue;
    countUse(session, placement);
    let cause = NONE;
    for (let effect = compiled.rules.effectStart[rule] as number; effect < (compiled.rules.effectStart[rule + 1] as number); effect += 1) {
      const meter = compiled.effects.meter[effect] as number;
      if (toucher >= compiled.playerCount || state.dead[toucher] === 1) {
        const reason = toucher >= compiled.playerCount ? codes.REASON.noPlayer : codes.REASON.dead;
        writeLine(session, codes.LINE.refused, toucher, placement, rule, NONE, reason, 0, 0, 0, 0, NONE, NONE);
        continue;
      }
      changeMeter(session, toucher, placement, effect, 1);
      const { asked, applied, before, after } = amounts;
      cause = writeLine(session, codes.LINE.changed, toucher, placement, rule, meter, NONE, asked, applied, before, after, NONE, NONE);
      noteLimit(session, toucher, effect, cause);
      if (outOfHealth(session, toucher)) die(session, toucher, placement, cause);
    }
    becomes(session, placement, rule, cause);
  }
}

/** 5 crossings: arrivals and leavings in the order in which they came. */
function actOnCrossings(session: Session): void {
  const { compiled, state } = session;
  const { crossings } = session.scratch;
  const step = state.clock[CLOCK.step] as number;
  for (let index = 0; index < crossings.count; index += 1) {
    const toucher = crossings.toucher[index] as number;
    const placement = crossings.placement[index] as number;
    if (toucher < compiled.playerCount && state.dead[toucher] === 1) continue;
    const seconds = (step - 1 + (crossings.at[index] as number)) * compiled.stepSeconds;
    const pair = findPair(session, toucher, placement);
    if (crossings.type[index] !== ARRIVE) {
      if (pair >= 0) state.pairLeft[pair] = seconds;
      continue;
    }
    if (pair < 0) addPair(session, -1 - pair, toucher, placement, seconds, crossings.inside[index] as number);
    else if ((state.pairLeft[pair] as number) >= 0) {
      // Out and in again within one step: one contact ends and another begins.
      session.recorder?.contact(toucher, placement, state.pairFrom[pair] as number, state.pairLeft[pair] as number);
      state.pairFrom[pair] = seconds;
      state.pairLeft[pair] = NONE;
    }
    actOnArrival(session, toucher, placement);
  }
}

/** Moves the session on by one step. `inputs` holds `INPUT_WIDTH` numbers for each player. Does nothing once it has ended. */
export function step(session: Session, inputs: Int8Array): void {
  const { compiled, state, scratch } = session;
  if (hasEnded(session)) return;
  const now = (state.clock[CLOCK.step] as number) + 1;
  state.clock[CLOCK.step] = now;
  runTimers(session);
  for (let mover = 0; mover < compiled.movers.count; mover += 1) {
    const way = scratch.toucherTracks[compiled.playerCount + mover] as Track;
    moverTrack(compiled.movers, mover, (now - 1) * compiled.stepSeconds, now * compiled.stepSeconds, way);
  }
  for (let player = 0; player < compiled.playerCount; player += 1) {
    if (state.dead[player] === 1) continue;
    movePlayer(session, player, inputs[player * INPUT_WIDTH] as number, inputs[player * INPUT_WIDTH + 1] as number);
  }
  sense(session);
  actOnCrossings(session);
  actAllInside(session);
  let alive = 0;
  for (let player = 0; player < compiled.playerCount; player += 1) alive += state.dead[player] === 1 ? 0 : 1;
  if (alive === 0) endSession(session, codes.LOST);
}

/** Closes every contact and span; `how` is the ending, or running when the inputs just stop. */
export function endSession(session: Session, how: number): void {
  const { state, compiled } = session;
  const now = state.clock[CLOCK.step] as number;
  if (hasEnded(session)) return;
  state.clock[CLOCK.endStep] = now;
  while ((state.clock[CLOCK.pairs] as number) > 0) {
    removePair(session, 0, now * compiled.stepSeconds);
  }
  state.clock[CLOCK.ending] = how;
  writeLine(session, codes.LINE.ended, NONE, NONE, NONE, how, NONE, 0, 0, 0, 0, NONE, NONE);
}
