import { CONCERN, LINE, PHASE, REASON, SET_OFF_BY, TRAVEL, WHOLE } from '../compile/codes.ts';
import { attempted, mayAct, setOff } from './acting.ts';
import { addPair } from './spans.ts';
import { findPair } from '../contact/contacts.ts';
import { sweepPair } from '../contact/narrowPhase.ts';
import { LINK, MOST_LINKS } from '../state/links.ts';
import { nameSpawned, namedThing } from '../state/naming.ts';
import { atPlace, comeToNothing, NONE, note, beginLine, writeLine } from '../state/lines.ts';
import { findClearPlace, findDestination } from './places.ts';
import { refreshSolid } from './phases.ts';
import { chooseWeighted, draw, drawDegrees } from '../state/random.ts';
import { emptyRooms, isAlive } from './spawnedThings.ts';
import type { Place, Session } from '../state/running.ts';
import { CLOCK, NEVER } from '../state/state.ts';
import { exists, phaseFor, placeX, placeY, trackOf } from '../state/things.ts';
import { moverTrack } from '../compile/kinematics.ts';
import { dueFor } from '../state/due.ts';
import { standAt } from '../state/courses.ts';
import { wakeThing } from '../state/waking.ts';

/** Sets off all rules that wait for something that is not a touch: a notice, the start, every so often. */
export function setOffWaiting(session: Session, setOffBy: number, notice: number, toucher: number, cause: number): void {
  const { compiled, state } = session;
  const { rules, forms } = compiled;
  for (let placement = 0; placement < state.form.length; placement += 1) {
    const form = state.form[placement] as number;
    if (form < 0) continue;
    for (let rule = forms.ruleStart[form] as number; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
      if (rules.setOffBy[rule] !== setOffBy || (setOffBy === SET_OFF_BY.notice && rules.notice[rule] !== notice)) continue;
      setOffUntouched(session, toucher, placement, rule, cause);
    }
  }
}

/** Sets off one rule without a touch. */
export function setOffUntouched(session: Session, toucher: number, placement: number, rule: number, cause: number): void {
  const attempt = attempted(session, toucher, placement, rule, phaseFor(session, placement, toucher));
  if (mayAct(session, attempt)) setOff(session, toucher, placement, rule, cause);
}

/** Puts a thing that does not follow a path somewhere else. */
function putThing(session: Session, placement: number, x: number, y: number): void {
  const { compiled, state } = session;
  const traveller = compiled.placements.traveller[placement] as number;
  if (traveller < 0 || compiled.travellers.how[traveller] === TRAVEL.path) return;
  standAt(session, traveller, x, y);
  state.drawnBy[traveller] = NONE;
  state.gaveUp.fill(0, traveller * compiled.playerCount, (traveller + 1) * compiled.playerCount);
  moveSolid(session, placement);
  wakeThing(session, placement);
}

/** Brings the box of a thing to where it is. */
export function moveSolid(session: Session, placement: number): void {
  const { compiled, state, scratch } = session;
  const item = compiled.placements.solid[placement] as number;
  const form = state.form[placement] as number;
  if (item < 0 || form < 0) return;
  const { solids } = scratch;
  solids.x[item] = placeX(session, placement) + (compiled.forms.solidX[form] as number);
  solids.y[item] = placeY(session, placement) + (compiled.forms.solidY[form] as number);
  solids.halfWidth[item] = compiled.forms.solidHalfWidth[form] as number;
  solids.halfHeight[item] = compiled.forms.solidHalfHeight[form] as number;
  solids.faces[item] = compiled.forms.solidFaces[form] as number;
}

/** Brings the box of a mover to where it is, as far as things have moved in this step: those before it in their order, or all. */
export function bringSolid(session: Session, item: number): void {
  const { compiled, state, scratch } = session;
  const { solids, courses, solidsAt } = scratch;
  const placement = compiled.solids.owner[item] as number;
  const traveller = compiled.placements.traveller[placement] as number;
  const form = state.form[placement] as number;
  if (form < 0 || compiled.travellers.how[traveller] !== TRAVEL.path) return;
  const now = state.clock[CLOCK.step] as number;
  const step = courses.moved === now || traveller < scratch.movedBefore ? now : now - 1;
  if (solidsAt[item] === step) return;
  solidsAt[item] = step;
  const track = step === now ? trackOf(session, traveller) : scratch.longTrack;
  if (step < now) {
    before.from = Math.max(0, step - 1) * compiled.stepSeconds;
    before.to = Math.max(0, step) * compiled.stepSeconds;
    moverTrack(compiled.movers, compiled.travellers.path[traveller] as number, before, track);
  }
  solids.x[item] = (track.x[track.count - 1] as number) + (compiled.forms.solidX[form] as number);
  solids.y[item] = (track.y[track.count - 1] as number) + (compiled.forms.solidY[form] as number);
}

/** The step before, in seconds. */
const before = { from: 0, to: 0 };

