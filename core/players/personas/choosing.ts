import { itemsOf, stepOf, TRAVEL } from '../../session/index.ts';
import type { Offer } from './deeds.ts';
import { chooseUnseen } from './exploring.ts';
import { NEVER_STEP, type Errand, type Purpose } from './mind.ts';
import { SURE_DEATH } from './risk.ts';
import { harmAt, healthOf, offerAt, paceOf, placeOf, wantsHealing, type Thinker } from './thinker.ts';
import { orderStops } from './tour.ts';
import { chancesOf, goalsOf, openersOf, shieldsOf, type Chance, type Wanted } from './wants.ts';
import { lengthBetween, lengthFrom, lengthTo, wayTo, type Choice } from './ways.ts';

/** Most stops that are put in order at once: the nearest. */
const MOST_STOPS = 12;

function errandTo(thinker: Thinker, purpose: Purpose, { placement, offer, wait }: Chance, worth: number): Errand {
  const { x, y } = placeOf(thinker, placement);
  return { purpose, placement, rule: offer.rule, x, y, within: offer.reach, stays: offer.inside || wait > 0, worth };
}

/** Whether a thing keeps moving by itself. */
function travels({ world: { compiled } }: Thinker, placement: number): boolean {
  const traveller = compiled.placements.traveller[placement] as number;
  return traveller >= 0 && compiled.travellers.how[traveller] !== TRAVEL.roving;
}

/** The nearest healing a persona waits no longer for than it has patience. */
function chooseHealing(thinker: Thinker): Choice | null {
  const { persona, world } = thinker;
  if (!wantsHealing(thinker, healthOf(thinker))) return null;
  const pace = paceOf(thinker);
  const near = chancesOf(thinker, ({ what }) => what === 'heal')
    .map((chance) => ({ chance, least: distanceOf(thinker, chance.placement) }))
    .sort((a, b) => a.least - b.least);
  let best: { choice: Choice; cost: number } | null = null;
  for (const { chance, least } of near) {
    if (best !== null && least >= best.cost) break;
    const harm = harmAt(thinker, chance.placement);
    if (harm !== null && harm.onTouch + harm.perSecond >= chance.offer.amount) continue;
    const way = wayTo(thinker, placeOf(thinker, chance.placement), chance.placement, chance.offer.reach);
    if (way === null || way.risk >= SURE_DEATH) continue;
    const wait = Math.max(0, chance.wait / world.compiled.rate - way.length / pace);
    if (wait > persona.patience) continue;
    const cost = way.length + way.risk + wait * pace;
    if (best === null || cost < best.cost) best = { choice: { errand: errandTo(thinker, 'heal', chance, Infinity), way }, cost };
  }
  return best?.choice ?? null;
}

/** A stop that may be made: what for, the longest detour it is worth, and how far off it is in a straight line. Units. */
interface Stop {
  readonly purpose: Purpose;
  readonly chance: Chance;
  readonly worth: number;
  readonly distance: number;
}

/** Puts a stop among others, few of many, that stand by their distance, after those as far; of more than so many the furthest is left out. */
function putNear(stops: Stop[], stop: Stop, most: number): void {
  let at = stops.length;
  while (at > 0 && (stops[at - 1] as Stop).distance > stop.distance) at -= 1;
  if (at >= most) return;
  for (let from = Math.min(stops.length, most - 1); from > at; from -= 1) stops[from] = stops[from - 1] as Stop;
  stops[at] = stop;
}

/** How long a detour an item is worth of which one has none. Units. */
const ITEM_WORTH = 12;

/** What a detour to an offer is worth to a persona while it is about something else. Units. */
function worthOf({ persona, world, session, player }: Thinker, { what, subject, amount }: Offer): number {
  const { meters, level } = world.compiled;
  if (what === 'meter' && subject === meters.score) return persona.greed * amount;
  if (what === 'item') return itemsOf(session, player, subject) === 0 ? ITEM_WORTH : 0;
  const wantsToBeQuick = what === 'boost' && persona.boosts === 'sought' && session.state.changes[player] === 0;
  return wantsToBeQuick ? amount * level.body.speed : 0;
}

const purposeOf = ({ what }: Offer): Purpose => (what === 'item' || what === 'boost' ? what : 'score');

