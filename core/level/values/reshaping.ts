import { extentOf } from './extent.ts';
import type { Kind, Shape } from '../document/things.ts';

/** Width and height of a shape. Units. */
function sizeOf(shape: Shape): { readonly width: number; readonly height: number } {
  if (shape.type === 'circle') return { width: 2 * shape.radius, height: 2 * shape.radius };
  if (shape.type === 'box') return shape;
  const span = (of: 0 | 1): number =>
    Math.max(...shape.points.map((point) => point[of])) - Math.min(...shape.points.map((point) => point[of]));
  return { width: span(0), height: span(1) };
}

/** The size of a shape of one type as that of a shape of another; nothing for what is no shape. */
export function sizedLike(type: string, before: unknown): object {
  const types = ['circle', 'box', 'polygon'];
  const was = before as Shape | null | undefined;
  if (!types.includes(type) || !types.includes(was?.type ?? '') || was?.type === type || was == null) return {};
  const { width, height } = sizeOf(was);
  if (type === 'circle') return { radius: Math.min(width, height) / 2 };
  if (type === 'box') return { width, height };
  const [x, y] = [width / 2, height / 2];
  return {
    points: [
      [-x, -y],
      [x, -y],
      [x, y],
      [-x, y],
    ],
  };
}

/** The box around a kind's shapes that are not turned, as its solid box may begin. Units. */
export function boxAround({ shapes }: Pick<Kind, 'shapes'>): { width: number; height: number; x: number; y: number } | null {
  const boxes = Object.values(shapes).map((shape) => {
    const turned = shape.type !== 'circle' && shape.rotation !== 0;
    const { width, height } = turned ? { width: 2 * extentOf(shape).most, height: 2 * extentOf(shape).most } : sizeOf(shape);
    return { left: shape.x - width / 2, right: shape.x + width / 2, lower: shape.y - height / 2, upper: shape.y + height / 2 };
  });
  if (boxes.length === 0) return null;
  const [left, right] = [Math.min(...boxes.map((one) => one.left)), Math.max(...boxes.map((one) => one.right))];
  const [lower, upper] = [Math.min(...boxes.map((one) => one.lower)), Math.max(...boxes.map((one) => one.upper))];
  return { width: right - left, height: upper - lower, x: (left + right) / 2, y: (lower + upper) / 2 };
}
