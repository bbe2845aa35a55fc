import fc from 'fast-check';
import { runs } from '../../testing/runs.ts';
import type { Box } from '../../geometry/index.ts';
import { createMesh, findWay } from './index.ts';

const AREA: Box = { left: 0, bottom: 0, right: 40, top: 24 };

interface Place {
  readonly x: number;
  readonly y: number;
}

const apart = (a: Place, b: Place): number => Math.hypot(b.x - a.x, b.y - a.y);

/** Whether the straight way between two places goes through the inside of a box: along its sides it may go. */
function cuts(a: Place, b: Place, box: Box): boolean {
  let [from, to] = [0, 1];
  for (const [start, end, low, high] of [
    [a.x, b.x, box.left, box.right],
    [a.y, b.y, box.bottom, box.top],
  ] as const) {
    const way = end - start;
    if (way === 0) {
      if (start <= low + 1e-9 || start >= high - 1e-9) return false;
      continue;
    }
    const [one, other] = [(low - start) / way, (high - start) / way];
    from = Math.max(from, Math.min(one, other));
    to = Math.min(to, Math.max(one, other));
  }
  return to - from > 1e-9;
}

const grown = (boxes: readonly Box[], by: number): Box[] =>
  boxes.map(({ left, bottom, right, top }) => ({ left: left - by, bottom: bottom - by, right: right + by, top: top + by }));

/**
 * The length of the shortest way at any angle by a plain search: from corner to corner of the boxes, wherever one sees the other.
 * Nothing goes between boxes that touch: they are taken a ten-millionth larger, with corners as much further out.
 */
function plainLength(from: Place, to: Place, solid: readonly Box[]): number {
  const boxes = grown(solid, 1e-7);
  const corners = grown(solid, 2e-7).flatMap(({ left, bottom, right, top }) => [
    { x: left, y: bottom },
    { x: right, y: bottom },
    { x: right, y: top },
    { x: left, y: top },
  ]);
  const within = ({ x, y }: Place): boolean => x >= AREA.left && x <= AREA.right && y >= AREA.bottom && y <= AREA.top;
  const free = ({ x, y }: Place): boolean => !boxes.some((box) => x > box.left && x < box.right && y > box.bottom && y < box.top);
  const places = [from, to, ...corners.filter((place) => within(place) && free(place))];
  const lengths = places.map((_, index) => (index === 0 ? 0 : Infinity));
  const open = new Set(places.keys());
  while (open.size > 0) {
    const at = [...open].reduce((best, index) => (lengths[index]! < lengths[best]! ? index : best));
    open.delete(at);
    if (at === 1 || lengths[at] === Infinity) break;
    for (const next of open) {
      const length = lengths[at]! + apart(places[at]!, places[next]!);
      if (length >= lengths[next]! || boxes.some((box) => cuts(places[at]!, places[next]!, box))) continue;
      lengths[next] = length;
    }
  }
  return lengths[1]!;
}

const place = fc
  .record({ x: fc.integer({ min: 1, max: 159 }), y: fc.integer({ min: 1, max: 95 }) })
  .map(({ x, y }) => ({ x: x / 4, y: y / 4 }));
const loose = fc
  .record({
    x: fc.integer({ min: -8, max: 150 }),
    y: fc.integer({ min: -8, max: 90 }),
    w: fc.integer({ min: 1, max: 60 }),
    h: fc.integer({ min: 1, max: 60 }),
  })
  .map(({ x, y, w, h }): Box => ({ left: x / 4 + 0.1, bottom: y / 4 + 0.1, right: (x + w) / 4 - 0.05, top: (y + h) / 4 - 0.05 }));

/** A box on a lattice, whose sides are sums of lengths: those in one line with others differ in their last bits. */
const onLattice = fc
  .record({
    x: fc.integer({ min: 0, max: 9 }),
    y: fc.integer({ min: 0, max: 5 }),
    w: fc.integer({ min: 1, max: 3 }),
    h: fc.integer({ min: 1, max: 3 }),
  })
  .map(({ x, y, w, h }): Box => ({
    left: 4 * x - 0.2 - 0.35,
    bottom: 4 * y - 0.55,
    right: 4 * (x + w) - 0.55,
    top: 4 * y - 0.2 + 4 * h - 0.35,
  }));
const box = fc.oneof(loose, onLattice);

test('the shortest way at any angle is as long as a plain search finds it, and turns only where it may', () => {
  fc.assert(
    fc.property(fc.array(box, { maxLength: 14 }), fc.array(box, { maxLength: 4 }), place, place, (boxes, zones, from, to) => {
      const outOf = (at: Place): boolean =>
        boxes.every((one) => at.x < one.left || at.x > one.right || at.y < one.bottom || at.y > one.top);
      fc.pre(outOf(from) && outOf(to));
      const way = findWay(createMesh(AREA, boxes, zones), from, to);
      const wanted = plainLength(from, to, boxes);
      if (way === null) {
        expect(wanted).toBe(Infinity);
        return;
      }
      expect(way.length).toBeCloseTo(wanted, 5);
      const places = [from, ...way.places];
      const walked = places.slice(1).reduce((sum, one, index) => sum + apart(places[index]!, one), 0);
      expect(walked).toBeCloseTo(way.length, 6);
      places.slice(1).forEach((one, index) => expect(boxes.filter((solid) => cuts(places[index]!, one, solid))).toEqual([]));
    }),
    { numRuns: runs(300) },
  );
});

test('who is pushed into the edge of what stands finds the way that leads from beside it', () => {
  fc.assert(
    fc.property(fc.array(box, { minLength: 1, maxLength: 14 }), fc.double({ min: 0, max: 1, noNaN: true }), place, (boxes, share, to) => {
      const [{ left, right, top }] = boxes as [Box];
      const at = (above: number): Place => ({ x: left + share * (right - left), y: top + above });
      const holding = ({ x, y }: Place, by: number): number =>
        boxes.filter((one) => x > one.left - by && x < one.right + by && y > one.bottom - by && y < one.top + by).length;
      const [pushed, beside] = [at(-0.05), at(0.05)];
      fc.pre(beside.y < AREA.top && beside.x > 0 && beside.x < AREA.right);
      fc.pre(holding(pushed, 0.1) === 1 && holding(beside, 0.04) === 0 && holding(to, 0) === 0);
      const mesh = createMesh(AREA, boxes, []);
      const [from, wanted] = [findWay(mesh, pushed, to), findWay(mesh, beside, to)];
      expect(from === null).toBe(wanted === null);
      if (from !== null && wanted !== null) expect(Math.abs(from.length - wanted.length)).toBeLessThan(0.25);
    }),
    { numRuns: runs(300) },
  );
});

test('a zone that is avoided is gone round, and through when the way begins in it; with no way left there is none', () => {
  const wall: Box = { left: 18, bottom: 0, right: 20, top: 16 };
  const gap: Box = { left: 16, bottom: 16, right: 22, top: 24 };
  const mesh = createMesh(AREA, [wall], [gap]);
  const [from, to] = [
    { x: 10, y: 8 },
    { x: 30, y: 8 },
  ];
  // Over the wall, by both of its upper corners; in the zone, straight past it.
  expect(findWay(mesh, from, to)?.length).toBeCloseTo(Math.sqrt(64 + 64) + 2 + Math.sqrt(100 + 64), 9);
  expect(findWay(mesh, from, to, new Set([0]))).toBeNull();
  expect(findWay(mesh, { x: 19, y: 20 }, to, new Set([0]))?.length).toBeCloseTo(Math.sqrt(121 + 144), 9);
});
