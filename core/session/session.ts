import { ENDING, GLIDING, GOAL, INPUT_WIDTH, LIFE, LINE } from './compile/codes.ts';
import { movePlayer, settleSolids } from './motion/bodies.ts';
import { runLinks } from './rules/chain.ts';
import { actOnCrossings, endMoved } from './rules/crossings.ts';
import { glide, glideAll, keysStay, lookAhead, trackGlide, trackGlides, waitAll } from './motion/glide.ts';
import { actAllInside, removeLeft } from './rules/inside.ts';
import { changeItems, closeAllItemSpans, itemsOf, runItemRules } from './rules/items.ts';
import { die, join, leave, settleDeaths } from './rules/life.ts';
import { addLink, LINK } from './state/links.ts';
import { NONE, note } from './state/lines.ts';
import { cellOf, changePlainly, closeRegenerations, meterOf, outOfHealth, regenerate } from './rules/meters.ts';
import type { Compiled } from './compile/compile.ts';
import type { Call, OutsideEvent, PlayerMotion, Session } from './state/running.ts';
import { sense } from './contact/broadPhase.ts';
import { endAllPairs } from './rules/spans.ts';
import { refreshScratch } from './start.ts';
import { flyAll, noneIsDue } from './state/courses.ts';
import { CLOCK, loadState, saveState } from './state/state.ts';
import { emptyRooms } from './rules/spawnedThings.ts';
import { endGlides } from './state/waking.ts';
import { runTimers } from './rules/timers.ts';
import { moveTravellers } from './motion/travel.ts';
import { actOnButtons } from './rules/uses.ts';
import { mayWalk, walk } from './motion/walk.ts';

/** A copy of everything that changes, to go on from later. */
export function snapshot(session: Session): Uint8Array {
  flyAll(session);
  return saveState(session.state);
}

/** Goes back to a snapshot of a session of the same compiled level. Throws `RangeError` when it is of another. */
export function restore(session: Session, saved: Uint8Array): void {
  loadState(session.state, saved);
  refreshScratch(session);
}

export function stepOf(session: Session): number {
  return session.state.clock[CLOCK.step] as number;
}

export function hasEnded(session: Session): boolean {
  return session.state.clock[CLOCK.ending] !== ENDING.running;
}

/** 1 what happens from outside at the start of this step. */
function runEvents(session: Session): void {
  const { state, events } = session;
  const step = state.clock[CLOCK.step] as number;
  for (;;) {
    const event = events[state.clock[CLOCK.events] as number];
    if (event === undefined || event.step > step) return;
    state.clock[CLOCK.events] = (state.clock[CLOCK.events] as number) + 1;
    runEvent(session, event);
  }
}

/** States, while a session goes on, that something happens from outside at the start of its next step. */
export function addEvent(session: Session, event: Omit<OutsideEvent, 'step'>): void {
  const { state, events, scratch } = session;
  const step = (state.clock[CLOCK.step] as number) + 1;
  const later = events.findIndex((other) => other.step > step);
  events.splice(later === -1 ? events.length : later, 0, { ...event, step });
  scratch.quietUntil = 0;
}

const OUTSIDE = { meter: 0, item: 1, notice: 2, join: 3, leave: 4 } as const;

function runEvent(session: Session, { player, what, subject, amount }: OutsideEvent): void {
  const { compiled, state } = session;
  if (player >= compiled.playerCount) return;
  const line = note(session, LINE.outside, player, NONE, NONE, OUTSIDE[what], NONE, NONE);
  if (what === 'join') join(session, player, line);
  else if (what === 'leave') leave(session, player, line);
  else if (what === 'notice') addLink(session, LINK.notice, subject, NONE, player, line);
  if (state.life[player] !== LIFE.alive) return;
  if (what === 'item') changeItems(session, player, NONE, NONE, subject, amount, false, line);
  if (what !== 'meter') return;
  const changed = changePlainly(session, player, subject, amount, line);
  if (outOfHealth(session, player)) die(session, player, NONE, changed, NONE);
}

/** Whether a player meets a goal that is a matter of one player's own. */
function meets(session: Session, player: number, { type, subject, value, x, y }: Compiled['goals'][number]): boolean {
  const { state } = session;
  if (type === GOAL.item) return itemsOf(session, player, subject) >= value;
  if (type === GOAL.meter) return meterOf(session, player, subject) >= value;
  const dx = (state.playerX[player] as number) - x;
  const dy = (state.playerY[player] as number) - y;
  return type === GOAL.reach && dx * dx + dy * dy <= value * value;
}

