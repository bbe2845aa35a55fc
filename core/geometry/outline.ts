import type { Shape } from '../level/index.ts';
import { turn } from './angles.ts';
import type { Box } from './clear.ts';
import { outlineDistance, type Corner } from './distance.ts';

/** A convex outline, and how far around it what is meant reaches: a circle is a point and its radius. */
export interface Outline {
  readonly corners: readonly Corner[];
  readonly radius: number;
}

/** The outline of an upright box about its middle. */
const boxAbout = (right: number, up: number): Corner[] => [
  [-right, -up],
  [right, -up],
  [right, up],
  [-right, up],
];

/** The outline of a shape of a thing at a place. */
export function outlineOf(shape: Shape, x: number, y: number): Outline {
  if (shape.type === 'circle') return { corners: [[x + shape.x, y + shape.y]], radius: shape.radius };
  const { cos, sin } = turn(shape.rotation);
  const corners = shape.type === 'polygon' ? shape.points : boxAbout(shape.width / 2, shape.height / 2);
  return { corners: corners.map(([cx, cy]) => [x + shape.x + cx * cos - cy * sin, y + shape.y + cx * sin + cy * cos]), radius: 0 };
}

/** The outline of a player's body at a place: a circle seen from above, an upright box seen from the side. */
export function bodyOutline(
  view: 'top' | 'side',
  { radius, width, height }: { readonly radius: number; readonly width: number; readonly height: number },
  x: number,
  y: number,
): Outline {
  if (view === 'top') return { corners: [[x, y]], radius };
  return { corners: boxAbout(width / 2, height / 2).map(([dx, dy]) => [x + dx, y + dy]), radius: 0 };
}

/** How far two outlines are from touching. Units; 0 where they do. */
export const gapBetween = (a: Outline, b: Outline): number => Math.max(0, outlineDistance(a.corners, b.corners) - a.radius - b.radius);

/** The box around some outlines; null where there are none. */
export function boxOver(outlines: readonly Outline[]): Box | null {
  const points = outlines.flatMap(({ corners, radius }) => corners.map(([x, y]) => ({ x, y, radius })));
  if (points.length === 0) return null;
  return {
    left: Math.min(...points.map(({ x, radius }) => x - radius)),
    right: Math.max(...points.map(({ x, radius }) => x + radius)),
    bottom: Math.min(...points.map(({ y, radius }) => y - radius)),
    top: Math.max(...points.map(({ y, radius }) => y + radius)),
  };
}
