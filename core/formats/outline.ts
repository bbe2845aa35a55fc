import type { Shape } from '../level/index.ts';

/** A corner of an outline. */
export type Corner = readonly [x: number, y: number];

const MOST_CORNERS = 16;
const turning = (a: Corner, b: Corner, c: Corner): number => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

/** The convex hull of some corners, anticlockwise (Andrew's monotone chain, 1979); corners on a straight line are left out. */
export function hullOf(corners: readonly Corner[]): Corner[] {
  const sorted = [...corners].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const half = (points: readonly Corner[]): Corner[] => {
    const chain: Corner[] = [];
    for (const point of points) {
      while (chain.length > 1 && turning(chain.at(-2) ?? point, chain.at(-1) ?? point, point) <= 1e-9) chain.pop();
      chain.push(point);
    }
    return chain.slice(0, -1);
  };
  return [...half(sorted), ...half([...sorted].reverse())];
}

/** An outline of at most sixteen corners: those whose loss changes the area least are left out. */
function fewer(corners: readonly Corner[]): Corner[] {
  const kept = [...corners];
  const at = (index: number): Corner => kept[(index + kept.length) % kept.length] ?? [0, 0];
  while (kept.length > MOST_CORNERS) {
    const losses = kept.map((corner, index) => Math.abs(turning(at(index - 1), corner, at(index + 1))));
    kept.splice(losses.indexOf(Math.min(...losses)), 1);
  }
  return kept;
}

const lengthOf = (x: number, y: number): number => Math.sqrt(x * x + y * y);
const rounded = (value: number): number => Number(value.toFixed(3));

export interface Outlined {
  readonly x: number;
  readonly y: number;
  readonly shape: Shape;
  /** The outline was not convex: the shape is its hull. */
  readonly filled: boolean;
}

/** Twice the area inside an outline. */
const area = (corners: readonly Corner[]): number =>
  Math.abs(corners.reduce((sum, corner, index) => sum + turning([0, 0], corner, corners[(index + 1) % corners.length] ?? corner), 0));

/** The shape an outline makes about its middle: a box where it is one, else a convex polygon; null when it has no area. */
export function outlined(corners: readonly Corner[]): Outlined | null {
  const hull = fewer(hullOf(corners));
  if (hull.length < 3 || area(hull) < 1e-6) return null;
  const filled = area(hull) > area(corners) * 1.01;
  const box = boxOf(hull);
  if (box !== null) return { ...box, filled };
  const [xs, ys] = [hull.map(([x]) => x), hull.map(([, y]) => y)];
  const x = rounded((Math.min(...xs) + Math.max(...xs)) / 2);
  const y = rounded((Math.min(...ys) + Math.max(...ys)) / 2);
  const points = hull.map(([px, py]): [number, number] => [rounded(px - x), rounded(py - y)]);
  return { x, y, shape: { type: 'polygon', points, rotation: 0, x: 0, y: 0 }, filled };
}

/** Four corners with right angles between them are a box, turned as its lower side is. */
function boxOf(hull: readonly Corner[]): { readonly x: number; readonly y: number; readonly shape: Shape } | null {
  const [a, b, c, d] = hull;
  if (hull.length !== 4 || a === undefined || b === undefined || c === undefined || d === undefined) return null;
  const [width, height] = [lengthOf(b[0] - a[0], b[1] - a[1]), lengthOf(d[0] - a[0], d[1] - a[1])];
  const leaning = ((b[0] - a[0]) * (d[0] - a[0]) + (b[1] - a[1]) * (d[1] - a[1])) / (width * height);
  const closed = lengthOf(a[0] + c[0] - b[0] - d[0], a[1] + c[1] - b[1] - d[1]);
  if (Math.abs(leaning) > 1e-3 || closed > 1e-3 * (width + height)) return null;
  // eslint-disable-next-line no-restricted-properties -- a file is read once; the angle becomes part of the level before any session sees it
  const rotation = rounded((Math.atan2(b[1] - a[1], b[0] - a[0]) * 180) / Math.PI);
  const shape: Shape = { type: 'box', width: rounded(width), height: rounded(height), rotation, x: 0, y: 0 };
  return { x: rounded((a[0] + c[0]) / 2), y: rounded((a[1] + c[1]) / 2), shape };
}
