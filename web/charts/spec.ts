import { limitsText, plainNumber, signed } from '@dial/core/formats';
import type { Role, Wished } from '@dial/core/level';

/** One line of a panel. */
export interface ChartLine {
  readonly name: string;
  /** It is that of the crowd this one is compared with: in the same hue, thin and dotted. */
  readonly was?: boolean;
  /** In the units of the two axes, from left to right. */
  readonly points: readonly (readonly [x: number, y: number])[];
}

/** One of several charts that stand over each other on the same axis of x. */
export interface Panel {
  readonly name: string;
  readonly low: number;
  readonly high: number;
  readonly lines: readonly ChartLine[];
}

export interface LinesSpec {
  readonly kind: 'lines';
  /** What it shows, in words; also the name of its file. */
  readonly label: string;
  readonly panels: readonly Panel[];
  readonly x: { readonly name: string; readonly low: number; readonly high: number; readonly words: (x: number) => string };
}

export interface BarSeries {
  readonly name: string;
  readonly values: readonly (number | null)[];
  /** The role whose hue it has; without one, that of its place among the series. */
  readonly role?: Role;
}

export interface BarsSpec {
  readonly kind: 'bars';
  readonly label: string;
  /** What each bar stands for, from the top. */
  readonly names: readonly string[];
  /** Bars one after the other in the same row, a value for each name; null where there is none. */
  readonly series: readonly BarSeries[];
  /** Values are changes: they have a sign. */
  readonly signed?: boolean;
}

/** One row of dots: what lies how far, and where eight of ten lie. */
export interface DotsRow {
  readonly name: string;
  readonly values: readonly number[];
  readonly tenth: number;
  readonly median: number;
  readonly ninetieth: number;
  /** Where targets wish its dots to lie. */
  readonly wished: readonly Wished[];
  /** The same of what it is compared with; null: nothing. */
  readonly was: Omit<DotsRow, 'name' | 'wished' | 'was'> | null;
}

/** Rows of dots over one axis, a dot for each of many. */
export interface DotsSpec {
  readonly kind: 'dots';
  readonly label: string;
  readonly rows: readonly DotsRow[];
  readonly x: { readonly name: string; readonly low: number; readonly high: number };
}

/** A point of a curve: a figure with its interval, and where eight of ten of what is behind it lie. */
export interface CurvePoint {
  readonly x: number;
  readonly value: number;
  readonly low: number;
  readonly high: number;
  readonly lying: readonly [tenth: number, ninetieth: number] | null;
}

/** A value of an axis that is marked: what stands now, or stood in the compared version. */
export interface AxisMark {
  readonly x: number;
  readonly name: string;
  readonly now: boolean;
}

/** Figures over the values of a dial, each with its interval as a band. */
export interface CurveSpec {
  readonly kind: 'curve';
  readonly label: string;
  readonly x: { readonly name: string; readonly low: number; readonly high: number };
  readonly y: { readonly name: string; readonly low: number; readonly high: number };
  readonly curves: readonly { readonly name: string; readonly points: readonly CurvePoint[] }[];
  readonly marks: readonly AxisMark[];
  /** Where the first curve is wished to lie. */
  readonly wished: { readonly name: string; readonly from: number; readonly to: number } | null;
  /** Stretches of x where it lies there for sure. */
  readonly met: readonly (readonly [from: number, to: number])[];
}

/** A cell of a map; null: not known. */
export interface MapCell {
  readonly value: number;
  readonly low: number;
  readonly high: number;
}

/** A figure over the values of two dials: cells, contours, and what is marked. */
export interface MapSpec {
  readonly kind: 'map';
  readonly label: string;
  readonly name: string;
  readonly x: { readonly name: string; readonly values: readonly number[] };
  readonly y: { readonly name: string; readonly values: readonly number[] };
  /** Row by row, the first row at the bottom. */
  readonly cells: readonly (MapCell | null)[];
  readonly marks: readonly { readonly x: number; readonly y: number; readonly name: string; readonly now: boolean }[];
  /** Edges of where it is wished to lie. */
  readonly edges: readonly number[];
}

