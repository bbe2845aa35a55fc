import type { Place } from '../../geometry/index.ts';
import type { Level, Persona, Route } from '../../level/index.ts';
import { meterOf, MOVEMENT, movementAlong, movementOf, stepOf, type Compiled, type Session } from '../../session/index.ts';
import type { Harm, Offer } from './deeds.ts';
import type { Terrain } from './leaping.ts';
import type { Mind } from './mind.ts';
import type { World } from './world.ts';

/** Who thinks, about what. */
export interface Thinker {
  readonly world: World;
  readonly session: Session;
  readonly persona: Persona;
  readonly mind: Mind;
  readonly player: number;
  /** The way-points it has been told to follow; null: it goes where it likes. */
  readonly route: Route['wayPoints'] | null;
}

/** Where a persona stands. */
export function hereOf({ session: { state }, player }: Thinker): Place {
  return { x: state.playerX[player] as number, y: state.playerY[player] as number };
}

/** Where it last saw a thing. */
export function placeOf({ mind }: Thinker, placement: number): Place {
  return { x: mind.seenX[placement] as number, y: mind.seenY[placement] as number };
}

/** How fast a persona goes by itself now. Units a second. */
export function paceOf({ session, persona, player }: Thinker): number {
  return Math.max(0.01, movementOf(session, player, MOVEMENT.speed) * persona.haste);
}

/** Its body, as it moves wherever it goes: with all changes that it takes along. */
export function bodyOf({ world: { compiled }, session, player }: Thinker): Level['body'] {
  const { body } = compiled.level;
  if (session.state.changes[player] === 0) return body;
  return {
    ...body,
    speed: movementAlong(session, player, MOVEMENT.speed),
    acceleration: movementAlong(session, player, MOVEMENT.acceleration),
    jumpSpeed: movementAlong(session, player, MOVEMENT.jump),
    gravity: movementAlong(session, player, MOVEMENT.gravity),
  };
}

export const movesAlike = (a: Level['body'], b: Level['body']): boolean =>
  a.speed === b.speed && a.acceleration === b.acceleration && a.jumpSpeed === b.jumpSpeed && a.gravity === b.gravity;

/** Seen from the side, where its body, as it moves now, can stand and how it leaps. */
export function groundOf(thinker: Thinker, terrain: Terrain): Terrain {
  const body = bodyOf(thinker);
  return movesAlike(body, terrain.body) ? terrain : terrain.as(body);
}

/** Whether its keys do nothing to where it goes. */
export function isRooted({ session, player }: Thinker): boolean {
  return movementOf(session, player, MOVEMENT.control) <= 0;
}

export function healthOf({ session, player }: Thinker): number {
  return meterOf(session, player, session.compiled.meters.health);
}

/** Health as a share of its limit; of what one starts with, where it has none. */
export function shareOfHealth({ meters }: Compiled, health: number): number {
  const lower = meters.lower[meters.health] as number;
  const upper = meters.upper[meters.health] as number;
  return (health - lower) / ((Number.isFinite(upper) ? upper : (meters.start[meters.health] as number)) - lower);
}

/** Whether a persona with this health looks for healing. */
export function wantsHealing({ persona, world }: Thinker, health: number): boolean {
  return shareOfHealth(world.compiled, health) < persona.healsBelow;
}

/** Whether a persona knows of a thing: it has been seen, and is not yet forgotten. */
export function knows({ session, persona, mind }: Thinker, placement: number): boolean {
  const seen = mind.seen[placement] as number;
  return seen >= 0 && stepOf(session) - seen <= persona.memory * session.compiled.rate;
}

const NO_OFFERS: readonly Offer[] = [];

/** What a thing gives to a player. */
export function offersAt({ world, session, player }: Thinker, placement: number): readonly Offer[] {
  return world.deeds[player]?.[session.state.form[placement] as number]?.offers ?? NO_OFFERS;
}

/** What a rule of a thing gives to a player, if it is there and gives anything. */
export const offerAt = (thinker: Thinker, placement: number, rule: number | undefined): Offer | undefined =>
  offersAt(thinker, placement).find((offer) => offer.rule === rule);

/** What a thing takes from a player; null: nothing. */
export function harmAt({ world, session, player }: Thinker, placement: number): Harm | null {
  return world.deeds[player]?.[session.state.form[placement] as number]?.harm ?? null;
}

/** The health that is lost by touching a harm for so long; all there is by one that kills. */
export function lossBy({ onTouch, perSecond, kills }: Harm, seconds: number, health: number): number {
  return Math.min(health, onTouch + perSecond * seconds + kills * health);
}
