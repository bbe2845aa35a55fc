import { extentOf, inOrder, kindOfPlacement, type Level } from '@dial/core/level';
import type { PlanScale } from './planScale.ts';

/** A box on the Plan. Pixels from its corner. */
export interface Box {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** A letter of a name is so wide, a line of it so high. Pixels. */
const LETTER = 6.3;
const LINE = 13;
/** How far a name may stand from its point, nearest first. Pixels. */
const AWAY = [9, 18, 32, 48];

const overlap = (one: Box, other: Box): boolean =>
  one.left < other.right && other.left < one.right && one.top < other.bottom && other.top < one.bottom;

const inside = (one: Box, outer: Box): boolean =>
  one.left >= outer.left && one.right <= outer.right && one.top >= outer.top && one.bottom <= outer.bottom;

/** Where a name may stand about a point: right, left, below, above, and at the corners; farther out when that is not free. */
function* places(x: number, y: number, width: number): Generator<Box> {
  for (const away of AWAY) {
    const [right, left, middle] = [x + away, x - away - width, x - width / 2];
    const [below, above, beside] = [y + away + 2, y - away - 2 - LINE, y - LINE / 2];
    for (const [atX, atY] of [
      [right, beside],
      [left, beside],
      [middle, below],
      [middle, above],
      [right, below],
      [right, above],
      [left, below],
      [left, above],
    ] as const) {
      yield { left: atX, top: atY, right: atX + width, bottom: atY + LINE };
    }
  }
}

/** What names keep off: the things as they are placed, and the start with its name. */
export function takenOn(level: Level, scale: PlanScale): Box[] {
  const around = (atX: number, atY: number, halfWidth: number, halfHeight: number): Box => ({
    left: scale.x(atX) - halfWidth * scale.pixelsPerUnit,
    right: scale.x(atX) + halfWidth * scale.pixelsPerUnit,
    top: scale.y(atY) - halfHeight * scale.pixelsPerUnit,
    bottom: scale.y(atY) + halfHeight * scale.pixelsPerUnit,
  });
  const things = inOrder(level.placements).flatMap(([id, placement]) =>
    Object.values(kindOfPlacement(level, id)?.shapes ?? {}).map((shape) => {
      const { most } = extentOf(shape);
      const straight = shape.type === 'box' && shape.rotation === 0;
      const [halfWidth, halfHeight] = straight ? [shape.width / 2, shape.height / 2] : [most, most];
      return around(placement.x + shape.x, placement.y + shape.y, halfWidth, halfHeight);
    }),
  );
  const start = around(level.start.x, level.start.y, 0, 0);
  return [...things, { left: start.left - 22, right: start.right + 22, top: start.top - 16, bottom: start.bottom + 30 }];
}

/** Places the names of points so that none leaves the level or covers a thing, a point or another name, as far as there is room. */
export function placeNames(level: Level, scale: PlanScale): ReadonlyMap<string, Box> {
  const points = inOrder(level.points);
  const placed = new Map<string, Box>();
  if (points.length === 0) return placed;
  const within: Box = { left: scale.x(0), right: scale.x(level.size.width), top: scale.y(level.size.height), bottom: scale.y(0) };
  const marks = points.map(([, point]): Box => {
    const [x, y] = [scale.x(point.x), scale.y(point.y)];
    return { left: x - 7, right: x + 7, top: y - 7, bottom: y + 7 };
  });
  const taken = [...takenOn(level, scale), ...marks];
  for (const [id, { name, x, y }] of points) {
    const all = [...places(scale.x(x), scale.y(y), name.length * LETTER)].filter((box) => inside(box, within));
    const inTheWay = (box: Box): number => taken.filter((other) => overlap(box, other)).length;
    const free = all.find((box) => inTheWay(box) === 0);
    const least = free ?? all.reduce<Box | null>((best, box) => (best === null || inTheWay(box) < inTheWay(best) ? box : best), null);
    if (least === null) continue;
    placed.set(id, least);
    taken.push(least);
  }
  return placed;
}
