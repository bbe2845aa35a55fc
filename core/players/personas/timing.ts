import { apart, clipWay, Span } from '../../geometry/index.ts';
import { stepOf } from '../../session/index.ts';
import { dodgeOf } from './dodging.ts';
import { said, type Hands } from './hands.ts';
import { lateSteps, reactionSteps } from './mind.ts';
import { goneIn } from './opening.ts';
import { backWay, lengthWithin } from './risk.ts';
import { harmAt, healthOf, hereOf, knows, lossBy, paceOf } from './thinker.ts';
import { restOfWay } from './walking.ts';
import type { Zone } from './world.ts';

/** How far before the edge of what it waits for a persona stops. Units. */
const EDGE = 0.3;

const span = new Span();

/** A hazard on a clock that lies just ahead, as it has to be waited for: its zone, and how long it takes to come to it. Null: go on. */
function hazardAhead(hands: Hands, foreseen: number): { zone: number; entering: number; until: number } | null {
  const { world, session, persona, mind, player } = hands;
  const { forms, rate, level } = world.compiled;
  const here = hereOf(hands);
  const to = { x: mind.wayX[mind.next] as number, y: mind.wayY[mind.next] as number };
  const length = apart(here, to);
  const pace = paceOf(hands);
  for (const number of world.clocked) {
    const zone = world.zones[number] as Zone;
    const form = session.state.form[zone.placement] as number;
    const [on, off] = [forms.cycleOn[form] as number, forms.cycleOff[form] as number];
    if (!knows(hands, zone.placement)) continue;
    const harm = harmAt(hands, zone.placement);
    if (harm === null || !clipWay(zone.box, here.x, here.y, to.x, to.y, span)) continue;
    if (span.enter <= 0 || span.enter * length > foreseen) continue;
    const entering = (span.enter * length * rate) / pace;
    const start = (pace / level.body.acceleration) * rate;
    const inside = start + (lengthWithin(zone, here, restOfWay(hands)) / (pace * harm.slows)) * rate;
    const loss = lossBy(harm, Math.min(inside, on) / rate, healthOf(hands));
    // One who sees it go off too late to get through has nothing to wait for; nor is every harm worth a wait.
    const reaction = persona.reaction * rate;
    const costs = persona.caution * loss + harm.kills * backWay(hands, zone.placement, -1);
    if (off - reaction < inside || costs <= (pace * on) / (2 * rate)) continue;
    const due = (session.state.cycleDue[zone.placement] as number) - stepOf(session);
    const isOff = session.state.cycledOff[zone.placement] === 1;
    // What it would still lose may be less than waiting once more is worth; but nobody dies for it.
    const short = Math.max(0, entering + inside - due);
    const lost = short === 0 ? 0 : persona.caution * lossBy(harm, short / rate, healthOf(hands));
    const dares = lost === 0 || (harm.kills === 0 && lost <= (pace * (on + off)) / rate);
    if (isOff && dares && off - due >= reaction - 1) continue;
    const goesOff = isOff && due >= entering + inside ? due - off : isOff ? due + on : due;
    return { zone: number, entering, until: goesOff + Math.max(reaction, reactionSteps(session, mind, persona, player)) };
  }
  return null;
}

/** What bars the way just ahead, and opens by itself: its zone, and how long it takes to come to it. Null: go on. */
function gateAhead(hands: Hands, foreseen: number): ReturnType<typeof hazardAhead> {
  const { world, session, persona, mind, player } = hands;
  const { compiled } = world;
  const here = hereOf(hands);
  const to = { x: mind.wayX[mind.next] as number, y: mind.wayY[mind.next] as number };
  const length = apart(here, to);
  for (const number of world.gates) {
    const { placement, box } = world.zones[number] as Zone;
    const opens = goneIn(compiled, session, compiled.placements.solid[placement] as number);
    if (opens === 0 || opens === Infinity || !knows(hands, placement) || !clipWay(box, here.x, here.y, to.x, to.y, span)) continue;
    if (span.enter * length > foreseen) continue;
    const entering = (span.enter * length * compiled.rate) / paceOf(hands);
    return { zone: number, entering, until: opens + reactionSteps(session, mind, persona, player) };
  }
  return null;
}

/** Stops at the edge of a hazard on a clock that is on, or will be before it is crossed, and waits until it is seen to go off; so before what is closed for a time. */
export function waitAhead(hands: Hands): void {
  const { world, session, persona, mind, player } = hands;
  const { compiled } = world;
  const now = stepOf(session);
  const pace = paceOf(hands);
  const stopping = (pace * pace) / (2 * compiled.braking) + EDGE + persona.timingError * pace;
  const foreseen = pace * Math.max(1 / persona.decisions, 0.1) + stopping;
  const ahead = hazardAhead(hands, foreseen) ?? gateAhead(hands, foreseen);
  if (ahead === null) {
    mind.waitsAt = -1;
    return;
  }
  const { placement } = world.zones[ahead.zone] as Zone;
  const late = lateSteps(session, mind, persona, player);
  const from = now + Math.max(0, Math.round(ahead.entering - (stopping / pace) * compiled.rate + late));
  mind.aside = { purpose: 'wait', placement, from, until: Math.max(from + 1, now + Math.round(ahead.until)), x: 0, y: 0 };
  if (mind.waitsAt !== ahead.zone) said(hands, 'wait', { placement });
  mind.waitsAt = ahead.zone;
}

/** Looks out for what comes near, and leaves the way for a moment where that is better. */
export function dodgeAhead(hands: Hands): void {
  const { mind, session, persona, player, world } = hands;
  const { rate } = world.compiled;
  const now = stepOf(session);
  const here = hereOf(hands);
  const dodges = mind.aside?.purpose === 'dodge';
  // What it has made up its mind to do it does first.
  if (dodges && (mind.aside?.from ?? 0) > now) return;
  // On its feet it cannot leave its line: it stands or goes back for a moment, and then has to go on.
  if (world.terrain !== null && (dodges || now < mind.calmUntil)) return;
  const stands = mind.aside?.purpose === 'wait' && mind.aside.from <= now;
  const dx = stands ? 0 : (mind.wayX[mind.next] as number) - here.x;
  const dy = stands ? 0 : (mind.wayY[mind.next] as number) - here.y;
  const length = Math.sqrt(dx * dx + dy * dy);
  const heads = length > 0.05;
  const dodge = dodgeOf(hands, heads ? dx / length : 0, heads ? dy / length : 0, persona.reaction);
  if (dodge === null) return;
  // Whoever is dodging already has it in view.
  const from = dodges ? now : now + reactionSteps(session, mind, persona, player);
  const { placement, x, y, seconds } = dodge;
  if (!dodges) said(hands, 'dodge', { placement });
  const until = from + Math.max(2, Math.round(seconds * rate));
  mind.aside = { purpose: 'dodge', placement, from, until, x, y };
  mind.calmUntil = until + rate;
}