/** Moves a thing to a random clear place. */
export function relocate(session: Session, placement: number, rule: number, toucher: number, cause: number): void {
  const { compiled, state } = session;
  const { rules, forms } = compiled;
  const reach = forms.reach[state.form[placement] as number] as number;
  const player = NONE;
  const [distance, margin] = [rules.moveDistance[rule] as number, rules.moveMargin[rule] as number];
  const { x, y, crowded } = findClearPlace(session, reach, distance, margin, placement, placement, rule, player);
  putThing(session, placement, x, y);
  const about = beginLine(session, LINE.relocated, toucher, placement, rule);
  atPlace(about, x, y);
  about.cause = cause;
  const line = writeLine(session, about);
  if (crowded) note(session, LINE.crowded, NONE, placement, rule, NONE, line, NONE);
}

/** Gives a drifting thing its direction. */
export function startDrift(session: Session, placement: number): void {
  const { compiled, state } = session;
  const traveller = compiled.placements.traveller[placement] as number;
  const form = state.form[placement] as number;
  if (traveller < 0 || form < 0) return;
  const speed = compiled.forms.driftSpeed[form] as number;
  state.travelVelocityX[traveller] = 0;
  state.travelVelocityY[traveller] = 0;
  if (speed <= 0) return;
  const own = compiled.forms.driftDegrees[form] as number;
  const degrees = Number.isNaN(own) ? drawDegrees(session, placement) : ((Math.round(own) % 360) + 360) % 360;
  state.travelVelocityX[traveller] = speed * (compiled.directions[degrees * 2] as number);
  state.travelVelocityY[traveller] = speed * (compiled.directions[degrees * 2 + 1] as number);
}

/** From now on a thing goes on and off by its cycle, and does what it does every so often. */
export function startClock(session: Session, placement: number): void {
  const { compiled, state } = session;
  const { forms, rules, placements } = compiled;
  const form = state.form[placement] as number;
  const now = state.clock[CLOCK.step] as number;
  const on = forms.cycleOn[form] as number;
  const off = forms.cycleOff[form] as number;
  const within = on > 0 ? (forms.cycleOffset[form] as number) % (on + off) : 0;
  const isOff = on > 0 && within >= on;
  state.cycledOff[placement] = isOff ? 1 : 0;
  state.cycleDue[placement] = on === 0 ? NEVER : now + (isOff ? on + off : on) - within;
  dueFor(session, placement, state.cycleDue[placement]);
  const first = forms.ruleStart[form] as number;
  for (let rule = first; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
    if (rules.setOffBy[rule] !== SET_OFF_BY.every) continue;
    const due = now + (rules.everySteps[rule] as number);
    state.everyDue[(placements.ruleSlot[placement] as number) + rule - first] = due;
    dueFor(session, placement, due);
  }
}

/** An empty room for a spawned thing, or −1. */
function freeRoom(session: Session): number {
  for (let placement = session.compiled.placedCount; placement < session.state.form.length; placement += 1) {
    if (!exists(session, placement)) return placement;
  }
  return NONE;
}

/** Makes a new thing of a kind at a place. Answers its placement, or −1 when there is no room. */
function makeThing(session: Session, form: number, x: number, y: number, by: number): number {
  const { compiled, state } = session;
  emptyRooms(session);
  const placement = freeRoom(session);
  if (placement === NONE) return NONE;
  const serial = (state.clock[CLOCK.serial] as number) + 1;
  state.clock[CLOCK.serial] = serial;
  state.form[placement] = form;
  state.spawnedBy[placement] = by;
  state.serialOf[placement] = serial;
  nameSpawned(session, placement, compiled.forms.kind[form] as number);
  const from = placement * compiled.phaseSlots;
  state.phase.fill(PHASE.ready, from, from + compiled.phaseSlots);
  const uses = compiled.placements.ruleSlot;
  state.timesUsed.fill(0, (uses[placement] as number) * compiled.phaseSlots, (uses[placement + 1] as number) * compiled.phaseSlots);
  putThing(session, placement, x, y);
  startDrift(session, placement);
  startClock(session, placement);
  refreshSolid(session, placement);
  return placement;
}

