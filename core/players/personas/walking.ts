import { apart, turn, type Place } from '../../geometry/index.ts';
import { stepOf } from '../../session/index.ts';
import { letGo, usesInReach, type Hands } from './hands.ts';
import { aimError, lateSteps, type Errand } from './mind.ts';
import { hereOf, paceOf } from './thinker.ts';

/** Goes on to the next turn of the way when one is come to. Answers how far it is to what is next. Units. */
function followWay(hands: Hands): number {
  const { mind, session, world } = hands;
  const here = hereOf(hands);
  const pace = paceOf(hands) / world.compiled.rate;
  for (;;) {
    const distance = apart(here, { x: mind.wayX[mind.next] as number, y: mind.wayY[mind.next] as number });
    if (mind.next >= mind.wayX.length - 1) return mind.wayX.length === 0 ? 0 : distance;
    if (distance > Math.max(0.12, pace)) return distance;
    mind.next += 1;
    mind.stillSince = stepOf(session);
  }
}

/** Presses what leads in a direction, with the error of aim there is now. */
export function head(hands: Hands, x: number, y: number): void {
  const { mind, session, persona, player } = hands;
  const length = Math.sqrt(x * x + y * y);
  if (length < 1e-9) {
    mind.x = 0;
    mind.y = 0;
    return;
  }
  const { cos, sin } = turn(aimError(session, persona, player, stepOf(session)));
  const full = (127 * persona.haste) / length;
  mind.x = Math.round((x * cos - y * sin) * full);
  mind.y = Math.round((x * sin + y * cos) * full);
}

/** What is left of the way. */
export function restOfWay({ mind }: Hands): Place[] {
  return mind.wayX.slice(mind.next).map((x, at) => ({ x, y: mind.wayY[mind.next + at] as number }));
}

/** How long that is, from where it stands. Units. */
export function leftOfWay({ mind, session: { state }, player }: Hands): number {
  let left = 0;
  let x = state.playerX[player] as number;
  let y = state.playerY[player] as number;
  for (let at = mind.next; at < mind.wayX.length; at += 1) {
    const dx = (mind.wayX[at] as number) - x;
    const dy = (mind.wayY[at] as number) - y;
    left += Math.sqrt(dx * dx + dy * dy);
    x = mind.wayX[at] as number;
    y = mind.wayY[at] as number;
  }
  return left;
}

/** The way it takes to come to rest from the speed it has. Units. */
function stoppingFrom({ session: { state }, player, world }: Hands): number {
  const [x, y] = [state.velocityX[player] as number, state.velocityY[player] as number];
  return (x * x + y * y) / (2 * world.compiled.level.body.braking);
}

/** So near to the middle of a thing, one touches it; and so near one still does when it has run out. Units. */
export const THERE = 0.3;
export const STILL_THERE = 1;

/** Whether it has gone over the middle of a thing that it came for: it runs out, and does not turn about over it. */
function isOver({ mind, session: { state }, player }: Hands, { placement, stays }: Errand, left: number): boolean {
  if (placement < 0 || stays) return false;
  if (mind.thereSince >= 0) return left <= STILL_THERE;
  if (left > THERE) return false;
  const x = (mind.wayX[mind.next] as number) - (state.playerX[player] as number);
  const y = (mind.wayY[mind.next] as number) - (state.playerY[player] as number);
  return (state.velocityX[player] as number) * x + (state.velocityY[player] as number) * y < 0;
}

/** Presses what leads on along the way. Answers the steps until that has to change; Infinity: not before it looks again. */
export function walk(hands: Hands, errand: Errand): number {
  const { mind, session, persona, player, world } = hands;
  const { rate, braking } = world.compiled;
  const here = hereOf(hands);
  const left = followWay(hands);
  const pace = paceOf(hands);
  const isLast = mind.next >= mind.wayX.length - 1;
  mind.buttons = 0;
  if (usesInReach(hands, errand)) return 2;
  const stopping = (pace * pace) / (2 * braking);
  if (isLast && errand.stays && left <= stoppingFrom(hands) + 0.1) {
    letGo(mind);
    return left > errand.within ? 2 : Infinity;
  }
  if (isLast && isOver(hands, errand, left)) {
    if (mind.thereSince < 0) mind.thereSince = stepOf(session);
    letGo(mind);
    return Infinity;
  }
  head(hands, (mind.wayX[mind.next] as number) - here.x, (mind.wayY[mind.next] as number) - here.y);
  const stop = isLast && errand.stays ? stopping + 0.05 : 0;
  const late = stop > 0 ? lateSteps(session, mind, persona, player) : 0;
  return Math.max(1, Math.floor(((left - stop) * rate) / pace) + late);
}
