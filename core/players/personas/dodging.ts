import { apart, isClear, Region, turn } from '../../geometry/index.ts';
import { exists, moverPlace, passing, PHASE, phaseFor, placeX, placeY, stepOf, TRAVEL, travellersIn } from '../../session/index.ts';
import { harmAt, healthOf, hereOf, isRooted, lossBy, paceOf, type Thinker } from './thinker.ts';

/** Something harmful that comes near: where it is, where it will be at each moment that is foreseen, how near is touching, and what touching it costs. Units. */
interface Threat {
  readonly placement: number;
  readonly x: number;
  readonly y: number;
  readonly ahead: readonly number[];
  readonly touches: number;
  readonly cost: number;
}

/** How far ahead one looks out for what comes. Seconds. */
const AHEAD = 1.6;
/** How much wider than its shapes a harm is kept off. Units. */
const BERTH = 0.25;
/** So long one is inside of what passes by. Seconds. */
const BRUSH_SECONDS = 0.4;

const around = new Region();

/** Things that travel within a distance of a player, or not far beyond, in no order. Units. */
export function travellersNear(thinker: Thinker, distance: number): number[] {
  const { x, y } = hereOf(thinker);
  around.left = x - distance;
  around.right = x + distance;
  around.bottom = y - distance;
  around.top = y + distance;
  return travellersIn(thinker.session, around);
}

/** How many moments of what is foreseen are looked at. */
const MOMENTS = 8;

/** Where something that is at a place now will be at each moment, some seconds on, x before y: along its path, or straight on. */
function placesAhead({ world: { compiled }, session }: Thinker, traveller: number, x: number, y: number, after: number): Threat['ahead'] {
  const ahead: number[] = [];
  const path = compiled.travellers.path[traveller] as number;
  const now = stepOf(session) * compiled.stepSeconds;
  const velocityX = session.state.travelVelocityX[traveller] as number;
  const velocityY = session.state.travelVelocityY[traveller] as number;
  let fromX = 0;
  let fromY = 0;
  if (path >= 0) {
    moverPlace(compiled.movers, path, now);
    fromX = passing.x;
    fromY = passing.y;
  }
  for (let moment = 0; moment <= MOMENTS; moment += 1) {
    const seconds = after + (AHEAD * moment) / MOMENTS;
    if (path >= 0) moverPlace(compiled.movers, path, now + seconds);
    ahead.push(x + (path >= 0 ? passing.x : velocityX * seconds) - fromX, y + (path >= 0 ? passing.y : velocityY * seconds) - fromY);
  }
  return ahead;
}

/** Whether something that keeps moving by itself is there, and harms. */
function isHarmful(thinker: Thinker, traveller: number): boolean {
  const { placement, how } = thinker.world.compiled.travellers;
  const thing = placement[traveller] as number;
  return how[traveller] !== TRAVEL.roving && exists(thinker.session, thing) && harmAt(thinker, thing) !== null;
}

function threatsOf(thinker: Thinker, after: number): Threat[] {
  const { world, session, persona, player } = thinker;
  const { compiled } = world;
  const pace = paceOf(thinker);
  const here = hereOf(thinker);
  const reach = Math.min(persona.sight, (pace + compiled.fastest) * (AHEAD + persona.reaction) + 2);
  const threats: Threat[] = [];
  const harmful = travellersNear(thinker, reach).filter((traveller) => isHarmful(thinker, traveller));
  // In order of their number: what they cost is summed in that order.
  if (harmful.length > 1) harmful.sort((a, b) => a - b);
  for (const traveller of harmful) {
    const placement = compiled.travellers.placement[traveller] as number;
    const harm = harmAt(thinker, placement);
    const phase = phaseFor(session, placement, player);
    const loss = harm === null ? 0 : lossBy(harm, BRUSH_SECONDS, healthOf(thinker));
    if (loss <= 0 || phase === PHASE.spent || phase === PHASE.off) continue;
    const x = placeX(session, placement);
    const y = placeY(session, placement);
    if (apart(here, { x, y }) > reach) continue;
    const touches = (compiled.forms.reach[session.state.form[placement] as number] as number) + compiled.bodyReach + BERTH;
    threats.push({ placement, x, y, ahead: placesAhead(thinker, traveller, x, y, after), touches, cost: persona.caution * loss });
  }
  return threats;
}

