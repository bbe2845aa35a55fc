import { apart } from '../../geometry/index.ts';
import { deathsOf, exists, INPUT_WIDTH, LIFE, meterOf, placementOf, placeX, placeY, stepOf } from '../../session/index.ts';
import { hasCome, MOST_WAIT_SECONDS } from '../waited.ts';
import { leapKey } from './air.ts';
import { choose, MUST } from './choosing.ts';
import { climb, isFalling, isGrounded } from './climbing.ts';
import { letGo, said, stir, type Hands } from './hands.ts';
import { look, miss } from './looking.ts';
import { NEVER_STEP, type Ending, type Errand, type Mind, type Purpose } from './mind.ts';
import { areaAt, isSeen, markSeen } from './seeing.ts';
import { bodyOf, healthOf, hereOf, isRooted, movesAlike, offerAt, paceOf, placeOf } from './thinker.ts';
import { outOf } from './stepping.ts';
import { dodgeAhead, waitAhead } from './timing.ts';
import { head, leftOfWay, STILL_THERE, THERE, walk } from './walking.ts';
import { restAfter, waitFor } from './wants.ts';
import { wayTo, type Choice } from './ways.ts';

/** Takes up what was chosen. */
function take(hands: Hands, { errand, way }: Choice): void {
  const { mind, session } = hands;
  const { lastErrand } = mind;
  const { placement, x, y, worth } = errand;
  const there = placement >= 0 || errand.purpose === 'explore' || (lastErrand?.x === x && lastErrand.y === y);
  const same = lastErrand?.placement === placement && lastErrand.rule === errand.rule && lastErrand.purpose === errand.purpose && there;
  mind.errand = errand;
  mind.lastErrand = errand;
  mind.idleSince = -1;
  mind.usedBefore = errand.placement < 0 ? 0 : (session.state.uses[errand.placement] as number);
  const out = outOf(hands, errand);
  const places = out === null ? way.places : [out, ...way.places];
  mind.wayX = places.map(({ x }) => x);
  mind.wayY = places.map(({ y }) => y);
  mind.next = 0;
  mind.legs = way.legs;
  mind.runsUp = false;
  mind.beginsAt = -1;
  if (!same || out !== null) mind.thereSince = -1;
  if (same) return;
  mind.hops = 0;
  mind.nearest = Infinity;
  mind.begun += 1;
  if (errand.purpose !== 'explore' && getsOn(mind)) mind.progressAt = stepOf(session);
  said(hands, errand.purpose, { placement, x, y, worth });
}

function end(hands: Hands, how: Ending): void {
  hands.mind.ended = how;
  hands.mind.leap = null;
  letGo(hands.mind);
  said(hands, how);
}

function chooseAnew(hands: Hands): void {
  const { mind, world } = hands;
  mind.chooseAt = NEVER_STEP;
  let choice = choose(hands);
  if (choice === null) {
    // What was put off is all there is; but not what it has just been given, and is given without end.
    const had = mind.lastErrand?.placement ?? -1;
    const isGiven = had >= 0 && (hands.session.state.uses[had] as number) > mind.usedBefore;
    const last = isGiven && world.compiled.rules.uses[mind.lastErrand?.rule ?? -1] === 0 ? had : -1;
    for (let thing = 0; thing < mind.barred.length; thing += 1)
      if (mind.barred[thing] !== NEVER_STEP && thing !== last) mind.barred[thing] = 0;
    for (let thing = 0; thing < mind.dear.length; thing += 1) if (thing !== last) mind.dear[thing] = 0;
    choice = choose(hands);
  }
  if (choice !== null) take(hands, choice);
  else if (world.terrain !== null && !isGrounded(hands)) {
    // It comes down first.
    letGo(mind);
    mind.wake = mind.nextLook;
  } else if (!idles(hands)) end(hands, 'nothing left to do');
}

/** So many times more may be brought forth before one thinks that nothing is. */
const MOST_BROUGHT = 3;

/** Waits, where there is anything to win, for what may yet be brought forth. Answers whether it does. */
function idles({ mind, session, world, persona }: Hands): boolean {
  const now = stepOf(session);
  const { compiled, bringsIn, wins } = world;
  if (bringsIn === 0 || (compiled.goals.length === 0 && !wins.includes(true))) return false;
  if (mind.idleSince < 0) mind.idleSince = now;
  letGo(mind);
  mind.wake = mind.nextLook;
  return now - mind.idleSince <= Math.min(MOST_BROUGHT * bringsIn + 2 * compiled.rate, persona.givesUpSeconds * compiled.rate);
}

