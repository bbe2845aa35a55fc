import { floorUnder, pushOut } from '../../geometry/index.ts';
import { LIFE, LINE, SHARE_KEPT } from '../compile/codes.ts';
import { firstPair } from '../contact/contacts.ts';
import { changeItems, closeAllItemSpans, hold, itemsOf, refreshItemRules } from './items.ts';
import { atPlace, NONE, note, beginLine, writeLine } from '../state/lines.ts';
import { namedThing } from '../state/naming.ts';
import { cellOf, changePlainly, closeRegenerations, meterOf, outOfHealth, setQuietly } from './meters.ts';
import { endAllChanges, endAtDeath } from './modifiers.ts';
import { resetForPlayer, resetThing } from './phases.ts';
import { dueAt } from '../state/due.ts';
import { findDestination } from './places.ts';
import type { PlayerMotion, Session } from '../state/running.ts';
import { closeSpans, removePair } from './spans.ts';
import { CLOCK, DEATH_WIDTH, MOST_DEATHS, NEVER } from '../state/state.ts';
import { exists, readPlayerSpot } from '../state/things.ts';
import { disturb, wakePlayer } from '../state/waking.ts';

/** A body keeps so far off faces, with a margin: being moved by less is not said. Units. */
const UNSAID = 1e-4;

/** Puts a player somewhere, or beside it where a solid is; the way there is not swept. Answers whether it is elsewhere than asked. */
export function putPlayer(session: Session, player: number, x: number, y: number): boolean {
  const { compiled, state, scratch } = session;
  const { body } = scratch;
  body.x = x;
  body.y = y;
  pushOut(scratch.solids, compiled.hull, body);
  state.playerX[player] = body.x;
  state.playerY[player] = body.y;
  state.floor[player] = compiled.side ? floorUnder(scratch.solids, compiled.hull, body.x, body.y, scratch.sideTrack) : NONE;
  state.lateUntil[player] = 0;
  (scratch.motions[player] as PlayerMotion).dropped = true;
  wakePlayer(session, player);
  return Math.abs(body.x - x) > UNSAID || Math.abs(body.y - y) > UNSAID;
}

/** Says that a player was put beside the place that was meant, which lies in a solid or outside the level. */
export function noteDisplaced(session: Session, player: number, meantX: number, meantY: number, cause: number): void {
  const { state, compiled } = session;
  const { width, height } = compiled.level.size;
  const outside = meantX < 0 || meantY < 0 || meantX > width || meantY > height;
  const [x, y] = [state.playerX[player] as number, state.playerY[player] as number];
  const about = beginLine(session, LINE.displaced, player, NONE, NONE);
  about.subject = outside ? 1 : 0;
  atPlace(about, x, y);
  about.cause = cause;
  writeLine(session, about);
}

/** Nothing harms a player for so many steps; the keys do nothing for so many. */
export function protect(session: Session, player: number, graceSteps: number, lockSteps: number): void {
  const { state } = session;
  const step = state.clock[CLOCK.step] as number;
  disturb(session);
  if (graceSteps > 0) {
    if ((state.graceUntil[player] as number) <= step) state.graceFrom[player] = step + 1;
    state.graceUntil[player] = Math.max(state.graceUntil[player] as number, step + graceSteps);
    dueAt(session, state.graceUntil[player]);
  }
  if (lockSteps > 0) state.lockUntil[player] = Math.max(state.lockUntil[player] as number, step + lockSteps);
}

/** Ends all contacts of a player. */
function endContacts(session: Session, player: number): void {
  const { state, compiled } = session;
  const now = (state.clock[CLOCK.step] as number) * compiled.stepSeconds;
  let at = firstPair(session, player);
  while (at < (state.clock[CLOCK.pairs] as number) && state.pairToucher[at] === player) {
    if ((state.pairLeft[at] as number) < 0) state.pairLeft[at] = now;
    removePair(session, at);
    at = firstPair(session, player);
  }
}

/**
 * A player's death: final for the step. Its overlaps and the changes of movement that go with them end, its velocity is
 * nought. `cause` is the line that did it, or −1; `returnTo` a destination of its own, or −1.
 */
