import { TOP } from '../../geometry/index.ts';
import { moverPlace, passing, type Compiled } from '../../session/index.ts';

/** A place on its path at which a platform that travels may be stepped on and off, seen from the side. Units. */
export interface Station {
  readonly placement: number;
  /** The number of its path among all that are travelled. */
  readonly mover: number;
  /** Its solid. */
  readonly item: number;
  /** Where its thing is then. */
  readonly x: number;
  readonly y: number;
}

/** How far apart stations are between way-points, at least, and how many a platform has between two of them at most. Units. */
const APART = 2;
const MOST_BETWEEN = 4;

/** So near to a station a platform is at it, across and up. Units. */
const NEAR = 0.3;
const NEAR_UP = 0.2;

/** The stations of all platforms that travel on a path: its way-points, and places between. */
export function stationsOf({ movers, placements, solids }: Compiled): Station[] {
  const { begin, x, y, velocityX, velocityY } = movers.legs;
  return Array.from({ length: movers.count }, (_, mover) => mover).flatMap((mover): Station[] => {
    const placement = movers.placement[mover] as number;
    const item = placements.solid[placement] as number;
    if (item < 0 || ((solids.faces[item] as number) & TOP) === 0) return [];
    const found = new Map<string, Station>();
    const end = movers.legStart[mover + 1] as number;
    for (let leg = movers.legStart[mover] as number; leg < end; leg += 1) {
      const until = leg + 1 < end ? (begin[leg + 1] as number) : (movers.round[mover] as number);
      const seconds = until - (begin[leg] as number);
      const [across, up] = [velocityX[leg] as number, velocityY[leg] as number];
      const length = seconds * Math.sqrt(across * across + up * up);
      const parts = Math.max(1, Math.min(MOST_BETWEEN + 1, Math.floor(length / APART)));
      for (let part = 0; part <= parts; part += 1) {
        const atX = (x[leg] as number) + (across * seconds * part) / parts;
        const atY = (y[leg] as number) + (up * seconds * part) / parts;
        const key = `${atX.toFixed(2)} ${atY.toFixed(2)}`;
        if (!found.has(key)) found.set(key, { placement, mover, item, x: atX, y: atY });
      }
    }
    return [...found.values()];
  });
}

/** Whether a platform is at a station when a step, or a part of one, is over. How far off it is then is left in `passing`. Units. */
export function isAtStation({ movers, stepSeconds }: Compiled, { mover, x, y }: Station, step: number): boolean {
  moverPlace(movers, mover, step * stepSeconds);
  passing.x -= x;
  passing.y -= y;
  return Math.abs(passing.x) <= NEAR && Math.abs(passing.y) <= NEAR_UP;
}

/** So much lower than its apex a body comes down on what has risen meanwhile. Units. */
const BELOW_APEX = 0.2;

/**
 * Whether a platform that is at a station after some more steps, or has risen from it by less than the body does that leaps onto it, does
 * not come down on that from above. `over` is how far above the station the body rises. Units.
 */
export function comesToStation(compiled: Compiled, station: Station, step: number, later: number, over: number): boolean {
  isAtStation(compiled, station, step + later);
  const { x, y } = passing;
  if (Math.abs(x) > NEAR || y < -NEAR_UP || y > Math.max(NEAR_UP, over - BELOW_APEX)) return false;
  isAtStation(compiled, station, step);
  return passing.y <= NEAR_UP;
}

/** How often a second it is looked for when a platform is somewhere, and how far ahead at most. Seconds. */
const LOOKS = 30;
const LONGEST = 90;

const stepsOfLook = ({ rate }: Compiled): number => Math.max(1, Math.round(rate / LOOKS));

/**
 * About how long one waits until a platform is at a station, and another so many steps later at one of its own; either may be none.
 * Steps; Infinity when they do not come together.
 */
export function meanWait(compiled: Compiled, from: Station | null, to: Station | null, later: number, over: number): number {
  const rounds = [from, to].map((one) => (one === null ? 0 : (compiled.movers.round[one.mover] as number)));
  // What comes again and again is looked at for one round.
  const same = from === null || to === null || from.mover === to.mover;
  const steps = Math.min(LONGEST, same ? Math.max(...rounds) : LONGEST) * compiled.rate;
  let times = 0;
  let before = false;
  for (let step = 0; step <= steps; step += stepsOfLook(compiled)) {
    const now = (from === null || isAtStation(compiled, from, step)) && (to === null || comesToStation(compiled, to, step, later, over));
    if (now && !before) times += 1;
    before = now;
  }
  return times === 0 ? Infinity : steps / (2 * times);
}

/** How long a platform takes from one of its stations to another, the shortest time. Steps; Infinity when it never does. */
export function rideSteps(compiled: Compiled, from: Station, to: Station): number {
  const steps = 2 * Math.min(LONGEST, compiled.movers.round[from.mover] as number) * compiled.rate;
  let left = -1;
  let least = Infinity;
  for (let step = 0; step <= steps; step += stepsOfLook(compiled)) {
    if (isAtStation(compiled, from, step)) left = step;
    else if (left >= 0 && isAtStation(compiled, to, step)) {
      least = Math.min(least, step - left);
      left = -1;
    }
  }
  return least;
}