/**
 * What it costs to go on in a direction, from where one will be when one acts: for each harm that is met, for the meeting, and again for how
 * long it lasts, since who stays in harm's way is met again.
 */
function meeting(threats: readonly Threat[], x: number, y: number, velocityX: number, velocityY: number): number {
  let cost = 0;
  for (const threat of threats) {
    let met = -1;
    let moments = 0;
    for (let moment = 0; moment <= MOMENTS; moment += 1) {
      const time = (AHEAD * moment) / MOMENTS;
      const dx = (threat.ahead[2 * moment] as number) - (x + velocityX * time);
      const dy = (threat.ahead[2 * moment + 1] as number) - (y + velocityY * time);
      if (dx * dx + dy * dy >= threat.touches * threat.touches) continue;
      if (met < 0) met = moment;
      moments += 1;
    }
    // What is met later may yet be seen to.
    if (met >= 0) cost += threat.cost * (0.6 - (0.3 * met) / MOMENTS + (0.6 * moments) / (MOMENTS + 1));
  }
  return cost;
}

/** Ways out: besides standing still, directions off the way gone; seen from the side only back. Degrees. */
const TURNS = [40, -40, 80, -80, 130, -130, 180];
const BACK = [180];

/** What a persona does about what comes near: the thing, the direction it goes instead, (0, 0) to stand, and for how many seconds. */
export interface Dodge {
  readonly placement: number;
  readonly x: number;
  readonly y: number;
  readonly seconds: number;
}

/**
 * Whether to leave the way for a moment, as things are seen to move now and are expected to move on straight. Null while nothing harmful
 * would be met, or getting out of its way would be no better.
 */
export function dodgeOf(thinker: Thinker, headingX: number, headingY: number, after: number): Dodge | null {
  const { world, persona } = thinker;
  if (persona.caution === 0 || isRooted(thinker)) return null;
  const threats = threatsOf(thinker, after);
  if (threats.length === 0) return null;
  const pace = paceOf(thinker);
  const here = hereOf(thinker);
  const x = here.x + headingX * pace * after;
  const y = here.y + headingY * pace * after;
  const onward = meeting(threats, x, y, headingX * pace, headingY * pace);
  if (onward <= 0) return null;
  const lost = 0.5 * pace;
  let best = { cost: onward, x: headingX, y: headingY, turned: false };
  const consider = (toX: number, toY: number, extra: number): void => {
    const cost = meeting(threats, x, y, toX * pace, toY * pace) + extra;
    if (cost < best.cost - 1e-9) best = { cost, x: toX, y: toY, turned: true };
  };
  consider(0, 0, lost);
  const [aheadX, aheadY] = headingX === 0 && headingY === 0 ? [1, 0] : [headingX, headingY];
  for (const degrees of world.terrain === null ? TURNS : BACK) {
    const { cos, sin } = turn(degrees);
    const [toX, toY] = [aheadX * cos - aheadY * sin, aheadX * sin + aheadY * cos];
    const room = pace * 0.4 + world.compiled.bodyReach;
    if (isClear(world.walls, x, y, x + toX * room, y + toY * room)) consider(toX, toY, lost * (1 - cos));
  }
  if (!best.turned) return null;
  const nearest = threats.reduce((a, b) => (apart(a, { x, y }) <= apart(b, { x, y }) ? a : b));
  return { placement: nearest.placement, x: best.x, y: best.y, seconds: 0.35 };
}