export function die(session: Session, player: number, placement: number, cause: number, returnTo: number): void {
  const { state } = session;
  if (state.life[player] !== LIFE.alive) return;
  let last = cause;
  const pairs = state.clock[CLOCK.pairs] as number;
  for (let pair = firstPair(session, player); pair < pairs && state.pairToucher[pair] === player; pair += 1) {
    const line = closeSpans(session, pair);
    if (line !== NONE && state.pairPlacement[pair] === placement && cause === NONE) last = line;
  }
  // What is carried or held may have done it.
  const byItems = closeAllItemSpans(session, player);
  if (last === NONE && placement < 0) last = byItems;
  state.life[player] = LIFE.dead;
  state.died[player] = 1;
  session.scratch.mayEnd = true;
  state.velocityX[player] = 0;
  state.velocityY[player] = 0;
  state.returnTo[player] = returnTo;
  const { x, y } = readPlayerSpot(session, player);
  (session.scratch.motions[player] as PlayerMotion).dropped = true;
  const about = beginLine(session, LINE.died, player, placement, NONE);
  atPlace(about, x, y);
  about.cause = last;
  const line = writeLine(session, about);
  state.deathLine[player] = line;
  logDeath(session, player, placement, x, y);
  closeRegenerations(session, player);
  endAtDeath(session, player, line);
  endContacts(session, player);
  refreshItemRules(session, player, line);
}

function logDeath(session: Session, player: number, placement: number, x: number, y: number): void {
  const { state } = session;
  const count = state.clock[CLOCK.deaths] as number;
  state.clock[CLOCK.deaths] = count + 1;
  state.deaths[player] = (state.deaths[player] as number) + 1;
  if (count >= MOST_DEATHS) return;
  const at = count * DEATH_WIDTH;
  state.deathLog[at] = state.clock[CLOCK.step] as number;
  state.deathLog[at + 1] = player;
  state.deathLog[at + 2] = namedThing(session, placement);
  state.deathLog[at + 3] = x;
  state.deathLog[at + 4] = y;
}

/** What is left of a number after death, as the level states. */
function left(share: number, value: number): number {
  if (share === SHARE_KEPT.kept) return value;
  return share === SHARE_KEPT.lost ? 0 : Math.floor(value / 2);
}

/** 9 death: a life is taken, and the return falls due; or the player is out. */
export function settleDeaths(session: Session): void {
  const { compiled, state } = session;
  const { death, meters } = compiled;
  const step = state.clock[CLOCK.step] as number;
  let scoreTaken = false;
  for (let player = 0; player < compiled.playerCount; player += 1) {
    if (state.died[player] === 0) continue;
    state.died[player] = 0;
    const cause = state.deathLine[player] as number;
    let returns = death.returns > 0;
    if (death.returns === 1) {
      const lives = meterOf(session, player, meters.lives);
      returns = lives > (meters.lower[meters.lives] as number);
      if (returns) changePlainly(session, player, meters.lives, -1, cause);
    }
    if (!returns) {
      state.life[player] = LIFE.out;
      continue;
    }
    for (let item = 0; item < compiled.ids.items.length; item += 1) {
      const had = itemsOf(session, player, item);
      const keeps = left(death.items, had);
      if (keeps !== had) changeItems(session, player, NONE, NONE, item, keeps - had, false, cause);
    }
    const score = meterOf(session, player, meters.score);
    const keeps = left(death.score, score);
    if (keeps !== score && !(scoreTaken && compiled.level.players.sharedScore)) {
      changePlainly(session, player, meters.score, keeps - score, cause);
      scoreTaken = true;
    }
    state.dueReturn[player] = step + death.pauseSteps;
    dueAt(session, step + death.pauseSteps);
  }
}

