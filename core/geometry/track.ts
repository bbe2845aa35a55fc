import type { Region } from './grid.ts';

/**
 * The way something takes within one step: a few straight pieces, each travelled evenly.
 * `at[i]` is the share of the step (0 … 1) at which it is at (x[i], y[i]).
 */
export interface Track {
  count: number;
  readonly at: Float64Array;
  readonly x: Float64Array;
  readonly y: Float64Array;
}

export function createTrack(capacity: number): Track {
  return { count: 0, at: new Float64Array(capacity), x: new Float64Array(capacity), y: new Float64Array(capacity) };
}

export function beginTrack(track: Track, x: number, y: number): void {
  track.count = 1;
  track.at[0] = 0;
  track.x[0] = x;
  track.y[0] = y;
}

/** Adds the next corner; the share of the step never runs backwards. */
export function extendTrack(track: Track, at: number, x: number, y: number): void {
  const index = track.count;
  if (index >= track.at.length) throw new RangeError('a track has more pieces than it was made for');
  track.at[index] = at;
  track.x[index] = x;
  track.y[index] = y;
  track.count = index + 1;
}

/** The box around a place. */
export function boundPlace(x: number, y: number, into: Region): void {
  into.left = x;
  into.right = x;
  into.bottom = y;
  into.top = y;
}

/** The box around a way. */
export function boundWay({ x, y, count }: Track, into: Region): void {
  boundPlace(x[0] as number, y[0] as number, into);
  for (let k = 1; k < count; k += 1) widen(into, x[k] as number, y[k] as number);
}

/** Widens a region to take in a place. */
export function widen(region: Region, x: number, y: number): void {
  region.left = Math.min(region.left, x);
  region.right = Math.max(region.right, x);
  region.bottom = Math.min(region.bottom, y);
  region.top = Math.max(region.top, y);
}