/** Whether the errand is done, or has come to nothing. */
function settled(hands: Hands, errand: Errand): boolean {
  const { session, mind, player, world } = hands;
  const here = hereOf(hands);
  if (errand.placement < 0) {
    if (errand.purpose === 'explore') return isSeen(mind.areas, areaAt(world.areas, errand));
    const leg = mind.legs.at(-1);
    // A way-point in the air is come to where one can stand nearest it.
    if (errand.purpose === 'route' && leg !== undefined) return mind.next === mind.legs.length - 1 && Math.abs(leg.x - here.x) < 0.15;
    return apart(here, errand) <= Math.max(0.05, errand.within * 0.9);
  }
  if (!exists(session, errand.placement)) return true;
  const offer = offerAt(hands, errand.placement, errand.rule);
  if (offer === undefined) return true;
  if (!offer.inside && (session.state.uses[errand.placement] as number) > mind.usedBefore) {
    // What gives again and again is come back to more and more seldom, but by who needs it.
    const times = errand.purpose === 'heal' ? 1 : (session.state.uses[errand.placement] as number);
    const rest = restAfter(hands, offer, times);
    if (rest > 0) mind.barred[errand.placement] = stepOf(session) + rest * world.compiled.rate;
    return true;
  }
  const wait = waitFor(session, player, errand.placement, offer);
  return wait > 0 && (!errand.stays || wait === Infinity);
}

/** Whether it has stood still for so long that what it is about cannot be come to. Seconds. */
const STUCK_SECONDS = 0.8;

/** Whether it has come to a thing, so much of its way being left, and nothing comes of it. */
function isInVain(hands: Hands, errand: Errand | null, left: number): boolean {
  const { mind, session, world } = hands;
  // Whoever has come in full run goes past it, and turns: it is there all the same.
  const near = mind.thereSince < 0 ? THERE : STILL_THERE;
  const there = errand !== null && errand.placement >= 0 && left < near && (!errand.stays || gainsNothing(hands, errand));
  if (!there) mind.thereSince = -1;
  else if (mind.thereSince < 0) mind.thereSince = stepOf(session);
  if (errand !== null && !errand.stays && mind.hops > MOST_HOPS) return true;
  return there && stepOf(session) - mind.thereSince > STUCK_SECONDS * world.compiled.rate;
}

/** Notes how it gets on; gives up what does not come nearer, and all when nothing has for too long. */
function judge(hands: Hands): void {
  const { mind, session, persona, player, world } = hands;
  const { rate } = world.compiled;
  const now = stepOf(session);
  const here = hereOf(hands);
  const moved = apart(here, { x: mind.lastX, y: mind.lastY });
  const expected = (paceOf(hands) * (now - mind.lastLook)) / rate;
  const rooted = isRooted(hands) || now < (session.state.lockUntil[player] as number);
  if (!(moved < 0.2 * expected) || rooted || mind.leap !== null || (mind.x === 0 && mind.y === 0)) mind.stillSince = now;
  // Put somewhere else: the way is another, and what one may do without is not worth it again and again.
  if (mind.put !== 'no') {
    mind.chooseAt = now;
    if (mind.put === 'back' && mind.errand !== null) giveUpFor(hands, mind.errand);
    mind.put = 'no';
  }
  mind.lastX = here.x;
  mind.lastY = here.y;
  mind.lastLook = now;
  const left = leftOfWay(hands);
  if (left < mind.nearest - 0.1) {
    mind.nearest = left;
    if (getsOn(mind)) mind.progressAt = now;
  }
  const { errand } = mind;
  const inVain = isInVain(hands, errand, left);
  if (now - mind.progressAt > persona.givesUpSeconds * rate) end(hands, 'gave up');
  else if (errand !== null && (inVain || now - mind.stillSince > STUCK_SECONDS * rate)) {
    mind.stillSince = now;
    mind.thereSince = -1;
    mind.hops = 0;
    setAside(hands, errand);
    mind.errand = null;
  }
}

/** Whether it stays at something that would act at once, and does not: it acts on who comes. */
function gainsNothing(hands: Hands, { placement, rule }: Errand): boolean {
  const offer = offerAt(hands, placement, rule);
  return offer !== undefined && !offer.inside && waitFor(hands.session, hands.player, placement, offer) === 0;
}

/** So often one jumps for a thing that stays out of reach. */
const MOST_HOPS = 5;