/** How far off, in a straight line, a thing was last seen. Units. */
function distanceOf({ session: { state }, mind, player }: Thinker, placement: number): number {
  const dx = (mind.seenX[placement] as number) - (state.playerX[player] as number);
  const dy = (mind.seenY[placement] as number) - (state.playerY[player] as number);
  return Math.sqrt(dx * dx + dy * dy);
}

/** What is left to do at once of what is needed: the nearest, as many as it takes. */
function needed(thinker: Thinker, { chances, needed: count }: Wanted, purpose: Purpose): Stop[] {
  const stops = chances.map((chance): Stop => ({ purpose, chance, worth: Infinity, distance: distanceOf(thinker, chance.placement) }));
  if (stops.length > 1) stops.sort((a, b) => a.distance - b.distance);
  let left = count;
  let enough = 0;
  for (; enough < stops.length && left > 0; enough += 1) {
    const { offer } = (stops[enough] as Stop).chance;
    left -= offer.what === 'item' ? offer.amount : 1;
  }
  stops.length = enough;
  return stops;
}

/** All a persona would stop for, and where it wants to end up. */
function stopsOf(thinker: Thinker, goal: Wanted | null): Stop[] {
  const { persona, world, mind, session } = thinker;
  const now = stepOf(session);
  const must = goal === null ? [] : needed(thinker, goal, goal.needed > 1 ? 'needed' : 'goal');
  const may: Stop[] = [];
  const most = Math.max(0, MOST_STOPS - must.length);
  for (const chance of chancesOf(thinker, (offer) => worthOf(thinker, offer) > 0)) {
    const { placement, offer, wait } = chance;
    if (wait / world.compiled.rate > persona.patience || (mind.dear[placement] as number) > now) continue;
    if (must.some((stop) => stop.chance.placement === placement)) continue;
    const purpose = purposeOf(offer);
    const worth = worthOf(thinker, offer);
    const distance = distanceOf(thinker, placement);
    // Where nothing else is to be won, the score is what is played for.
    const wins = goal === null && purpose === 'score';
    if (!wins && 2 * worth < distance && travels(thinker, placement)) continue;
    putNear(may, { purpose, chance, worth: wins ? Infinity : worth, distance }, most);
  }
  if (must.length > MOST_STOPS) must.length = MOST_STOPS;
  must.push(...may);
  return must;
}

/** The order of stops that is shortest over all; what is not worth its detour, or cannot be come to, is left out. By their things. */
function tourOf(thinker: Thinker, stops: readonly Stop[], end: Wanted['place']): number[] {
  const open: number[] = [];
  const from: number[] = [];
  const toEnd: number[] = [];
  const worths: number[] = [];
  for (const { chance, worth } of stops) {
    const { placement } = chance;
    const length = lengthTo(thinker, placement);
    if (length === Infinity) continue;
    open.push(placement);
    from.push(length);
    toEnd.push(end === null ? 0 : lengthFrom(thinker, placement, end, end.within));
    worths.push(worth);
  }
  const between = (a: number, b: number): number => lengthBetween(thinker, open[a] as number, open[b] as number);
  return orderStops({ from, between, toEnd, worth: worths }).map((at) => open[at] as number);
}

/** Whether the tour that was found is still the one for these stops: none is new, and none that was left out has come near enough by now. */
function tourHolds(thinker: Thinker, stops: readonly Stop[]): boolean {
  const { tour, considered } = thinker.mind;
  return stops.every(({ chance: { placement }, worth }) => {
    if (tour.includes(placement)) return true;
    return considered.includes(placement) && 2 * distanceOf(thinker, placement) > worth;
  });
}

/** The first of some stops to be made; null when none can be come to. */
function firstStop(thinker: Thinker, stops: readonly Stop[], end: Wanted['place']): Choice | null {
  const { mind, session, world } = thinker;
  if (!tourHolds(thinker, stops)) {
    mind.tour = tourOf(thinker, stops, end);
    mind.considered = stops.map(({ chance }) => chance.placement);
  }
  for (const placement of mind.tour) {
    const stop = stops.find(({ chance }) => chance.placement === placement);
    if (stop === undefined) continue;
    const way = wayTo(thinker, placeOf(thinker, placement), placement, stop.chance.offer.reach);
    // What has to be braved on the way may be more than it is worth.
    const isMust = MUST.has(stop.purpose);
    const isDared = way !== null && way.risk <= stop.worth && (way.risk < SURE_DEATH || isMust);
    if (isDared) return { errand: errandTo(thinker, stop.purpose, stop.chance, stop.worth), way };
    const put = way === null || isMust ? mind.barred : mind.dear;
    put[placement] = stepOf(session) + BARRED_SECONDS * world.compiled.rate;
  }
  return null;
}

