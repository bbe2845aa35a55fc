import { beginTrack, extendTrack, met, slide, type Track } from '../../geometry/index.ts';
import { GLIDING, INPUT_WIDTH, LIFE, PHASE } from '../compile/codes.ts';
import { stepsAhead } from './ahead.ts';
import { firstPair } from '../contact/contacts.ts';
import { itemsRest } from '../rules/items.ts';
import type { PlayerMotion, Session } from '../state/running.ts';
import { CLOCK, NEVER } from '../state/state.ts';
import { phaseFor } from '../state/things.ts';

/**
 * Gliding: a player whose velocity did not change in a step, and whose keys stay the same, goes on by the same motion,
 * freely or along one flat wall. How long nothing can come in its way is worked out once; until then a step of it is one
 * addition. When nothing else is due either, the whole step is no more than that. It gives what the whole step would, to
 * the bit. Whatever is not steady motion calls `disturb`.
 */

/** Slid along nothing; slid along more than one flat wall. */
const NOTHING = -1;
const SEVERAL = -2;
/** Of the share of its way after which a glide meets its wall. */
const UNKNOWN = -1;

/** Notes a steady motion, given what was met on the way. */
export function noteMotion(motion: PlayerMotion, x: number, y: number, moveX: number, moveY: number): void {
  const flat = met.x === 0 || met.y === 0;
  motion.x = x;
  motion.y = y;
  motion.moveX = moveX;
  motion.moveY = moveY;
  motion.along = met.count === 0 ? NOTHING : met.count === 1 && flat ? met.item : SEVERAL;
  motion.wayX = met.count > 0 && met.x !== 0 ? 0 : x;
  motion.wayY = met.count > 0 && met.y !== 0 ? 0 : y;
}

/** Writes the way of the step of a glide that comes next, for what has to look at it. */
export function trackGlide({ compiled, state, scratch }: Session, player: number, motion: PlayerMotion): void {
  const track = scratch.tracks[player] as Track;
  const { body } = scratch;
  body.x = state.playerX[player] as number;
  body.y = state.playerY[player] as number;
  if (motion.along === NOTHING) {
    beginTrack(track, body.x, body.y);
    extendTrack(track, 1, body.x + motion.x, body.y + motion.y);
    return;
  }
  body.wayX = motion.x;
  body.wayY = motion.y;
  slide(scratch.solids, compiled.hull, body, track, motion.along);
}

/** One step of a glide. */
export function glide(session: Session, player: number, motion: PlayerMotion): void {
  const { compiled, state, scratch } = session;
  if (motion.begins) beginGlide(session, player, motion);
  const fromX = state.playerX[player] as number;
  const fromY = state.playerY[player] as number;
  let x = fromX + motion.x;
  let y = fromY + motion.y;
  if (motion.along !== NOTHING) {
    const { share } = motion;
    if (share === UNKNOWN) {
      const { body } = scratch;
      body.x = fromX;
      body.y = fromY;
      body.wayX = motion.x;
      body.wayY = motion.y;
      slide(scratch.solids, compiled.hull, body, scratch.sideTrack, motion.along);
      x = body.x;
      y = body.y;
      // As far from the wall as before: each step from here meets it after the same share of its way.
      if (met.count === 1 && (met.x === 0 ? y === fromY : x === fromX)) motion.share = met.share;
    } else {
      x = fromX + motion.wayX * share + motion.wayX * (1 - share);
      y = fromY + motion.wayY * share + motion.wayY * (1 - share);
    }
  }
  const dx = x - fromX;
  const dy = y - fromY;
  state.playerX[player] = x;
  state.playerY[player] = y;
  state.distance[player] = (state.distance[player] as number) + Math.sqrt(dx * dx + dy * dy);
}

/** Whether all keys are as they were, so that players who glide may glide on. */
export function keysStay(session: Session, inputs: Int8Array): boolean {
  const { motions } = session.scratch;
  for (let player = 0; player < motions.length; player += 1) {
    const motion = motions[player] as PlayerMotion;
    const at = player * INPUT_WIDTH;
    if (inputs[at + 3] !== 0 || inputs[at + 2] !== motion.held) return false;
    if (motion.moves && (inputs[at] !== motion.moveX || inputs[at + 1] !== motion.moveY)) return false;
  }
  return true;
}

/** All players glide on by a step. */
export function glideAll(session: Session): void {
  const { compiled, state, scratch } = session;
  for (let player = 0; player < scratch.motions.length; player += 1) {
    const motion = scratch.motions[player] as PlayerMotion;
    if (!motion.moves) continue;
    glide(session, player, motion);
    if (motion.changed) state.changedSeconds[player] = (state.changedSeconds[player] as number) + compiled.stepSeconds;
  }
}

