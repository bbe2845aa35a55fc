import type { Lanes } from './simulate.ts';

export function sameNumbers(one: Float32Array, other: Float32Array): boolean {
  if (one.length !== other.length) return false;
  for (let at = 0; at < one.length; at += 1) if (one[at] !== other[at]) return false;
  return true;
}

const share = (before: Float32Array | undefined, now: Float32Array): Float32Array =>
  before !== undefined && sameNumbers(before, now) ? before : now;

/**
 * The lanes of a recording with the very arrays of the one before wherever they hold the same numbers, so that what is
 * drawn from them is known to be drawn already: most turns of a dial change one lane and no way.
 */
export function shareLanes(before: Lanes | null | undefined, { x, y, speed, meters }: Lanes): Lanes {
  return {
    x: share(before?.x, x),
    y: share(before?.y, y),
    speed: share(before?.speed, speed),
    meters: Object.fromEntries(Object.entries(meters).map(([id, values]) => [id, share(before?.meters[id], values)])),
  };
}