/** A player comes back. */
export function comeBack(session: Session, player: number): void {
  const { compiled, state } = session;
  const { death, meters } = compiled;
  const own = state.returnTo[player] as number;
  const place = findDestination(session, own >= 0 ? own : death.destination, player, NONE, NONE);
  state.dueReturn[player] = NEVER;
  state.life[player] = LIFE.alive;
  const drop = compiled.side ? death.dropHeight : 0;
  const [toX, toY] = [place.x, place.y + drop];
  const displaced = putPlayer(session, player, toX, toY);
  const about = beginLine(session, LINE.returned, player, NONE, NONE);
  atPlace(about, state.playerX[player] as number, state.playerY[player] as number);
  about.cause = state.deathLine[player] as number;
  const line = writeLine(session, about);
  if (place.crowded) note(session, LINE.crowded, player, NONE, NONE, NONE, line, NONE);
  if (displaced) noteDisplaced(session, player, toX, toY, line);
  const missing = death.health - meterOf(session, player, meters.health);
  if (missing !== 0) changePlainly(session, player, meters.health, missing, line);
  protect(session, player, death.graceSteps, death.lockSteps);
  for (let placement = 0; placement < compiled.placedCount; placement += 1) {
    if (exists(session, placement) && death.resets[compiled.forms.kind[state.form[placement] as number] as number] === 1) {
      resetThing(session, placement, line);
    }
  }
  refreshItemRules(session, player, line);
  dieWithoutHealth(session, player, line);
}

/** Whoever begins with no health is dead at once. */
export function dieWithoutHealth(session: Session, player: number, cause: number): void {
  if (outOfHealth(session, player)) die(session, player, NONE, cause, NONE);
}

/** Puts a player's meters and items back to what they are at the session's start, a line for each that is other. */
function beginAnew(session: Session, player: number, cause: number): void {
  const { compiled, state } = session;
  const { meters, items, ids } = compiled;
  for (let meter = 0; meter < ids.meters.length; meter += 1) {
    // What all share is nobody's own to begin anew.
    if (meter === meters.score && compiled.level.players.sharedScore) continue;
    const missing = (meters.start[meter] as number) - meterOf(session, player, meter);
    if (missing !== 0) setQuietly(session, player, meter, missing, cause);
    state.lossStep[cellOf(session, player, meter)] = 0;
  }
  for (let item = 0; item < ids.items.length; item += 1) {
    const missing = (items.start[item] as number) - itemsOf(session, player, item);
    if (missing !== 0) changeItems(session, player, NONE, NONE, item, missing, false, cause);
  }
  state.remainder.fill(0, player * compiled.keyCount, (player + 1) * compiled.keyCount);
  state.checkpointX[player] = NaN;
  state.checkpointY[player] = NaN;
  state.velocityX[player] = 0;
  state.velocityY[player] = 0;
  state.facingX[player] = 1;
  state.facingY[player] = 0;
  // Keys that are held still turn it the way they ask for.
  (session.scratch.motions[player] as PlayerMotion).wishFor.control = NaN;
  state.buttons[player] = 0;
  if (compiled.phaseSlots === 1) return;
  for (let placement = 0; placement < state.form.length; placement += 1) {
    if (exists(session, placement)) resetForPlayer(session, placement, player, cause);
  }
}

/** A player comes into the session: as at its start, whatever it was when it left. */
export function join(session: Session, player: number, cause: number): void {
  const { compiled, state } = session;
  if (state.life[player] !== LIFE.absent) return;
  state.life[player] = LIFE.alive;
  const start = compiled.starts[player] ?? compiled.level.start;
  const displaced = putPlayer(session, player, start.x, start.y);
  const line = note(session, LINE.present, player, NONE, NONE, 1, cause, NONE);
  if (displaced) noteDisplaced(session, player, start.x, start.y, line);
  beginAnew(session, player, line);
  refreshItemRules(session, player, line);
  dieWithoutHealth(session, player, line);
}

/** A player leaves: its overlaps, its changes, what protects it and a return that was due end. */
export function leave(session: Session, player: number, cause: number): void {
  const { state } = session;
  if (state.life[player] === LIFE.absent) return;
  endContacts(session, player);
  closeRegenerations(session, player);
  closeAllItemSpans(session, player);
  state.life[player] = LIFE.absent;
  state.died[player] = 0;
  state.dueReturn[player] = NEVER;
  state.returnTo[player] = NONE;
  const line = note(session, LINE.present, player, NONE, NONE, 0, cause, NONE);
  if (state.held[player] !== NONE) hold(session, player, NONE, line);
  refreshItemRules(session, player, line);
  endAllChanges(session, player, line);
  const step = state.clock[CLOCK.step] as number;
  if ((state.shieldUntil[player] as number) >= step) note(session, LINE.shield, player, NONE, NONE, 0, line, NONE);
  state.shieldUntil[player] = 0;
  state.graceUntil[player] = 0;
  state.lockUntil[player] = 0;
}
