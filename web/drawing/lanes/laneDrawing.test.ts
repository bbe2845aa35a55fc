import { findExtremes, extremes } from './extremes.ts';
import { LANE_DRAWING, tickSeconds, type Lane } from './laneDrawing.ts';
import type { Palette } from '../palette.ts';

interface Drawn {
  readonly x: number;
  readonly y: number;
}

/** A surface that notes the lines drawn on it, and whether they are dashed. */
function surface() {
  const strokes: { readonly points: Drawn[]; readonly dashed: boolean; readonly colour: string }[] = [];
  const texts: string[] = [];
  const boxes: number[][] = [];
  let points: Drawn[] = [];
  let dashed = false;
  const context = {
    strokeStyle: '',
    fillStyle: '',
    beginPath: () => void (points = []),
    moveTo: (x: number, y: number) => void points.push({ x, y }),
    lineTo: (x: number, y: number) => void points.push({ x, y }),
    closePath: () => undefined,
    // A band is a line too, drawn as what it covers.
    fill() {
      strokes.push({ points, dashed: false, colour: this.fillStyle });
    },
    setLineDash: (dash: readonly number[]) => void (dashed = dash.length > 0),
    stroke() {
      strokes.push({ points, dashed, colour: this.strokeStyle });
    },
    fillRect: () => undefined,
    strokeRect: (...box: number[]) => void boxes.push(box),
    fillText: (text: string) => void texts.push(text),
  };
  return { context: context as unknown as CanvasRenderingContext2D, strokes, texts, boxes };
}

const palette = { line: 'line', soft: 'soft', ink: 'ink' } as Palette;
const lane = (parts: Partial<Lane>): Lane => ({
  key: 'health',
  name: 'health',
  height: 54,
  colour: 'mend',
  filled: false,
  low: 0,
  high: 100,
  lines: [],
  bars: [],
  ...parts,
});
/** An hour at 60 steps a second: full, but for one step in which it is nought. */
const hour = new Float32Array(216_000).fill(100);
hour[123_456] = 0;

test('a dip of a single step in an hour is drawn, in whole and zoomed in', () => {
  for (const view of [
    { from: 0, to: 3600 },
    { from: 2000, to: 2100 },
    { from: 123_450 / 60, to: 123_470 / 60 },
  ]) {
    const { context, strokes } = surface();
    LANE_DRAWING.draw(context, lane({ lines: [{ values: hour, dashed: false }] }), { width: 800, view, rate: 60, palette });
    const main = strokes.filter(({ colour }) => colour === 'mend');
    expect(main).toHaveLength(1);
    const heights = main[0]!.points.map(({ y }) => y);
    expect(Math.abs(Math.min(...heights) - 5)).toBeLessThan(1);
    expect(Math.abs(Math.max(...heights) - 49)).toBeLessThan(1);
    const at = main[0]!.points.find(({ y }) => y > 48)!.x;
    expect(at / 800).toBeCloseTo((123_456 / 60 - view.from) / (view.to - view.from), 1);
    expect(Math.max(...main[0]!.points.map(({ x }) => x))).toBeLessThanOrEqual(800);
  }
});

test('the other version is dashed; a line ends where its time does; what is out of view is not drawn', () => {
  const { context, strokes } = surface();
  const ten = new Float32Array(601).fill(50);
  const lines = [
    { values: ten, dashed: false },
    { values: ten, dashed: true },
  ];
  for (const [width, from, last] of [
    [100, 0, 10],
    [2000, 0, 10],
    [100, 8, 2],
  ] as const) {
    strokes.length = 0;
    LANE_DRAWING.draw(context, lane({ lines }), { width, view: { from, to: from + 20 }, rate: 60, palette });
    const drawn = strokes.filter(({ colour }) => colour === 'mend' || colour === 'soft');
    expect(drawn.map(({ dashed }) => dashed)).toEqual([true, false]);
    const ends = drawn.map(({ points }) => [Math.min, Math.max].map((end) => Math.round((20 * end(...points.map(({ x }) => x))) / width)));
    expect(ends).toEqual([
      [0, last],
      [0, last],
    ]);
  }
});

test('the least and the greatest of any stretch are found, whatever blocks it begins and ends in', () => {
  const values = Float32Array.from({ length: 1000 }, (_, at) => ((at * 7919) % 1009) - 400);
  for (const [from, to] of [
    [0, 1000],
    [31, 33],
    [32, 64],
    [5, 5],
    [63, 980],
  ] as const) {
    findExtremes(values, from, to);
    const part = values.subarray(from, to);
    expect(extremes).toEqual({ least: Math.min(...part), most: Math.max(...part) });
  }
});

test('bars of what is in force keep to the view and say what they are where there is room', () => {
  const { context, texts, boxes } = surface();
  const bars = [
    { from: -50, to: 5, text: '4 → 7.2' },
    { from: 8, to: 8.1, text: 'short' },
    { from: 60, to: 70, text: 'later' },
  ];
  LANE_DRAWING.draw(context, lane({ bars, height: 20 }), { width: 400, view: { from: 0, to: 10 }, rate: 60, palette });
  expect(texts).toEqual(['4 → 7.2']);
  const widths = boxes.filter(([, , , height]) => height === 14).map(([x, , width]) => [x, width]);
  expect(widths).toEqual(
    [
      [-2, 202],
      [320, 4],
    ].map(([x, width]) => [x, expect.closeTo(width!, 6) as number]),
  );
});

test('marks of the time axis are round figures, never closer than they can be read', () => {
  for (const [duration, width] of [
    [0.2, 800],
    [3, 800],
    [48, 800],
    [3600, 800],
    [7200, 300],
  ] as const) {
    const every = tickSeconds(duration, width);
    expect((every / duration) * width).toBeGreaterThan(width === 300 ? 60 : 30);
  }
  expect([tickSeconds(48, 800), tickSeconds(3600, 800), tickSeconds(1, 900)]).toEqual([10, 600, 0.1]);
});
