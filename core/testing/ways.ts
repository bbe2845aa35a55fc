import type { Level } from '../level/index.ts';
import type { Point } from './outlines.ts';

/** Where something that travels is at a time, in seconds; and at which times between two it turns a corner. */
export interface Way {
  readonly at: (time: number) => Point;
  readonly corners: (from: number, to: number) => number[];
}

/** The stretch of [from, to] in which a gap that is convex in time is closed: search for its least, then for both ends. */
export function closed(from: number, to: number, travel: number, gapAt: (time: number) => number): [number, number] | null {
  // A gap closes no faster than the two move towards each other.
  if (gapAt(from) > travel + 1e-6) return null;
  let least = gapAt(from) <= 0 ? from : to;
  if (gapAt(least) > 0) {
    let [low, high] = [from, to];
    for (let round = 0; round < 60; round += 1) {
      const a = low + (high - low) / 3;
      const b = high - (high - low) / 3;
      if (gapAt(a) <= gapAt(b)) high = b;
      else low = a;
    }
    least = (low + high) / 2;
  }
  if (gapAt(least) > 0) return null;
  const end = (outside: number): number => {
    if (gapAt(outside) <= 0) return outside;
    let [out, inside] = [outside, least];
    for (let round = 0; round < 50; round += 1) {
      const middle = (out + inside) / 2;
      if (gapAt(middle) <= 0) inside = middle;
      else out = middle;
    }
    return inside;
  };
  return [end(from), end(to)];
}

/** The legs of a path, walked by hand: seconds at which each begins, where, and how fast. */
export function wayOf(level: Level, pathId: string, offset: number): Way {
  const path = level.paths[pathId]!;
  const stops =
    path.round === 'loop' ? [...path.wayPoints, path.wayPoints[0]!] : [...path.wayPoints, ...path.wayPoints.slice(0, -1).reverse()];
  const legs: { begin: number; end: number; from: Point; to: Point }[] = [];
  let clock = 0;
  for (const [index, to] of stops.slice(1).entries()) {
    const from = stops[index]!;
    legs.push({ begin: clock, end: clock + from.pause, from, to: from });
    clock += from.pause;
    const seconds = Math.hypot(to.x - from.x, to.y - from.y) / path.speed;
    legs.push({ begin: clock, end: clock + seconds, from, to });
    clock += seconds;
  }
  const round = clock;
  return {
    at(time) {
      const inRound = (time + offset) % round;
      const leg = legs.find(({ begin, end }) => inRound >= begin && inRound < end) ?? legs.at(-1)!;
      const share = leg.end === leg.begin ? 0 : Math.min(1, (inRound - leg.begin) / (leg.end - leg.begin));
      return { x: leg.from.x + (leg.to.x - leg.from.x) * share, y: leg.from.y + (leg.to.y - leg.from.y) * share };
    },
    corners(from, to) {
      const first = Math.floor((from + offset) / round);
      const times = [first, first + 1].flatMap((lap) => legs.map(({ begin }) => lap * round + begin - offset));
      return times.filter((time) => time > from + 1e-12 && time < to - 1e-12);
    },
  };
}