/** What cannot be come to, or gives nothing, is not thought of again for a while; after three times for good. */
function setAside({ mind, session, world }: Hands, errand: Errand): void {
  const { placement } = errand;
  if (placement >= 0) {
    const times = Math.min(3, (mind.vain[placement] as number) + 1);
    mind.vain[placement] = times;
    mind.barred[placement] = times === 3 ? NEVER_STEP : stepOf(session) + 10 * times * world.compiled.rate;
    return;
  }
  markSeen(mind.areas, areaAt(world.areas, errand));
}

/** Sets aside for a while what one may do without, and has cost one dear. */
function giveUpFor(hands: Hands, errand: Errand): void {
  if (!MUST.has(errand.purpose)) setAside(hands, errand);
}

/** Keeps the way to something that moves. */
function follow(hands: Hands, errand: Errand): void {
  const { mind, world } = hands;
  if (errand.placement < 0 || (world.compiled.placements.traveller[errand.placement] as number) < 0) return;
  if (miss(hands, errand)) {
    mind.errand = null;
    return;
  }
  const to = placeOf(hands, errand.placement);
  const last = mind.wayX.length - 1;
  if (apart(to, { x: mind.wayX[last] as number, y: mind.wayY[last] as number }) < 0.3) return;
  const way = wayTo(hands, to, errand.placement, errand.within);
  if (way !== null) {
    take(hands, { errand: { ...errand, ...to }, way });
    return;
  }
  setAside(hands, errand);
  mind.errand = null;
}

/** Whoever was killed by a thing knows of it, seen or not. */
function learnFromDeath({ mind, session, player }: Hands): void {
  const id = deathsOf(session).findLast((death) => death.player === player + 1)?.placement ?? null;
  const placement = id === null ? -1 : placementOf(session, id);
  if (placement < 0 || !exists(session, placement)) return;
  mind.seen[placement] = stepOf(session);
  mind.seenX[placement] = placeX(session, placement);
  mind.seenY[placement] = placeY(session, placement);
}

/** Nobody goes so much further in a step than it is fast. Units. */
const LEAST_PUT = 0.5;

/** Notices that it has been put somewhere else, and whether that is further from where it is going. */
function feelPut({ mind, session: { state, compiled }, player }: Hands): void {
  const x = state.playerX[player] as number;
  const y = state.playerY[player] as number;
  const dx = x - mind.stepX;
  const dy = y - mind.stepY;
  const speed = Math.abs(state.velocityX[player] as number) + Math.abs(state.velocityY[player] as number);
  const most = LEAST_PUT + speed * compiled.stepSeconds;
  if (dx * dx + dy * dy > most * most) {
    const { errand, stepX, stepY } = mind;
    const isBack = errand !== null && mind.leap === null && apart({ x, y }, errand) > apart({ x: stepX, y: stepY }, errand);
    mind.put = isBack ? 'back' : 'on';
  }
  mind.stepX = x;
  mind.stepY = y;
}

/** Notices what has happened to it: death, coming back, being hurt. Answers whether it is there to act. */
function feel(hands: Hands): boolean {
  const { mind, session, player, world, persona } = hands;
  feelPut(hands);
  const now = stepOf(session);
  const alive = session.state.life[player] === LIFE.alive;
  const health = healthOf(hands);
  if (!alive) {
    if (mind.alive) {
      mind.deaths += 1;
      learnFromDeath(hands);
      if (mind.leap !== null) mind.missed.push(leapKey(mind.leap));
      if (mind.errand !== null) giveUpFor(hands, mind.errand);
    }
    mind.alive = false;
    mind.errand = null;
    mind.aside = null;
    letGo(mind);
    mind.health = health;
    return false;
  }
  if (!mind.alive) {
    mind.alive = true;
    mind.put = 'no';
    mind.nextLook = now;
    mind.progressAt = now;
    mind.stillSince = now;
    stir(hands);
    if (mind.deaths >= persona.givesUpDeaths) end(hands, 'gave up');
  }
  if (health < mind.health && now - mind.hurtAt > world.compiled.rate) {
    mind.hurtAt = now;
    stir(hands);
  }
  mind.health = health;
  const score = meterOf(session, player, world.compiled.meters.score);
  if (score > mind.score) {
    mind.progressAt = now;
    mind.begun = 0;
  }
  mind.score = score;
  return true;
}

