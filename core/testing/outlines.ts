import type { ShapeSource } from '../geometry/index.ts';

/** Outlines of shapes and how far apart they are, worked out plainly: to hold the swept formulas against. */
export interface Point {
  readonly x: number;
  readonly y: number;
}

const RADIANS = Math.PI / 180;

/** Corners of a box, or the centre of a circle, around a place. */
export function outline(shape: ShapeSource, place: Point): { points: Point[]; radius: number } {
  const centre = { x: place.x + shape.x, y: place.y + shape.y };
  if (shape.type === 'circle') return { points: [centre], radius: shape.radius };
  const cos = Math.cos(shape.rotation * RADIANS);
  const sin = Math.sin(shape.rotation * RADIANS);
  const corner = ([u, v]: readonly [number, number]): Point => ({ x: centre.x + u * cos - v * sin, y: centre.y + u * sin + v * cos });
  if (shape.type === 'polygon') return { points: shape.points.map(corner), radius: 0 };
  const [w, h] = [shape.width / 2, shape.height / 2];
  return {
    points: (
      [
        [w, h],
        [-w, h],
        [-w, -h],
        [w, -h],
      ] as const
    ).map(corner),
    radius: 0,
  };
}

function edges(points: Point[]): [Point, Point][] {
  return points.map((point, index) => [point, points[(index + 1) % points.length]!]);
}

function toSegment(p: Point, [a, b]: [Point, Point]): number {
  const length = (b.x - a.x) ** 2 + (b.y - a.y) ** 2;
  const share = length === 0 ? 0 : Math.max(0, Math.min(1, ((p.x - a.x) * (b.x - a.x) + (p.y - a.y) * (b.y - a.y)) / length));
  return Math.hypot(p.x - a.x - share * (b.x - a.x), p.y - a.y - share * (b.y - a.y));
}

/** How far two convex outlines are from touching: the greatest gap over all face directions, or between corners. */
export function gap(a: { points: Point[]; radius: number }, b: { points: Point[]; radius: number }): number {
  const depth = Math.max(
    ...[a, b].flatMap(({ points }) =>
      points.length === 1
        ? []
        : edges(points).map(([from, to]) => {
            const length = Math.hypot(to.x - from.x, to.y - from.y);
            const normal = { x: (to.y - from.y) / length, y: (from.x - to.x) / length };
            const along = (list: Point[]): number[] => list.map((point) => point.x * normal.x + point.y * normal.y);
            const other = points === a.points ? b.points : a.points;
            return Math.min(...along(other)) - Math.max(...along(points));
          }),
    ),
    -Infinity,
  );
  if (depth < 0 && depth > -Infinity) return depth - a.radius - b.radius;
  const between = [
    ...a.points.flatMap((point) => edges(b.points).map((edge) => toSegment(point, edge))),
    ...b.points.flatMap((point) => edges(a.points).map((edge) => toSegment(point, edge))),
  ];
  return Math.min(...between) - a.radius - b.radius;
}
