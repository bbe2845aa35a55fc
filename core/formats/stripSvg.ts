import { inOrder, type Level } from '../level/index.ts';
import type { Lanes } from '../players/index.ts';
import type { LedgerLine } from '../session/index.ts';
import { clockTime, plainNumber } from './numerals.ts';
import { escaped } from './xml.ts';

const WIDTH = 960;
const LABELS = 96;
const AXIS = 20;
const HEIGHTS = { main: 84, other: 48 } as const;
const INK = '#1d2b33';
const SOFT = '#56666d';
const LINE = '#d8d1c0';

export interface ChartedRun {
  readonly lanes: Pick<Lanes, 'meters' | 'speed'>;
  readonly rate: number;
  readonly steps: number;
  readonly lines: readonly LedgerLine[];
}
const fixed = (value: number): string => String(Number(value.toFixed(1)));

/** A lane as a path: for each pixel the least and the greatest value, so that nothing is lost however long the run. */
function lanepath(values: Float32Array, y: (value: number) => number): string {
  const perPixel = values.length / (WIDTH - LABELS);
  const points: string[] = [];
  for (let column = 0; column < WIDTH - LABELS; column += 1) {
    const from = Math.floor(column * perPixel);
    const part = values.subarray(from, Math.max(from + 1, Math.floor((column + 1) * perPixel)));
    if (part.length === 0) break;
    const [first = 0, last = 0] = [part[0], part[part.length - 1]];
    const [least, most] = [part.reduce((a, b) => Math.min(a, b)), part.reduce((a, b) => Math.max(a, b))];
    const marks =
      most > Math.max(first, last) || least < Math.min(first, last) ? [first, most, least, last] : first === last ? [last] : [first, last];
    for (const value of marks) points.push(`${String(LABELS + column)},${fixed(y(value))}`);
  }
  return `M${points.join('L')}`;
}

/** The session over time as an SVG file: a lane for each meter and for speed, a time axis, and a mark for each death. */
export function stripSvgText(level: Level, { lanes, rate, steps, lines }: ChartedRun): string {
  const seconds = Math.max(1 / rate, steps / rate);
  const x = (at: number): number => LABELS + (at / seconds) * (WIDTH - LABELS);
  const drawn = [
    ...inOrder(level.meters).map(([id, { name, lower, upper }]) => ({
      name,
      values: lanes.meters[id] ?? new Float32Array(1),
      low: lower,
      high: upper,
      main: id === 'health',
    })),
    { name: 'speed', values: lanes.speed, low: 0, high: null, main: false },
  ];
  let top = AXIS;
  const parts: string[] = [];
  for (const { name, values, low, high, main } of drawn) {
    const height = main ? HEIGHTS.main : HEIGHTS.other;
    const most =
      high ??
      Math.max(
        1,
        values.reduce((a, b) => Math.max(a, b), 0),
      );
    const base = top + height - 6;
    const y = (value: number): number => base - ((value - low) / Math.max(1e-9, most - low)) * (height - 12);
    parts.push(
      `<text x="8" y="${fixed(top + 16)}" font-weight="600">${escaped(name)}</text>`,
      `<text x="${String(LABELS - 6)}" y="${fixed(top + 14)}" text-anchor="end" fill="${SOFT}" font-size="9">${plainNumber(most)}</text>`,
      `<text x="${String(LABELS - 6)}" y="${fixed(base)}" text-anchor="end" fill="${SOFT}" font-size="9">${plainNumber(low)}</text>`,
      `<path d="${lanepath(values, y)}" fill="none" stroke="${INK}" stroke-width="1.4"/>`,
      `<path d="M0 ${fixed(top + height)}H${String(WIDTH)}" stroke="${LINE}"/>`,
    );
    top += height;
  }
  const every = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1200].find((step) => seconds / step <= 10) ?? 3600;
  const ticks = Array.from({ length: Math.floor(seconds / every) + 1 }, (_, index) => index * every).map(
    (at) =>
      `<path d="M${fixed(x(at))} ${String(AXIS)}V${fixed(top)}" stroke="${LINE}" stroke-width=".6"/><text x="${fixed(x(at) + 3)}" y="13" fill="${SOFT}">${clockTime(at, 0)}</text>`,
  );
  const deaths = lines.flatMap((line) =>
    line.type === 'died'
      ? [`<path d="M${fixed(x(line.seconds))} ${String(AXIS)}V${fixed(top)}" stroke="#a61e2b" stroke-dasharray="4 3"/>`]
      : [],
  );
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${String(WIDTH)}" height="${fixed(top)}" viewBox="0 0 ${String(WIDTH)} ${fixed(top)}" font-family="monospace" font-size="11" fill="${INK}">`,
    `<rect width="${String(WIDTH)}" height="${fixed(top)}" fill="#fffdf7"/>`,
    ...ticks,
    ...parts,
    ...deaths,
    '</svg>',
    '',
  ].join('\n');
}