/** What the level asks for: gone for as often as one has the patience to die. */
export const MUST: ReadonlySet<Purpose> = new Set(['goal', 'needed', 'help', 'route']);

/** What proved too dear, or could not be come to, is not thought of again for so long. */
const BARRED_SECONDS = 10;

/** How near a way-point of a route is come to, seen from above and from the side. Units. */
const REACHED = 0.5;
const REACHED_SIDE = 2;

/** The way-point of a route that is next, and the way there; null after the last, or when there is none. */
function nextWayPoint(thinker: Thinker, route: NonNullable<Thinker['route']>): Choice | null {
  const { mind, world } = thinker;
  const point = route[mind.wayPoint];
  if (point === undefined) return null;
  const within = world.terrain === null ? REACHED : REACHED_SIDE;
  const way = wayTo(thinker, point, -1, within);
  if (way === null) return null;
  return { errand: { purpose: 'route', placement: -1, rule: -1, x: point.x, y: point.y, within, stays: true, worth: Infinity }, way };
}

/** What a persona does next; null when nothing is left that it would. */
export function choose(thinker: Thinker): Choice | null {
  if (thinker.route !== null) return nextWayPoint(thinker, thinker.route);
  const healing = chooseHealing(thinker);
  if (healing !== null) return healing;
  const goal = goalsOf(thinker);
  // Where what wins cannot be come to, the rest is played for.
  const choice = chooseFor(thinker, goal) ?? (goal === null ? null : chooseFor(thinker, null));
  return choice === null || choice.way.risk < SURE_DEATH ? choice : (chooseShield(thinker) ?? choice);
}

/** Before it goes where it dies for certain: what may shield it, if that can be come to alive. */
function chooseShield(thinker: Thinker): Choice | null {
  const shield = firstStop(thinker, needed(thinker, shieldsOf(thinker), 'help'), null);
  return shield === null || shield.way.risk >= SURE_DEATH ? null : shield;
}

/** What let it jump or go further just now, and still no way leads on, is not tried again. */
function learnFromHelp(thinker: Thinker): void {
  const { mind, session } = thinker;
  const { placement = -1, rule, purpose } = mind.lastErrand ?? {};
  if (purpose !== 'help' || placement < 0 || (session.state.uses[placement] as number) <= mind.usedBefore) return;
  const what = offerAt(thinker, placement, rule)?.what;
  if (what === 'lift' || what === 'boost') mind.barred[placement] = NEVER_STEP;
}

/** What it does next to win by a goal, or as if there were none. */
function chooseFor(thinker: Thinker, goal: Wanted | null): Choice | null {
  const { persona } = thinker;
  const place = goal?.place ?? null;
  const stops = stopsOf(thinker, goal);
  const stop = stops.length === 0 ? null : firstStop(thinker, stops, place);
  if (stop !== null) return stop;
  const look = persona.curiosity > 0 ? chooseUnseen(thinker, place === null ? Infinity : persona.curiosity / 2) : null;
  if (look !== null) return look;
  if (place !== null) {
    const way = wayTo(thinker, place, -1, place.within);
    const { x, y, within } = place;
    if (way !== null) return { errand: { purpose: 'goal', placement: -1, rule: -1, x, y, within, stays: false, worth: Infinity }, way };
  }
  learnFromHelp(thinker);
  const opener = firstStop(thinker, needed(thinker, openersOf(thinker, goal !== null || stops.length > 0), 'help'), null);
  if (opener !== null || goal === null) return opener;
  // Without knowing what wins, or how to come to it, one has to look, curious or not; and again for what has been forgotten.
  const unseen = chooseUnseen(thinker, Infinity);
  if (unseen !== null || !goal.unknown || thinker.mind.rounds >= MOST_ROUNDS) return unseen;
  thinker.mind.rounds += 1;
  thinker.mind.areas.fill(0);
  return chooseUnseen(thinker, Infinity);
}

/** How often one looks everywhere anew for what has been forgotten, or has come since. */
const MOST_ROUNDS = 3;