/** Stays at a way-point of a route for as long as that says, and until what is waited for there has come; then the next is its errand. */
function leaveWayPoint({ mind, session, player, route, world }: Hands): boolean {
  const now = stepOf(session);
  const point = route?.[mind.wayPoint];
  if (point === undefined) return true;
  const { rate } = world.compiled;
  if (mind.pausesSince < 0) mind.pausesSince = now;
  const stayed = now - mind.pausesSince;
  const waits = stayed < point.pause * rate || (stayed < (point.pause + MOST_WAIT_SECONDS) * rate && !hasCome(session, player, point));
  if (waits) {
    mind.progressAt = now;
    mind.stillSince = now;
    letGo(mind);
    mind.wake = now + 3;
    return false;
  }
  mind.pausesSince = -1;
  mind.wayPoint += 1;
  return true;
}

/** Notices that it moves otherwise than it did: its ways are others then, and what it missed it may reach now. */
function feelBody(hands: Hands): void {
  const { mind, session, world } = hands;
  if (world.terrain === null) return;
  const body = bodyOf(hands);
  const before = mind.body ?? world.compiled.level.body;
  mind.body = body;
  if (movesAlike(body, before)) return;
  mind.missed = [];
  mind.chooseAt = stepOf(session);
}

/** Looks round and judges how it gets on. */
function lookRound(hands: Hands): void {
  const { mind, session, persona, world } = hands;
  mind.nextLook = stepOf(session) + Math.max(1, Math.round(world.compiled.rate / persona.decisions));
  look(hands);
  feelBody(hands);
  if (mind.errand !== null || mind.leap !== null) judge(hands);
  if (mind.errand !== null) follow(hands, mind.errand);
}

/** What is not played for, but helps to. */
const ON_THE_WAY: ReadonlySet<Purpose> = new Set(['heal', 'help', 'boost', 'wait', 'dodge']);

/** So many errands may be begun before one has to bring what is played for: who heals and is hurt again and again does not get on. */
const MOST_BEGUN = 40;

const getsOn = ({ begun }: Mind): boolean => begun <= MOST_BEGUN;

/** Is done with an errand once that is settled. Answers whether it may go on: at a way-point it may have to stay. */
function finishErrand(hands: Hands): boolean {
  const { mind, session } = hands;
  if (mind.errand === null || !settled(hands, mind.errand)) return true;
  if (mind.errand.purpose === 'route' && !leaveWayPoint(hands)) return false;
  const { placement, purpose } = mind.errand;
  // What comes after something that was needed is looked for anew.
  if (MUST.has(purpose)) mind.rounds = 0;
  mind.tour = mind.tour.filter((one) => one !== placement);
  mind.considered = mind.considered.filter((one) => one !== placement);
  mind.errand = null;
  const isUsed = placement < 0 || (session.state.uses[placement] as number) > mind.usedBefore;
  if (isUsed && !ON_THE_WAY.has(purpose)) mind.begun = 0;
  if (getsOn(mind)) mind.progressAt = stepOf(session);
  return true;
}

/** Looks, chooses and steers, where it is time for that. */
function think(hands: Hands): void {
  const { mind, session, world } = hands;
  const now = stepOf(session);
  const looks = now >= mind.nextLook;
  if (looks) lookRound(hands);
  if (mind.ended !== null || !finishErrand(hands)) return;
  // In the air it comes down first.
  if ((mind.errand === null || now >= mind.chooseAt) && mind.leap === null && !isFalling(hands)) chooseAnew(hands);
  const errand = mind.errand ?? (mind.leap === null ? null : mind.lastErrand);
  if (errand === null) return;
  const over = mind.aside !== null && now >= mind.aside.until;
  if (over) mind.aside = null;
  if (mind.leap === null && (looks || over) && (world.terrain === null || isGrounded(hands))) {
    if (mind.aside === null) waitAhead(hands);
    dodgeAhead(hands);
  }
  const { aside } = mind;
  if (aside !== null && now >= aside.from) {
    mind.buttons = 0;
    head(hands, aside.x, aside.y);
    mind.stillSince = now;
    mind.wake = Math.min(mind.nextLook, aside.until);
    return;
  }
  mind.wake = Math.min(
    mind.nextLook,
    now + (world.terrain === null ? walk(hands, errand) : climb(hands, errand)),
    aside?.from ?? NEVER_STEP,
  );
}

/** Fills the inputs of its player for the next step. */
export function pressKeys(hands: Hands, inputs: Int8Array): void {
  const { mind, session, player } = hands;
  const now = stepOf(session);
  if (mind.ended === null && feel(hands) && (now >= mind.wake || now >= mind.chooseAt)) think(hands);
  const at = player * INPUT_WIDTH;
  inputs[at] = mind.x;
  inputs[at + 1] = mind.y;
  inputs[at + 2] = mind.buttons;
  inputs[at + 3] = 0;
}