const wonBy = (toucher: number, cause: number): Call => ({ made: true, toucher, placement: NONE, rule: NONE, cause });

/** Who has met a goal by which line, as a call for the session won; null when nobody has. */
function goalMet(session: Session): Call | null {
  const { compiled, state, scratch } = session;
  for (const goal of compiled.goals) {
    const { type, subject } = goal;
    if (type === GOAL.notice) {
      if ((state.noticed[subject] as number) > 0) return wonBy(NONE, scratch.noticeLine[subject] as number);
      continue;
    }
    for (let player = 0; player < compiled.playerCount; player += 1) {
      if ((state.life[player] !== LIFE.alive && state.died[player] === 0) || !meets(session, player, goal)) continue;
      if (type === GOAL.item) return wonBy(player, scratch.itemLine[player * compiled.ids.items.length + subject] as number);
      return wonBy(player, type === GOAL.meter ? (scratch.meterLine[cellOf(session, player, subject)] as number) : NONE);
    }
  }
  return null;
}

/** 9 death and ends: won before lost before time. */
function settleEnds(session: Session): void {
  const { compiled, state, scratch } = session;
  if (scratch.overfull !== ENDING.running) {
    endSession(session, scratch.overfull);
    return;
  }
  // Whoever dies in this step may still have met the goal in it.
  const won = scratch.won.made ? scratch.won : goalMet(session);
  settleDeaths(session);
  if (won !== null) {
    endSession(session, ENDING.won, won);
    return;
  }
  let playing = 0;
  let lastOut = NONE;
  for (let player = 0; player < compiled.playerCount; player += 1) {
    if (state.life[player] === LIFE.alive || state.life[player] === LIFE.dead) playing += 1;
    if (state.life[player] === LIFE.out && (state.deathLine[player] as number) > lastOut) lastOut = state.deathLine[player] as number;
  }
  if (scratch.lost.made) endSession(session, ENDING.lost, scratch.lost);
  else if (playing === 0 && lastOut !== NONE) endSession(session, ENDING.lost, { ...scratch.lost, cause: lastOut });
  else if (compiled.timeLimitSteps > 0 && (state.clock[CLOCK.step] as number) >= compiled.timeLimitSteps) endSession(session, ENDING.time);
}

/** 6 what goes on: inside rules, what items do, what comes back by itself. */
function runInside(session: Session): void {
  const { compiled, state } = session;
  actAllInside(session);
  endMoved(session, (state.clock[CLOCK.step] as number) * compiled.stepSeconds);
  if (compiled.itemRuleCount > 0) {
    for (let player = 0; player < compiled.playerCount; player += 1) {
      if (state.life[player] !== LIFE.alive) continue;
      runItemRules(session, player);
      if (outOfHealth(session, player)) die(session, player, NONE, NONE, NONE);
    }
  }
  if (compiled.meters.regenerates) for (let player = 0; player < compiled.playerCount; player += 1) regenerate(session, player);
}

/** 1 and 4 of one player: what its keys ask for, and its way. Returns the buttons pressed. */
function movePlayerBy(session: Session, player: number, inputs: Int8Array): number {
  const { state } = session;
  const motion = session.scratch.motions[player] as PlayerMotion;
  const at = player * INPUT_WIDTH;
  const moveX = inputs[at] as number;
  const moveY = inputs[at + 1] as number;
  const held = inputs[at + 2] as number;
  const pressed = (inputs[at + 3] as number) | (held & ~(state.buttons[player] as number));
  state.buttons[player] = held;
  motion.pressed = pressed;
  motion.gone = 0;
  if (state.life[player] !== LIFE.alive) return pressed;
  if ((state.clock[CLOCK.step] as number) <= motion.glideUntil && motion.moveX === moveX && motion.moveY === moveY) {
    if (session.scratch.movingCount > 0) trackGlide(session, player, motion);
    glide(session, player, motion);
    motion.gone = GLIDING;
  } else {
    motion.glideUntil = 0;
    if (mayWalk(session, player)) walk(session, player, moveX, moveY);
    else movePlayer(session, player, moveX, moveY, held, pressed);
  }
  if ((state.changes[player] as number) > 0) {
    state.changedSeconds[player] = (state.changedSeconds[player] as number) + session.compiled.stepSeconds;
  }
  return pressed;
}

