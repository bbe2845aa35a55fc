/** Draws charts with Apache ECharts. Loaded when the first chart is shown; nothing else imports that package. */
import { plainNumber } from '@dial/core/formats';
import { BarChart, CustomChart, LineChart, LinesChart, ScatterChart } from 'echarts/charts';
import {
  AriaComponent,
  AxisPointerComponent,
  DataZoomInsideComponent,
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from 'echarts/components';
import { init, use as register, type EChartsCoreOption } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import type { Palette } from '../drawing/palette.ts';
import { laneDash } from '../drawing/lanes/laneDrawing.ts';
import { hues } from './looks.ts';
import { axisFigures, axisLines, IN_FILE, ON_PAGE, SIZE, tip, tipOf, type Look } from './parts.ts';
import { curveOption, mapOption } from './studyCharts.ts';
import { lineNames, valueAt, valueWords, type BarsSpec, type ChartSpec, type DotsSpec, type LinesSpec } from './spec.ts';

register([
  AriaComponent,
  AxisPointerComponent,
  BarChart,
  CustomChart,
  DataZoomInsideComponent,
  GridComponent,
  LegendComponent,
  LineChart,
  LinesChart,
  MarkAreaComponent,
  MarkLineComponent,
  SVGRenderer,
  ScatterChart,
  TooltipComponent,
]);

/** Room around what is drawn, in pixels. */
const NAMES = 84;
const RIGHT = 14;
const TOP = 8;
const LEGEND = 22;
const AXIS = 22;
const GAP = 14;
/** The text of a bar's name takes so much at most. */
const BAR_NAMES = 260;

/** Patterns of bars that stand beside each other, in the order of the hues. */
const DECALS = [
  { symbol: 'none' },
  { dashArrayX: [1, 0], dashArrayY: [2, 4], rotation: -Math.PI / 4 },
  {
    symbol: 'circle',
    symbolSize: 0.6,
    dashArrayX: [
      [6, 6],
      [0, 6, 6, 0],
    ],
    dashArrayY: [6, 0],
  },
  { dashArrayX: [1, 0], dashArrayY: [2, 4], rotation: Math.PI / 4 },
];

/** What every chart has of the page it stands in. */
function common({ palette, faces, still }: Look): EChartsCoreOption {
  return {
    color: [...hues(palette)],
    backgroundColor: 'transparent',
    animation: !still,
    animationDuration: 200,
    // What follows a dial is there at once.
    animationDurationUpdate: 0,
    textStyle: { fontFamily: faces.words, fontSize: SIZE, color: palette.ink },
    aria: { enabled: true, label: { enabled: false }, decal: { show: true, decals: DECALS } },
  };
}

function linesOption(spec: LinesSpec, look: Look): EChartsCoreOption {
  const { palette, height } = look;
  const names = lineNames(spec);
  const legend = names.length > 1;
  const top = TOP + (legend ? LEGEND : 0);
  const each = (height - top - AXIS - GAP * (spec.panels.length - 1)) / spec.panels.length;
  return {
    legend: legend
      ? { top: 0, left: NAMES, data: [...names], itemWidth: 30, itemStyle: { opacity: 0 }, textStyle: { color: palette.ink } }
      : undefined,
    grid: spec.panels.map((_, index) => ({ left: NAMES, right: RIGHT, top: top + index * (each + GAP), height: each })),
    xAxis: spec.panels.map((_, index) => ({
      type: 'value',
      gridIndex: index,
      min: spec.x.low,
      max: spec.x.high,
      ...axisLines(look),
      axisLabel: {
        ...axisFigures(look),
        show: index === spec.panels.length - 1,
        formatter: spec.x.words,
        hideOverlap: true,
      },
    })),
    yAxis: spec.panels.map(({ name, low, high }, index) => ({
      type: 'value',
      gridIndex: index,
      min: low,
      max: high,
      interval: high - low,
      name,
      nameLocation: 'middle',
      nameRotate: 0,
      nameGap: NAMES / 2,
      nameTextStyle: { color: palette.ink, fontWeight: 'bold', width: NAMES / 2, overflow: 'truncate' },
      ...axisLines(look),
      axisLabel: { ...axisFigures(look), formatter: (value: number) => plainNumber(value, 1) },
    })),
    axisPointer: { link: [{ xAxisIndex: 'all' }], lineStyle: { color: palette.needle } },
    tooltip: {
      trigger: 'axis',
      ...tip(look),
      formatter: (pointed: unknown) => {
        const x = (pointed as readonly { readonly axisValue?: number }[])[0]?.axisValue ?? 0;
        const rows = names.map((name) => {
          const values = spec.panels.flatMap((panel) => {
            const [now, was] = [false, true].map((compared) => {
              const line = panel.lines.find((one) => one.name === name && (one.was ?? false) === compared);
              return line === undefined ? null : valueAt(line, x);
            });
            return now == null ? [] : [`${panel.name} ${plainNumber(now, 1)}${was == null ? '' : `, compared ${plainNumber(was, 1)}`}`];
          });
          return `${names.length > 1 ? `${name}: ` : ''}${values.length === 0 ? 'not running' : values.join(', ')}`;
        });
        return tipOf(spec.x.words(x), rows);
      },
    },
    dataZoom: [{ type: 'inside', xAxisIndex: spec.panels.map((_, index) => index), zoomOnMouseWheel: 'ctrl', moveOnMouseWheel: false }],
    series: spec.panels.flatMap((panel, index) =>
      panel.lines.map(({ name, was = false, points }) => ({
        type: 'line',
        name,
        xAxisIndex: index,
        yAxisIndex: index,
        data: points,
        symbol: 'none',
        sampling: 'minmax',
        color: hues(palette)[names.indexOf(name) % hues(palette).length],
        lineStyle: was
          ? { width: 1, type: [1.5, 2.5], opacity: 0.85 }
          : { width: 1.6, type: names.indexOf(name) === 0 ? 'solid' : [...laneDash(names.indexOf(name))] },
        emphasis: { disabled: true },
      })),
    ),
  };
}

function barsOption(spec: BarsSpec, look: Look): EChartsCoreOption {
  const { palette, faces } = look;
  const legend = spec.series.length > 1;
  return {
    legend: legend ? { top: 0, left: 0, textStyle: { color: palette.ink } } : undefined,
    grid: { left: 4, right: RIGHT + 30, top: TOP + (legend ? LEGEND : 0), bottom: 4, containLabel: true },
    xAxis: { type: 'value', ...axisLines(look), axisLabel: axisFigures(look), splitNumber: 3 },
    yAxis: {
      type: 'category',
      inverse: true,
      data: [...spec.names],
      ...axisLines(look),
      axisLabel: { color: palette.ink, fontSize: SIZE, width: BAR_NAMES, overflow: 'truncate' },
    },
    tooltip: {
      trigger: 'axis',
      axisPointer: { type: 'shadow' },
      ...tip(look),
      formatter: (pointed: unknown) => {
        const at = (pointed as readonly { readonly dataIndex?: number }[])[0]?.dataIndex ?? 0;
        const rows = spec.series.map(({ name, values }) => `${name} ${valueWords(spec, values[at] ?? null)}`);
        return tipOf(spec.names[at] ?? '', rows);
      },
    },
    series: spec.series.map(({ name, values, role }) => ({
      type: 'bar',
      name,
      stack: 'row',
      color: role === undefined ? undefined : palette.role[role],
      data: [...values],
      barMaxWidth: 14,
      label: {
        show: true,
        position: 'right',
        color: palette.ink,
        fontFamily: faces.figures,
        fontSize: 10,
        formatter: ({ value }: { readonly value: number | null }) => (value === null || value === 0 ? '' : valueWords(spec, value)),
      },
      emphasis: { disabled: true },
    })),
  };
}

/** More dots than this in a row are one mass: only so many, evenly chosen, are drawn. */
const MOST_DOTS = 400;
/** So much of a row's height dots are strewn over, so that they do not hide each other. */
const STREWN = 0.5;
/** So far below, of a row's height, lies what it is compared with. */
const WAS_BELOW = 0.3;
/** Half of what the range of a target takes of it. */
const TARGET_HALF = 0.42;

/** Numbers of the values of a row that are drawn. */
function drawnDots({ length }: readonly number[]): number[] {
  const every = Math.max(1, Math.ceil(length / MOST_DOTS));
  return Array.from({ length: Math.ceil(length / every) }, (_, nth) => nth * every);
}

/** Where targets wish the dots of each row to lie: a tint, with an edge where there is a limit. */
function wishedAreas({ rows, x }: DotsSpec, { palette }: Look): object {
  const all = rows.flatMap(({ wished }, row) =>
    wished.map(({ from, to }) => ({ from: Math.max(x.low, from), to: Math.min(x.high, to), row })),
  );
  const edges = all.flatMap(({ from, to, row }) => [from, to].filter((at) => at > x.low && at < x.high).map((at) => ({ at, row })));
  return {
    type: 'line',
    name: 'target',
    data: [],
    markArea: {
      silent: true,
      itemStyle: { color: palette.role.mend, opacity: 0.14 },
      data: all.map(({ from, to, row }) => [{ coord: [from, row - TARGET_HALF] }, { coord: [to, row + TARGET_HALF] }]),
    },
    markLine: {
      silent: true,
      symbol: 'none',
      label: { show: false },
      lineStyle: { color: palette.role.mend, type: [3, 3], width: 1.2 },
      data: edges.map(({ at, row }) => [{ coord: [at, row - TARGET_HALF] }, { coord: [at, row + TARGET_HALF] }]),
    },
  };
}

/** Where eight of ten of each row lie. */
const spans = (
  rows: readonly { readonly tenth: number; readonly ninetieth: number; readonly row: number }[],
  lineStyle: object,
  { ink }: Palette,
): object[] =>
  rows.map(({ tenth, ninetieth, row }) => ({
    type: 'line',
    silent: true,
    symbol: 'none',
    color: ink,
    lineStyle,
    data: [
      [tenth, row],
      [ninetieth, row],
    ],
  }));

/** What the rows are compared with: hollow, below them. */
function compared({ rows }: DotsSpec, { palette }: Look): object[] {
  const was = rows.flatMap(({ was: one }, row) => (one === null ? [] : [{ ...one, row: row + WAS_BELOW }]));
  if (was.length === 0) return [];
  return [
    {
      type: 'scatter',
      name: 'compared',
      silent: true,
      symbol: 'emptyCircle',
      symbolSize: 4,
      itemStyle: { color: palette.ink, opacity: 0.35 },
      data: was.flatMap(({ values, row }) =>
        drawnDots(values).map((nth) => [values[nth] ?? 0, row + 0.3 * STREWN * (((nth * 0.618034) % 1) - 0.5)]),
      ),
    },
    ...spans(was, { width: 1, type: [1.5, 2.5] }, palette),
    {
      type: 'scatter',
      silent: true,
      symbol: 'rect',
      symbolSize: [4, 9],
      itemStyle: { color: palette.card, borderColor: palette.ink, borderWidth: 1.2 },
      data: was.map(({ median, row }) => [median, row]),
    },
  ];
}

function dotsOption(spec: DotsSpec, look: Look): EChartsCoreOption {
  const { palette } = look;
  const rowName = (at: number): string => spec.rows[at]?.name ?? '';
  return {
    aria: { enabled: true, label: { enabled: false } },
    grid: { left: NAMES, right: RIGHT, top: TOP, bottom: AXIS },
    xAxis: { type: 'value', min: spec.x.low, max: spec.x.high, ...axisLines(look), axisLabel: { ...axisFigures(look), hideOverlap: true } },
    yAxis: {
      type: 'value',
      inverse: true,
      min: -0.5,
      max: spec.rows.length - 0.5,
      interval: 0.5,
      ...axisLines(look),
      splitLine: { show: false },
      axisLabel: { color: palette.ink, fontSize: SIZE, formatter: (at: number) => (Number.isInteger(at) ? rowName(at) : '') },
    },
    tooltip: {
      trigger: 'item',
      ...tip(look),
      formatter: ({ data }: { readonly data?: readonly number[] }) =>
        data === undefined ? '' : tipOf(`${spec.x.name} ${plainNumber(data[0] ?? 0, 1)}`, [rowName(data[3] ?? Math.round(data[1] ?? 0))]),
    },
    series: [
      wishedAreas(spec, look),
      {
        type: 'scatter',
        name: 'dots',
        symbolSize: 5,
        itemStyle: { color: palette.ink, opacity: 0.3 },
        data: spec.rows.flatMap(({ values }, row) =>
          drawnDots(values).map((nth) => [values[nth] ?? 0, row + STREWN * (((nth * 0.618034) % 1) - 0.5), nth, row]),
        ),
      },
      ...compared(spec, look),
      ...spans(
        spec.rows.map(({ tenth, ninetieth }, row) => ({ tenth, ninetieth, row })),
        { width: 1.4 },
        palette,
      ),
      {
        type: 'scatter',
        silent: true,
        symbol: 'rect',
        symbolSize: [4, 15],
        itemStyle: { color: palette.ink },
        label: {
          show: true,
          position: 'top',
          distance: 1,
          color: palette.ink,
          fontSize: 10,
          formatter: ({ data }: { readonly data: readonly number[] }) => plainNumber(data[0] ?? 0, 0),
        },
        data: spec.rows.map(({ median }, row) => [median, row]),
      },
    ],
  };
}

function ownOption(spec: ChartSpec, look: Look): EChartsCoreOption {
  switch (spec.kind) {
    case 'lines':
      return linesOption(spec, look);
    case 'bars':
      return barsOption(spec, look);
    case 'dots':
      return dotsOption(spec, look);
    case 'curve':
      return curveOption(spec, look);
    case 'map':
      return mapOption(spec, look);
  }
}

const optionOf = (spec: ChartSpec, look: Look): EChartsCoreOption => ({ ...common(look), ...ownOption(spec, look) });

/** A chart that is on the page. */
export interface Drawn {
  show: (spec: ChartSpec, palette: Palette) => void;
  /** Is told which dot of which row is pressed; of a curve which point of which line, of a map which cell of row nought. */
  onDot: (listener: (row: number, nth: number) => void) => void;
  /** Of a chart of lines: is told which line is nearest to where it is pressed, and at what x. */
  onLine: (listener: (line: number, x: number) => void) => void;
  resize: () => void;
  end: () => void;
}

/** Draws within an element, of the height that it has. */
export function drawIn(element: HTMLDivElement): Drawn {
  const chart = init(element, null, { renderer: 'svg' });
  const still = matchMedia('(prefers-reduced-motion: reduce)').matches;
  let shown: ChartSpec | null = null;
  return {
    show: (spec, palette) => {
      shown = spec;
      chart.setOption(optionOf(spec, { palette, faces: ON_PAGE, height: element.clientHeight, still }), { notMerge: true });
    },
    onDot: (listener) => {
      chart.off('click');
      chart.on('click', ({ data, seriesName, seriesType }) => {
        if (!Array.isArray(data)) return;
        const [, , nth, row] = data as number[];
        if (nth === undefined || row === undefined) return;
        listener(seriesType === 'custom' && seriesName === 'cells' ? 0 : row, nth);
      });
    },
    onLine: (listener) => {
      chart.getZr().off('click');
      chart.getZr().on('click', ({ offsetX, offsetY }) => {
        const [panel] = shown?.kind === 'lines' ? shown.panels : [];
        if (panel === undefined || !chart.containPixel({ gridIndex: 0 }, [offsetX, offsetY])) return;
        const [x = 0, y = 0] = chart.convertFromPixel({ gridIndex: 0 }, [offsetX, offsetY]);
        const far = panel.lines.map((line) => (line.was === true ? Infinity : Math.abs((valueAt(line, x) ?? Infinity) - y)));
        listener(far.indexOf(Math.min(...far)), x);
      });
    },
    resize: () => chart.resize(),
    end: () => chart.dispose(),
  };
}

/** A chart as an SVG document of a size in pixels, for a file or for print. */
export function svgOf(spec: ChartSpec, palette: Palette, width: number, height: number): string {
  const chart = init(null, null, { renderer: 'svg', ssr: true, width, height });
  chart.setOption(optionOf(spec, { palette, faces: IN_FILE, height, still: true }));
  const svg = chart.renderToSVGString();
  chart.dispose();
  return svg;
}