/** Writes the ways of the step that all players glide next. */
export function trackGlides(session: Session): void {
  const { motions } = session.scratch;
  for (let player = 0; player < motions.length; player += 1) {
    const motion = motions[player] as PlayerMotion;
    if (motion.moves) trackGlide(session, player, motion);
  }
}

/** All players who wait at something go on waiting for a step. */
export function waitAll({ compiled, state, scratch }: Session): void {
  for (const { moves, waits } of scratch.motions) {
    if (moves && waits !== NOTHING) state.waiting[waits] = (state.waiting[waits] as number) + compiled.stepSeconds;
  }
}

/** Whether none of a player's contacts does anything as time goes by, but for one that is waited at. */
function contactsRest(session: Session, player: number, motion: PlayerMotion): boolean {
  const { compiled, state } = session;
  const { forms } = compiled;
  const pairs = state.clock[CLOCK.pairs] as number;
  motion.waits = NOTHING;
  for (let pair = firstPair(session, player); pair < pairs && state.pairToucher[pair] === player; pair += 1) {
    const placement = state.pairPlacement[pair] as number;
    const form = state.form[placement] as number;
    if (form < 0 || forms.inside[form] === 1 || forms.tries[form] === 1 || forms.carries[form] === 1) return false;
    if (phaseFor(session, placement, player) === PHASE.resting) {
      if (motion.waits !== NOTHING) return false;
      motion.waits = placement;
    }
  }
  return true;
}

/** From its first step on, a glide takes place inside all that was touched when it began. */
function beginGlide(session: Session, player: number, motion: PlayerMotion): void {
  const { state, compiled } = session;
  motion.begins = false;
  const pairs = state.clock[CLOCK.pairs] as number;
  for (let pair = firstPair(session, player); pair < pairs && state.pairToucher[pair] === player; pair += 1) {
    state.pairInside[pair] = compiled.stepSeconds;
  }
}

/** Whether a player's meters stay as they are by themselves. */
function metersRest({ compiled, state }: Session, player: number): boolean {
  const { meters, ids } = compiled;
  for (let meter = 0; meter < ids.meters.length; meter += 1) {
    const cell = compiled.meterCell[player * ids.meters.length + meter] as number;
    if (meters.regeneration[meter] !== 0 && (state.meter[cell] as number) < (meters.upper[meter] as number)) return false;
    if (state.regeneratedFrom[cell] !== -1) return false;
  }
  return true;
}

/** At the end of a step: who glides on, how long, and how long nothing else happens. */
export function lookAhead(session: Session): void {
  const { compiled, state, scratch, events } = session;
  const step = state.clock[CLOCK.step] as number;
  scratch.quietUntil = 0;
  // What came to be sensed again, or was put somewhere, is looked at in the next step.
  if (compiled.side || compiled.solidsApart || session.exhaustive || scratch.stirred || scratch.roomsToEmpty) return;
  let quiet = true;
  let until = NEVER;
  for (let player = 0; player < compiled.playerCount; player += 1) {
    const motion = scratch.motions[player] as PlayerMotion;
    if (state.life[player] !== LIFE.alive) continue;
    if (motion.glideUntil <= step && motion.steady) {
      const steps = motion.along === SEVERAL || !contactsRest(session, player, motion) ? 0 : stepsAhead(session, player, motion);
      if (steps > 0) {
        motion.glideUntil = step + steps;
        motion.begins = true;
        motion.share = UNKNOWN;
        motion.stillSlack = 0;
        motion.travelSlack = 0;
        motion.solidSlack = 0;
        motion.besideSlack = 0;
      }
    }
    until = Math.min(until, motion.glideUntil);
    quiet = quiet && (!compiled.meters.regenerates || metersRest(session, player));
    quiet = quiet && (compiled.itemRuleCount === 0 || itemsRest(session, player));
  }
  if (!quiet || until <= step) return;
  const event = events[state.clock[CLOCK.events] as number];
  if (event !== undefined) until = Math.min(until, event.step - 1);
  if (compiled.timeLimitSteps > 0) until = Math.min(until, compiled.timeLimitSteps - 1);
  for (let player = 0; player < compiled.playerCount; player += 1) {
    const motion = scratch.motions[player] as PlayerMotion;
    motion.gone = GLIDING;
    motion.held = state.buttons[player] as number;
    motion.moves = state.life[player] === LIFE.alive;
    motion.changed = (state.changes[player] as number) > 0;
  }
  until = Math.min(until, (state.clock[CLOCK.nextDue] as number) - 1);
  scratch.quietUntil = until;
}