/** Moves the session on by one step. `inputs` holds `INPUT_WIDTH` numbers for each player. Does nothing once it has ended. */
export function step(session: Session, inputs: Int8Array): void {
  const { state, scratch } = session;
  const { clock } = state;
  if (clock[CLOCK.ending] !== ENDING.running) return;
  const now = (clock[CLOCK.step] as number) + 1;
  clock[CLOCK.step] = now;
  if (now > scratch.quietUntil || !keysStay(session, inputs)) {
    beginStep(session);
    finishStep(session, inputs, now);
    return;
  }
  if (session.compiled.movesThings) moveTravellers(session);
  scratch.courses.moved = now;
  if (now > scratch.quietUntil) {
    // Something begins, or ceases, to be drawn.
    finishStep(session, inputs, now);
    return;
  }
  if (scratch.movingCount > 0) trackGlides(session);
  glideAll(session);
  if ((scratch.movingCount === 0 && noneIsDue(scratch.courses, now)) || thingsCross(session)) waitAll(session);
}

/** The crossings of things that travel while all players glide. Answers whether nothing came of them; else the step is done to its end. */
function thingsCross(session: Session): boolean {
  const { compiled, scratch } = session;
  const { crossings } = scratch;
  crossings.count = 0;
  sense(session);
  if (crossings.count === 0 && scratch.overfull === ENDING.running) return true;
  // A player touches something that is drawn, or no longer: it does not glide past that.
  for (let k = 0; k < crossings.count; k += 1) if ((crossings.toucher[k] as number) < compiled.playerCount) endGlides(session);
  const leaves = actOnCrossings(session);
  const quiet = !scratch.acted && scratch.quietUntil > 0 && scratch.overfull === ENDING.running;
  if (!quiet) runInside(session);
  if (leaves) removeLeft(session);
  if (!quiet) settleStep(session);
  return quiet;
}

/** 1 and 3 of a step in which anything may happen. */
function beginStep(session: Session): void {
  const { compiled, state, scratch } = session;
  scratch.won.made = false;
  scratch.lost.made = false;
  scratch.stirred = false;
  for (const motion of scratch.motions) motion.dropped = false;
  if (session.events.length > 0) runEvents(session);
  if (compiled.movesThings) moveTravellers(session);
  scratch.courses.moved = state.clock[CLOCK.step] as number;
}

/** What comes after things have moved, in a step in which anything may happen. */
function finishStep(session: Session, inputs: Int8Array, now: number): void {
  const { compiled, state, scratch } = session;
  const { playerCount } = compiled;
  if (compiled.hasSolidThings) settleSolids(session);
  let anyPressed = 0;
  for (let player = 0; player < playerCount; player += 1) anyPressed |= movePlayerBy(session, player, inputs);
  sense(session);
  const leaves = scratch.crossings.count > 0 && actOnCrossings(session);
  runInside(session);
  if (leaves) removeLeft(session);
  if (anyPressed !== 0) {
    for (let player = 0; player < playerCount; player += 1) {
      const locked = now <= (state.lockUntil[player] as number);
      const { pressed } = scratch.motions[player] as PlayerMotion;
      if (pressed !== 0 && !locked) actOnButtons(session, player, pressed);
      endMoved(session, now * compiled.stepSeconds);
    }
  }
  settleStep(session);
}

/**
 * 2 of the next step, 8 and 9: timers, what was set off, and ends; then how long nothing else happens. What lasts d steps
 * and began in step n ends when step n + d is over, before step n + d + 1 moves anyone: its line bears that time.
 */
function settleStep(session: Session): void {
  const { compiled, scratch } = session;
  const seconds = (session.state.clock[CLOCK.step] as number) * compiled.stepSeconds;
  emptyRooms(session);
  runTimers(session);
  endMoved(session, seconds);
  if (scratch.links.count > 0) {
    runLinks(session);
    endMoved(session, seconds);
  }
  if (compiled.mayEnd || scratch.mayEnd || scratch.overfull !== ENDING.running || session.events.length > 0) {
    scratch.mayEnd = false;
    settleEnds(session);
  }
  lookAhead(session);
}

/** Closes every contact and span; `how` is the ending, or running when the inputs just stop; `call` what called for it. */
export function endSession(session: Session, how: number, call: Call | null = null): void {
  const { state, compiled } = session;
  const now = state.clock[CLOCK.step] as number;
  if (hasEnded(session)) return;
  state.clock[CLOCK.endStep] = now;
  endAllPairs(session, now * compiled.stepSeconds);
  for (let player = 0; player < compiled.playerCount; player += 1) {
    closeRegenerations(session, player);
    closeAllItemSpans(session, player);
  }
  state.clock[CLOCK.ending] = how;
  note(session, LINE.ended, call?.toucher ?? NONE, call?.placement ?? NONE, call?.rule ?? NONE, how, call?.cause ?? NONE, NONE);
}