function spawn(session: Session, effect: number, placement: number, toucher: number, cause: number): void {
  const { compiled, state } = session;
  const { effects, pools, forms } = compiled;
  const rule = ruleOf(session, effect);
  const key = effects.key[effect] as number;
  let alive = 0;
  for (let other = compiled.placedCount; other < state.form.length; other += 1) {
    if (isAlive(session, other) && state.spawnedBy[other] === key) alive += 1;
  }
  const player = toucher >= 0 && toucher < compiled.playerCount ? toucher : NONE;
  if (alive >= (effects.most[effect] as number)) {
    comeToNothing(session, toucher, placement, rule, REASON.spawnLimit, cause);
    return;
  }
  const pool = effects.pool[effect] as number;
  const concern = CONCERN.choice;
  const from = pools.start[pool] as number;
  const to = pools.start[pool + 1] as number;
  const chosen = chooseWeighted(pools.weight, from, to, drawFor(session, concern, placement, rule, player));
  const form = pools.kind[chosen] as number;
  const destination = effects.destination[effect] as number;
  const reach = forms.reach[form] as number;
  const place = destination < 0 ? here(session, placement, player) : findSpawnPlace(session, destination, reach, placement, rule, player);
  const made = makeThing(session, form, place.x, place.y, key);
  if (made === NONE) {
    comeToNothing(session, toucher, placement, rule, REASON.spawnLimit, cause);
    return;
  }
  const { crowded } = place;
  const about = beginLine(session, LINE.spawned, toucher, made, rule);
  about.subject = form;
  atPlace(about, place.x, place.y);
  about.cause = cause;
  about.other = namedThing(session, placement);
  const line = writeLine(session, about);
  if (crowded) note(session, LINE.crowded, NONE, made, rule, NONE, line, NONE);
}

function drawFor(session: Session, concern: number, placement: number, rule: number, player: number): number {
  return draw(session, concern, placement, rule, placement < 0 && player < 0 ? 0 : player);
}

/** The place of whatever spawns: a thing, else the player whose item does. */
function here(session: Session, placement: number, player: number): Place {
  const { state, scratch } = session;
  const { place } = scratch;
  place.x = placement >= 0 ? placeX(session, placement) : player >= 0 ? (state.playerX[player] as number) : 0;
  place.y = placement >= 0 ? placeY(session, placement) : player >= 0 ? (state.playerY[player] as number) : 0;
  place.crowded = false;
  return place;
}

/** Where a spawned thing goes. */
function findSpawnPlace(session: Session, destination: number, reach: number, placement: number, rule: number, player: number): Place {
  const { destinations } = session.compiled;
  if (destinations.start[destination] === destinations.start[destination + 1]) {
    const distance = destinations.distance[destination] as number;
    return findClearPlace(
      session,
      reach,
      distance,
      destinations.margin[destination] as number,
      NONE,
      placement,
      rule,
      Math.max(player, placement < 0 ? 0 : NONE),
    );
  }
  return findDestination(session, destination, Math.max(0, player), placement, rule);
}

/** The rule an effect belongs to. */
function ruleOf(session: Session, effect: number): number {
  const { effectStart } = session.compiled.rules;
  let low = 0;
  let high = effectStart.length - 2;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((effectStart[middle] as number) <= effect) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** 8 what was set off: notices, spawns, relocations, in order; at most 64 links, then it is stopped with a line. */
export function runLinks(session: Session): void {
  const { links } = session.scratch;
  for (links.done = 0; links.done < links.count; links.done += 1) {
    const at = links.done;
    const cause = links.cause[at] as number;
    const placement = links.placement[at] as number;
    const toucher = links.toucher[at] as number;
    const subject = links.subject[at] as number;
    if (at >= MOST_LINKS) {
      note(session, LINE.stopped, NONE, placement, NONE, NONE, cause, links.count - at);
      break;
    }
    if (links.type[at] === LINK.notice) {
      session.state.noticed[subject] = (session.state.noticed[subject] as number) + 1;
      session.scratch.noticeLine[subject] = cause;
      setOffWaiting(session, SET_OFF_BY.notice, subject, toucher, cause);
    } else if (links.type[at] === LINK.spawn) spawn(session, subject, placement, toucher, cause);
    else if (exists(session, placement)) relocate(session, placement, subject, toucher, cause);
  }
  links.count = 0;
}

/** Puts down one of the item held, as the thing it drops as, already touching whoever dropped it. */
export function dropThing(session: Session, player: number, form: number, cause: number): boolean {
  const { compiled, state } = session;
  const made = makeThing(session, form, state.playerX[player] as number, state.playerY[player] as number, NONE);
  if (made === NONE) return false;
  const about = beginLine(session, LINE.spawned, player, made, NONE);
  about.subject = form;
  atPlace(about, state.playerX[player] as number, state.playerY[player] as number);
  about.cause = cause;
  writeLine(session, about);
  touchAtOnce(session, player, made, WHOLE);
  const zones = compiled.forms.zones[form] as number;
  for (let zone = 1; zones >> zone > 0; zone += 1) {
    if (((zones >> zone) & 1) === 0) continue;
    const stretches = sweepPair(session, player, made, zone);
    if (stretches.count > 0 && stretches.to[stretches.count - 1] === 1) touchAtOnce(session, player, made, zone);
  }
  return true;
}

/** Begins a contact that nothing arrives by. */
function touchAtOnce(session: Session, player: number, placement: number, zone: number): void {
  const { compiled, state } = session;
  const pair = findPair(session, player, placement, zone);
  if (pair >= 0) return;
  addPair(session, -1 - pair, player, placement, zone, (state.clock[CLOCK.step] as number) * compiled.stepSeconds);
}
