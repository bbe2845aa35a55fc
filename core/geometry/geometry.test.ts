import fc from 'fast-check';
import { gap, outline } from '../testing/outlines.ts';
import {
  createGrid,
  createShapeTable,
  createTrack,
  pushOut,
  lowerToBoundary,
  nearest,
  NearSolids,
  Region,
  slide,
  SLIDE_PIECES,
  sweepBoxBox,
  TurnedBox,
  sweepCircle,
  sweepDiscBox,
  sweepShapes,
  turn,
  DiscMotion,
  Mobile,
  Motion,
  type Solids,
  Span,
} from './index.ts';

const number = (min: number, max: number): fc.Arbitrary<number> =>
  fc.integer({ min: min * 1000, max: max * 1000 }).map((value) => (value + 0.137) / 1000);
const motion = fc.record({ x: number(-6, 6), y: number(-6, 6), dx: number(-12, 12), dy: number(-12, 12) });
const SAMPLES = 400;

/** Compares a swept span with looking at many moments of the same motion. */
function agrees(found: boolean, span: Span, isInside: (share: number) => boolean): void {
  for (let k = 0; k <= SAMPLES; k += 1) {
    const share = k / SAMPLES;
    const clearly = isInside(share);
    const within = found && share >= span.enter - 1e-9 && share <= span.leave + 1e-9;
    if (clearly !== within) {
      // Only at the very ends of the span may the two differ.
      expect(Math.min(Math.abs(share - span.enter), Math.abs(share - span.leave))).toBeLessThan(1e-6);
    }
  }
}

test('a disc swept against a disc and a box is inside just when sampling says so', () => {
  const span = new Span();
  fc.assert(
    fc.property(motion, number(0.05, 3), number(0.05, 4), number(0.05, 4), ({ x, y, dx, dy }, radius, halfWidth, halfHeight) => {
      const disc = Object.assign(new DiscMotion(), { x, y, dx, dy, radius, halfWidth, halfHeight });
      agrees(sweepCircle(disc, span), span, (t) => Math.hypot(x + t * dx, y + t * dy) <= radius);
      agrees(sweepDiscBox(disc, span), span, (t) => {
        const awayX = Math.max(0, Math.abs(x + t * dx) - halfWidth);
        const awayY = Math.max(0, Math.abs(y + t * dy) - halfHeight);
        return Math.hypot(awayX, awayY) <= radius;
      });
    }),
    { numRuns: 300 },
  );
});

test('turned boxes swept against each other agree with the corners of their sum', () => {
  const span = new Span();
  const size = fc.record({ halfWidth: number(0.1, 3), halfHeight: number(0.1, 3), degrees: fc.integer({ min: -180, max: 180 }) });
  fc.assert(
    fc.property(motion, size, size, ({ x, y, dx, dy }, a, b) => {
      const [turnA, turnB] = [turn(a.degrees), turn(b.degrees)];
      const found = sweepBoxBox(x, y, dx, dy, Object.assign(new TurnedBox(), a, turnA), Object.assign(new TurnedBox(), b, turnB), span);
      const corners = (one: typeof a, { cos, sin }: typeof turnA) =>
        [-1, 1].flatMap((u) =>
          [-1, 1].map((v) => ({
            x: u * one.halfWidth * cos - v * one.halfHeight * sin,
            y: u * one.halfWidth * sin + v * one.halfHeight * cos,
          })),
        );
      // b ⊖ a: a point is in it when the two boxes overlap; a point is in a convex hull unless some direction parts them.
      const sum = corners(b, turnB).flatMap((p) => corners(a, turnA).map((q) => ({ x: p.x - q.x, y: p.y - q.y })));
      agrees(found, span, (t) => {
        const at = { x: x + t * dx, y: y + t * dy };
        for (let k = 0; k < 4; k += 1) {
          const { cos, sin } = k < 2 ? turnA : turnB;
          const [nx, ny] = k % 2 === 0 ? [cos, sin] : [-sin, cos];
          const along = sum.map((p) => p.x * nx + p.y * ny);
          const here = at.x * nx + at.y * ny;
          if (here > Math.max(...along) || here < Math.min(...along)) return false;
        }
        return true;
      });
    }),
    { numRuns: 200 },
  );
});

test('polygons, discs and boxes swept against each other are inside just when sampling says so', () => {
  const span = new Span();
  const place = { x: fc.constant(0.3), y: fc.constant(-0.2), rotation: fc.integer({ min: -180, max: 180 }) };
  const corners: [number, number][] = [
    [-1, -0.7],
    [1.5, -0.5],
    [0.4, 1.2],
  ];
  const wedge = fc.record({ type: fc.constant('polygon' as const), points: fc.constant(corners), ...place });
  const box = fc.record({ type: fc.constant('box' as const), width: number(1, 4), height: number(1, 4), ...place });
  const disc = fc.record({ type: fc.constant('circle' as const), radius: number(1, 2), x: place.x, y: place.y });
  const any = fc.oneof(wedge, box, disc);
  fc.assert(
    fc.property(any, any, motion, (i, j, { x, y, dx, dy }) => {
      const table = createShapeTable([i, j]);
      const apartAt = (t: number): number => gap(outline(i, { x: x + t * dx, y: y + t * dy }), outline(j, { x: 0, y: 0 }));
      agrees(sweepShapes(table, 0, 1, Object.assign(new Motion(), { x, y, dx, dy }), span), span, (t) => apartAt(t) <= 0);
      // The way to the boundary is never thought longer than it is.
      nearest.distance = Infinity;
      lowerToBoundary(table, 0, 1, Object.assign(new Motion(), { x, y }));
      if (apartAt(0) > 0) expect(nearest.distance).toBeLessThanOrEqual(apartAt(0) + 1e-6);
    }),
    { numRuns: 300 },
  );
});

