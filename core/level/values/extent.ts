import type { Shape } from '../document/things.ts';

/** How far a shape goes from its own centre, at most and at least. Units. */
export function extentOf(shape: Shape): { readonly most: number; readonly least: number } {
  if (shape.type === 'circle') return { most: shape.radius, least: shape.radius };
  if (shape.type === 'box') return { most: Math.max(shape.width, shape.height) / 2, least: Math.min(shape.width, shape.height) / 2 };
  const most = Math.max(...shape.points.map(([x, y]) => Math.sqrt(x * x + y * y)));
  return { most, least: most / 2 };
}
