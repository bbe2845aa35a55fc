import { beginTrack, extendTrack, type Track } from '../../geometry/index.ts';
import { roundSeconds, type Level, type Placement } from '../../level/index.ts';

/** Movers as legs: straight travel or pauses, one round of each laid end to end. Where a mover is depends on time alone. */
export interface Movers {
  readonly count: number;
  readonly placement: Int32Array;
  readonly legStart: Int32Array;
  /** Seconds of one round. */
  readonly round: Float64Array;
  /** Seconds already travelled at time nought. */
  readonly offset: Float64Array;
  readonly legs: {
    /** Seconds into the round at which the leg begins. */
    readonly begin: Float64Array;
    readonly x: Float64Array;
    readonly y: Float64Array;
    readonly velocityX: Float64Array;
    readonly velocityY: Float64Array;
  };
  /** Units a second, when it travels. */
  readonly speed: Float64Array;
  /** Most pieces a mover's track can have within one step. */
  readonly mostPieces: number;
  /** Left, bottom, right, top of all places each ever comes to. Units. */
  readonly range: Float64Array;
}

interface Leg {
  begin: number;
  x: number;
  y: number;
  velocityX: number;
  velocityY: number;
}

function legsOf(path: Level['paths'][string]): Leg[] {
  const points = path.wayPoints;
  const stops = path.round === 'loop' ? [...points, points[0]] : [...points, ...points.slice(0, -1).reverse()];
  const legs: Leg[] = [];
  let begin = 0;
  stops.forEach((stop, index) => {
    const next = stops[index + 1];
    if (stop === undefined || next === undefined) return;
    if (stop.pause > 0) {
      legs.push({ begin, x: stop.x, y: stop.y, velocityX: 0, velocityY: 0 });
      begin += stop.pause;
    }
    const dx = next.x - stop.x;
    const dy = next.y - stop.y;
    const length = Math.sqrt(dx * dx + dy * dy);
    if (length === 0) return;
    legs.push({ begin, x: stop.x, y: stop.y, velocityX: (dx / length) * path.speed, velocityY: (dy / length) * path.speed });
    begin += length / path.speed;
  });
  return legs;
}

export function compileMovers(level: Level, placements: readonly Placement[], moving: readonly number[]): Movers {
  const legs: Leg[] = [];
  const legStart = new Int32Array(moving.length + 1);
  const round = new Float64Array(moving.length);
  const offset = new Float64Array(moving.length);
  const speed = new Float64Array(moving.length);
  let mostLegs = 1;
  moving.forEach((placement, mover) => {
    const travel = placements[placement]?.travel;
    const path = travel == null ? undefined : level.paths[travel.path];
    if (travel == null || path === undefined) throw new RangeError(`placement ${String(placement)} has no path`);
    const own = legsOf(path);
    legs.push(...own);
    legStart[mover + 1] = legs.length;
    round[mover] = roundSeconds(path);
    offset[mover] = travel.startOffset;
    speed[mover] = path.speed;
    mostLegs = Math.max(mostLegs, own.length);
  });
  return {
    count: moving.length,
    placement: Int32Array.from(moving),
    legStart,
    round,
    offset,
    speed,
    legs: {
      begin: Float64Array.from(legs, (leg) => leg.begin),
      x: Float64Array.from(legs, (leg) => leg.x),
      y: Float64Array.from(legs, (leg) => leg.y),
      velocityX: Float64Array.from(legs, (leg) => leg.velocityX),
      velocityY: Float64Array.from(legs, (leg) => leg.velocityY),
    },
    mostPieces: mostLegs + 3,
    range: Float64Array.from(
      moving.flatMap((_, mover) => {
        const own = legs.slice(legStart[mover], legStart[mover + 1]);
        const [xs, ys] = [own.map(({ x }) => x), own.map(({ y }) => y)];
        return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
      }),
    ),
  };
}

/** The last leg of a mover that has begun so far into its round. */
function legAt({ legs: { begin }, legStart }: Movers, mover: number, inRound: number): number {
  let low = legStart[mover] as number;
  let high = (legStart[mover + 1] as number) - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((begin[middle] as number) <= inRound) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** How far into its round a mover is at a time. Seconds. */
function intoRound({ round, offset }: Movers, mover: number, at: number): number {
  const length = round[mover] as number;
  const start = at + (offset[mover] as number);
  return start - Math.floor(start / length) * length;
}

/** A margin for rounding in times of a round. Seconds. */
const TIME_HAIR = 1e-7;

/** How a mover goes on evenly: its velocity, and for how long; less than nought at the turn of a leg. Units a second, seconds. */
export const evenly = { velocityX: 0, velocityY: 0, seconds: 0 };

/** Reads how mover `mover` goes on from a time, in seconds since the start; left in `evenly`. */
export function evenMotion(movers: Movers, mover: number, from: number): void {
  const { begin, velocityX, velocityY } = movers.legs;
  const inRound = intoRound(movers, mover, from);
  const leg = legAt(movers, mover, inRound);
  const next = leg + 1;
  evenly.velocityX = velocityX[leg] as number;
  evenly.velocityY = velocityY[leg] as number;
  evenly.seconds =
    (next < (movers.legStart[mover + 1] as number) ? (begin[next] as number) : (movers.round[mover] as number)) - inRound - TIME_HAIR;
}

/** Where a mover is at a time that was asked for. Units. */
export const passing = { x: 0, y: 0 };

/** Reads where mover `mover` is at a time, in seconds since the start; left in `passing`. */
export function moverPlace(movers: Movers, mover: number, at: number): void {
  const { begin, x, y, velocityX, velocityY } = movers.legs;
  const inRound = intoRound(movers, mover, at);
  const leg = legAt(movers, mover, inRound);
  const since = inRound - (begin[leg] as number);
  passing.x = (x[leg] as number) + (velocityX[leg] as number) * since;
  passing.y = (y[leg] as number) + (velocityY[leg] as number) * since;
}

/** Writes the way mover `mover` takes between two times, in seconds since the start, to `track`. */
export function moverTrack(movers: Movers, mover: number, { from, to }: { from: number; to: number }, track: Track): void {
  const { begin, x, y, velocityX, velocityY } = movers.legs;
  const first = movers.legStart[mover] as number;
  const end = movers.legStart[mover + 1] as number;
  const round = movers.round[mover] as number;
  let inRound = intoRound(movers, mover, from);
  let left = to - from;
  const total = left;

  let leg = legAt(movers, mover, inRound);
  let since = inRound - (begin[leg] as number);
  beginTrack(track, (x[leg] as number) + (velocityX[leg] as number) * since, (y[leg] as number) + (velocityY[leg] as number) * since);
  for (;;) {
    const legEnd = leg + 1 < end ? (begin[leg + 1] as number) : round;
    const rest = legEnd - inRound;
    if (rest >= left || track.count >= track.at.length - 1) {
      since = inRound + left - (begin[leg] as number);
      extendTrack(
        track,
        1,
        (x[leg] as number) + (velocityX[leg] as number) * since,
        (y[leg] as number) + (velocityY[leg] as number) * since,
      );
      return;
    }
    left -= rest;
    inRound = legEnd;
    leg += 1;
    if (leg === end) {
      leg = first;
      inRound = 0;
    }
    extendTrack(track, 1 - left / total, x[leg] as number, y[leg] as number);
  }
}