export type ChartSpec = LinesSpec | BarsSpec | DotsSpec | CurveSpec | MapSpec;

/** Lines of one name are drawn alike in every panel: the order in which names first come. */
export const lineNames = ({ panels }: LinesSpec): readonly string[] => [
  ...new Set(panels.flatMap(({ lines }) => lines.map(({ name }) => name))),
];

/** The value of a line at x, between the points beside it; null before its beginning and after its end. */
export function valueAt({ points }: ChartLine, x: number): number | null {
  let after = 0;
  for (let until = points.length; after < until;) {
    const middle = (after + until) >> 1;
    if ((points[middle]?.[0] ?? x) < x) after = middle + 1;
    else until = middle;
  }
  const right = points[after];
  const left = points[after - 1];
  if (right === undefined || (left === undefined && right[0] !== x)) return null;
  if (left === undefined || right[0] === x) return right[1];
  return left[1] + ((x - left[0]) / (right[0] - left[0])) * (right[1] - left[1]);
}

/** Rows of a chart of lines when it is read as a table. */
const MOST_ROWS = 25;

/** A value of a chart in words; a change has its sign. */
export const valueWords = (spec: ChartSpec, value: number | null): string => {
  if (value === null) return '—';
  return spec.kind === 'bars' && spec.signed === true ? signed(value, 1) : plainNumber(value, 1);
};

/** What a chart shows, as a table: heads and rows. Lines are read off at even distances. */
export function tableOf(spec: ChartSpec): { readonly heads: readonly string[]; readonly rows: readonly (readonly string[])[] } {
  const cell = (value: number | null): string => valueWords(spec, value);
  if (spec.kind === 'dots') {
    return {
      heads: ['', 'how many', 'a tenth is below', 'half are below', 'nine tenths are below', 'target'],
      rows: spec.rows.flatMap(({ name, was, wished, ...now }) => {
        const row = (called: string, { values, tenth, median, ninetieth }: typeof now, target: string): string[] => [
          called,
          String(values.length),
          cell(tenth),
          cell(median),
          cell(ninetieth),
          target,
        ];
        const target = wished.map(({ from, to }) => limitsText(from, to)).join(', ') || '—';
        return [row(name, now, target), ...(was === null ? [] : [row(`${name}, compared`, was, target)])];
      }),
    };
  }
  if (spec.kind === 'curve') {
    return {
      heads: [spec.x.name, ...spec.curves.flatMap(({ name }) => [name, '95 %'])],
      rows: (spec.curves[0]?.points ?? []).map(({ x }, at) => [
        plainNumber(x),
        ...spec.curves.flatMap(({ points }) => {
          const point = points[at];
          return point === undefined ? ['—', '—'] : [cell(point.value), `${cell(point.low)}–${cell(point.high)}`];
        }),
      ]),
    };
  }
  if (spec.kind === 'map') {
    const { x, y, cells } = spec;
    return {
      heads: [`${y.name} \\ ${x.name}`, ...x.values.map((value) => plainNumber(value))],
      rows: y.values.map((value, row) => [
        plainNumber(value),
        ...x.values.map((_, column) => {
          const one = cells[row * x.values.length + column];
          return one == null ? '—' : `${cell(one.value)} (${cell(one.low)}–${cell(one.high)})`;
        }),
      ]),
    };
  }
  if (spec.kind === 'bars') {
    return {
      heads: ['', ...spec.series.map(({ name }) => name)],
      rows: spec.names.map((name, index) => [name, ...spec.series.map(({ values }) => cell(values[index] ?? null))]),
    };
  }
  const { low, high, name, words: wordsOfX } = spec.x;
  const columns = spec.panels.flatMap((panel) =>
    panel.lines.map((line) => ({ head: `${panel.name}: ${line.name}${line.was === true ? ', compared' : ''}`, line })),
  );
  return {
    heads: [name, ...columns.map(({ head }) => head)],
    rows: Array.from({ length: MOST_ROWS }, (_, row) => {
      const x = low + ((high - low) * row) / (MOST_ROWS - 1);
      return [wordsOfX(x), ...columns.map(({ line }) => cell(valueAt(line, x)))];
    }),
  };
}
