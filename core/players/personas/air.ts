import type { Level } from '../../level/index.ts';
import { MOVEMENT, movementOf, type Session } from '../../session/index.ts';
import type { Station } from '../navigation/index.ts';

/** A leap from one surface to another: how it is begun and where it comes down. Units, steps. */
export interface Leap {
  readonly from: number;
  readonly to: number;
  /** Where it takes off, and which way: −1 left, 1 right, 0 straight up. */
  readonly takeX: number;
  readonly way: number;
  /** Whether it needs a run-up, and whether one jumps at all: else one walks off the edge. */
  readonly runs: boolean;
  readonly jumps: boolean;
  /** For how many steps the jump key is held. */
  readonly hold: number;
  /** What one steers for in the air. */
  readonly aimX: number;
  /** Thrown up by a thing on the way, or −1: first one steers for that, or waits in it. */
  readonly thrower: number;
  readonly throwerX: number;
  /** Whether what throws does so at the use key. */
  readonly uses: boolean;
  /** What carries one up, instead of throwing, is left above this; Infinity: it throws. */
  readonly overY: number;
  /** Where it comes down, and how long it takes. */
  readonly landX: number;
  readonly steps: number;
  /** How far above that it rises. Units. */
  readonly over: number;
  /** Whether it goes past what kills, with no berth. */
  readonly isClose: boolean;
  /** About how long one waits for the platform it begins or ends on, or would rather wait for another. Steps. */
  readonly waits: number;
  /** Where it went, as x and y in turn. */
  readonly track: Float64Array;
}

/** A number kept between two others; between them where they are the wrong way round. */
export const within = (value: number, low: number, high: number): number =>
  low > high ? (low + high) / 2 : Math.max(low, Math.min(high, value));

/** The way it takes a body to come to its full speed, from rest. Units. */
export const lengthOfRun = ({ speed, acceleration }: Level['body']): number => (speed * speed) / (2 * acceleration);

/** How far a run-up is begun before a take-off, besides the way it takes to be at full speed. Units. */
export const RUN_UP = 0.4;

/** How long a run-up takes, where a leap needs one. Steps. */
export const runSteps = ({ speed, acceleration }: Level['body'], { runs }: Pick<Leap, 'runs'>, rate: number): number =>
  runs ? (speed / acceleration + RUN_UP / speed) * rate : 0;

/** What tells leaps apart: from where to where. */
export const leapKey = ({ from, to }: Pick<Leap, 'from' | 'to'>): number => from * 0x10000 + to;

/** A part of a way seen from the side: to a place along the ground, by a leap, or a hop on the spot. Units. */
export interface Leg {
  readonly x: number;
  readonly y: number;
  readonly leap: Leap | null;
  readonly hops: boolean;
  /** On a platform that travels, the station at which it is; null: it stays. */
  readonly station: Station | null;
}

/** How far a leap has got: on the ground before it, in the air, thrown up. */
export interface Flight {
  airborne: boolean;
  thrown: boolean;
  /** Steps in the air so far; and on the ground, waiting to be thrown or to come off. */
  steps: number;
  waited: number;
}

/** What is pressed: −127 … 127, and the jump and use keys. */
export interface AirKeys {
  x: number;
  jump: boolean;
  use: boolean;
}

/** How long one waits before pressing the use key again. Seconds. */
const USED_AGAIN = 0.5;

/** Whether a body in the air goes as nobody goes by itself: something has thrown it. */
function isThrown(session: Session, player: number, { thrower, uses, overY }: Pick<Leap, 'thrower' | 'uses' | 'overY'>): boolean {
  const { state } = session;
  const aside = Math.abs(state.velocityX[player] as number);
  const up = state.velocityY[player] as number;
  if (up > movementOf(session, player, MOVEMENT.jump) + 0.5 || (state.playerY[player] as number) > overY) return true;
  return thrower >= 0 && (uses || aside > movementOf(session, player, MOVEMENT.speed) + 0.5);
}

/** What steers for a place in the air: towards it, and nothing once one comes to rest there by itself. */
export function steerFor(session: Session, player: number, aimX: number): number {
  const { state, compiled } = session;
  const { body } = compiled.level;
  const off = aimX - (state.playerX[player] as number);
  const velocity = state.velocityX[player] as number;
  const braking = body.braking * ((state.floor[player] as number) >= 0 ? 1 : body.airControl);
  const stopping = braking > 0 ? (velocity * Math.abs(velocity)) / (2 * braking) : 0;
  const rest = off - stopping;
  if (Math.abs(rest) < 0.06) return 0;
  return rest > 0 ? 127 : -127;
}

/** What a leap presses in its next step. The same is pressed when it is tried out and when it is done. */
export function leapKeys(
  session: Session,
  player: number,
  leap: Pick<Leap, 'way' | 'jumps' | 'hold' | 'aimX' | 'thrower' | 'throwerX' | 'uses' | 'overY'>,
  flight: Flight,
): AirKeys {
  const { state } = session;
  const grounded = (state.floor[player] as number) >= 0;
  const rising = state.velocityY[player] as number;
  if (flight.airborne && isThrown(session, player, leap)) flight.thrown = true;
  if (flight.airborne || !grounded) {
    flight.airborne = true;
    flight.steps += 1;
    const aim = leap.thrower >= 0 && !flight.thrown ? leap.throwerX : leap.aimX;
    return { x: steerFor(session, player, aim), jump: leap.jumps && !flight.thrown && flight.steps < leap.hold, use: false };
  }
  if (leap.thrower >= 0 && !leap.jumps) {
    // It stands where it will be thrown from, and waits.
    if (rising > 0.5) flight.airborne = true;
    flight.waited += 1;
    const again = Math.round(USED_AGAIN * session.compiled.rate);
    return { x: steerFor(session, player, leap.throwerX), jump: false, use: leap.uses && flight.waited % again === 1 };
  }
  if (!leap.jumps) {
    flight.waited += 1;
    return { x: leap.way * 127, jump: false, use: false };
  }
  flight.airborne = true;
  return { x: leap.way * 127, jump: true, use: false };
}