test('the grid finds every box that meets a region', () => {
  const box = fc.record({ x: number(-40, 40), y: number(-40, 40), width: number(0.01, 20), height: number(0.01, 20) });
  fc.assert(
    fc.property(fc.array(box, { maxLength: 40 }), box, (boxes, region) => {
      const grid = createGrid(Float64Array.from(boxes.flatMap(({ x, y, width, height }) => [x, y, x + width, y + height])));
      const count = grid.query(
        Object.assign(new Region(), { left: region.x, bottom: region.y, right: region.x + region.width, top: region.y + region.height }),
      );
      const found = [...grid.found.slice(0, count)].sort((a, b) => a - b);
      const meets = (one: typeof region): boolean =>
        one.x <= region.x + region.width &&
        region.x <= one.x + one.width &&
        one.y <= region.y + region.height &&
        region.y <= one.y + one.height;
      expect(found).toEqual(boxes.flatMap((one, index) => (meets(one) ? [index] : [])));
    }),
  );
});

test('sine and cosine agree with the engine’s to the last digits, and quarter turns are exact', () => {
  for (let degrees = -720; degrees <= 720; degrees += 0.37) {
    expect(turn(degrees).sin).toBeCloseTo(Math.sin((degrees * Math.PI) / 180), 14);
    expect(turn(degrees).cos).toBeCloseTo(Math.cos((degrees * Math.PI) / 180), 14);
  }
  expect([turn(90), turn(-270), turn(180)]).toEqual([
    { cos: -0, sin: 1 },
    { cos: -0, sin: 1 },
    { cos: -1, sin: -0 },
  ]);
});

const solid = fc.record({ x: number(-10, 10), y: number(-10, 10), halfWidth: number(0.1, 3), halfHeight: number(0.1, 3) });

function solidsOf(list: { x: number; y: number; halfWidth: number; halfHeight: number }[]): Solids {
  const column = (read: (one: (typeof list)[number]) => number): Float64Array => Float64Array.from(list, read);
  return {
    x: column(({ x }) => x),
    y: column(({ y }) => y),
    halfWidth: column(({ halfWidth }) => halfWidth),
    halfHeight: column(({ halfHeight }) => halfHeight),
    faces: new Uint8Array(list.length).fill(15),
    on: new Uint8Array(list.length).fill(1),
    inGrid: list.length,
    near: new NearSolids(list.length),
    firstMoving: list.length,
    mayCover: new Float64Array(0),
    bring: () => undefined,
    grid: createGrid(
      Float64Array.from(
        list.flatMap((one) => [one.x - one.halfWidth, one.y - one.halfHeight, one.x + one.halfWidth, one.y + one.halfHeight]),
      ),
    ),
  };
}

test('a sliding disc never ends inside a solid, whatever its speed, and never goes further than asked', () => {
  const radius = 0.4;
  const gapTo = (one: { x: number; y: number; halfWidth: number; halfHeight: number }, at: { x: number; y: number }): number =>
    Math.hypot(Math.max(0, Math.abs(at.x - one.x) - one.halfWidth), Math.max(0, Math.abs(at.y - one.y) - one.halfHeight));
  fc.assert(
    fc.property(fc.array(solid, { maxLength: 6 }), motion, (list, { x, y, dx, dy }) => {
      const solids = solidsOf(list);
      const body = Object.assign(new Mobile(), { x, y, velocityX: dx, velocityY: dy, wayX: dx, wayY: dy });
      fc.pre(list.every((one) => gapTo(one, body) > radius));
      const track = createTrack(SLIDE_PIECES);
      slide(solids, { halfWidth: 0, halfHeight: 0, radius }, body, track);
      for (const one of list) expect(gapTo(one, body)).toBeGreaterThan(radius - 1e-6);
      let length = 0;
      for (let k = 1; k < track.count; k += 1) length += Math.hypot(track.x[k]! - track.x[k - 1]!, track.y[k]! - track.y[k - 1]!);
      expect(length).toBeLessThanOrEqual(Math.hypot(dx, dy) + 1e-5);
      expect([track.at[0], track.at[track.count - 1], track.x[track.count - 1]]).toEqual([0, 1, body.x]);
      expect(Math.hypot(body.velocityX, body.velocityY)).toBeLessThanOrEqual(Math.hypot(dx, dy) + 1e-9);
    }),
    { numRuns: 300 },
  );
});

test('a disc that starts in a solid is moved out the shortest way', () => {
  const body = Object.assign(new Mobile(), { x: 2.6, y: 0.2 });
  pushOut(solidsOf([{ x: 0, y: 0, halfWidth: 3, halfHeight: 4 }]), { halfWidth: 0, halfHeight: 0, radius: 0.5 }, body);
  expect([body.x, body.y]).toEqual([expect.closeTo(3.5, 6) as number, 0.2]);
});
