/** Charts of studies of values: a curve over one dial, a map over two. */
import { plainNumber } from '@dial/core/formats';
import type { EChartsCoreOption } from 'echarts/core';
import { contourAt, roundLevels } from './contours.ts';
import { hues } from './looks.ts';
import { axisFigures, axisLines, tip, tipOf, type Look } from './parts.ts';
import type { CurvePoint, CurveSpec, MapSpec } from './spec.ts';

/** Room around what is drawn, in pixels. */
const [LEFT, RIGHT, TOP, BOTTOM] = [52, 16, 26, 36];
/** Contours of a map, about so many. */
const CONTOURS = 6;

const figure = ({ value, low, high }: Pick<CurvePoint, 'value' | 'low' | 'high'>): string =>
  `${plainNumber(value, 1)} (${plainNumber(low, 1)}–${plainNumber(high, 1)})`;

/** Rings around the cells in which the present values lie, and those of the compared version. */
const marksOn = (marks: MapSpec['marks'], { palette }: Look): object => ({
  type: 'scatter',
  name: 'marks',
  silent: true,
  // Around the figure of its cell.
  symbol: 'circle',
  symbolSize: 24,
  data: marks.map((mark) => ({
    value: [mark.x, mark.y],
    itemStyle: { color: 'transparent', borderColor: mark.now ? palette.needle : palette.ink, borderWidth: 2 },
    label: {
      show: true,
      position: 'right',
      formatter: mark.name,
      color: palette.ink,
      backgroundColor: palette.paper,
      borderRadius: 2,
      padding: [2, 4],
      fontSize: 10,
    },
  })),
});

/** A band from one edge to the other: a line that is not seen, and what lies on it. */
function band(
  name: string,
  points: readonly CurvePoint[],
  edges: (point: CurvePoint) => readonly [number, number] | null,
  color: string,
  opacity: number,
): object[] {
  const line = {
    type: 'line',
    symbol: 'none',
    silent: true,
    lineStyle: { opacity: 0 },
    stack: name,
    stackStrategy: 'all',
    emphasis: { disabled: true },
  };
  const known = points.flatMap((point) => {
    const found = edges(point);
    return found === null ? [] : [{ x: point.x, low: found[0], high: found[1] }];
  });
  return [
    { ...line, name: `${name} low`, data: known.map(({ x, low }) => [x, low]) },
    { ...line, name: `${name} high`, data: known.map(({ x, low, high }) => [x, high - low]), areaStyle: { color, opacity } },
  ];
}

const nameBelow = ({ palette }: Look, name: string): object => ({
  name,
  nameLocation: 'middle',
  nameGap: 22,
  nameTextStyle: { color: palette.ink },
});

export function curveOption(spec: CurveSpec, look: Look): EChartsCoreOption {
  const { palette } = look;
  const { x, y, wished } = spec;
  const colors = [palette.role.mend, ...hues(palette)];
  const areas = [
    ...spec.met.map(([from, to]) => [{ xAxis: from, itemStyle: { color: palette.role.mend, opacity: 0.1 } }, { xAxis: to }]),
    ...(wished === null
      ? []
      : [
          [
            {
              yAxis: Math.max(y.low, wished.from),
              name: wished.name,
              itemStyle: { color: palette.role.mend, opacity: 0.07 },
              // At the bottom there is no room below its edge.
              ...(wished.to - y.low < (y.high - y.low) / 10 ? { label: { position: 'insideBottomLeft' } } : {}),
            },
            { yAxis: Math.min(y.high, wished.to) },
          ],
        ]),
  ];
  const edges = wished === null ? [] : [wished.from, wished.to].filter((edge) => edge > y.low && edge < y.high);
  return {
    aria: { enabled: true, label: { enabled: false } },
    legend:
      spec.curves.length > 1
        ? { top: 0, left: LEFT, data: spec.curves.map(({ name }) => name), textStyle: { color: palette.ink } }
        : undefined,
    grid: { left: LEFT, right: RIGHT, top: TOP, bottom: BOTTOM },
    xAxis: {
      type: 'value',
      min: x.low,
      max: x.high,
      ...nameBelow(look, x.name),
      ...axisLines(look),
      axisLabel: { ...axisFigures(look), hideOverlap: true },
    },
    yAxis: { type: 'value', min: y.low, max: y.high, ...axisLines(look), axisLabel: axisFigures(look) },
    tooltip: {
      trigger: 'item',
      ...tip(look),
      formatter: ({ data, seriesName }: { readonly data?: readonly number[]; readonly seriesName?: string }) => {
        const [at, , nth, curve] = data ?? [];
        const point = curve === undefined || nth === undefined ? undefined : spec.curves[curve]?.points[nth];
        return point === undefined ? '' : tipOf(`${x.name} ${plainNumber(at ?? 0)}`, [`${seriesName ?? ''} ${figure(point)}`]);
      },
    },
    series: [
      ...spec.curves.flatMap(({ name, points }, nth) => {
        const color = colors[nth % colors.length] ?? palette.ink;
        return [
          ...(nth === 0 ? band(`${name} lying`, points, ({ lying }) => lying, color, 0.1) : []),
          ...band(name, points, ({ low, high }) => [low, high], color, 0.35),
          {
            type: 'line',
            name,
            color,
            symbol: 'none',
            silent: true,
            lineStyle: { width: 1.8, type: nth === 0 ? 'solid' : [5, 3 + nth] },
            data: points.map((point) => [point.x, point.value]),
            emphasis: { disabled: true },
          },
        ];
      }),
      ...spec.curves.map(({ name, points }, curve) => ({
        type: 'scatter',
        name,
        symbolSize: 7,
        itemStyle: { color: palette.card, borderColor: colors[curve % colors.length], borderWidth: 1.6 },
        data: points.map((point, nth) => [point.x, point.value, nth, curve]),
      })),
      {
        type: 'line',
        name: 'marks',
        data: [],
        markArea: { silent: true, data: areas, label: { position: 'insideTopLeft', color: palette.role.mend, fontSize: 10 } },
        markLine: {
          symbol: 'none',
          silent: true,
          data: [
            ...edges.map((edge) => ({
              yAxis: edge,
              label: { show: false },
              lineStyle: { color: palette.role.mend, type: [3, 3], width: 1 },
            })),
            ...spec.marks.map((mark) => ({
              xAxis: mark.x,
              label: { show: true, formatter: mark.name, position: 'end', color: mark.now ? palette.needle : palette.ink, fontSize: 10 },
              lineStyle: { color: mark.now ? palette.needle : palette.ink, width: mark.now ? 1.8 : 1, type: mark.now ? 'solid' : [2, 3] },
            })),
          ],
        },
      },
    ],
  };
}

export function mapOption(spec: MapSpec, look: Look): EChartsCoreOption {
  const { palette, faces } = look;
  const { x, y, cells } = spec;
  const width = x.values.length;
  const known = cells.filter((cell) => cell !== null);
  const low = Math.min(...known.map(({ value }) => value));
  const high = Math.max(...known.map(({ value }) => value));
  const share = (value: number): number => (high > low ? (value - low) / (high - low) : 0.5);
  const field = cells.map((cell) => cell?.value ?? null);
  const contour = (level: number, edge: boolean): object => ({
    type: 'lines',
    coordinateSystem: 'cartesian2d',
    silent: true,
    name: edge ? 'edge' : 'contour',
    lineStyle: {
      color: edge ? palette.role.mend : palette.ink,
      width: edge ? 2.2 : 0.7,
      type: edge ? [5, 3] : 'solid',
      opacity: edge ? 1 : 0.6,
    },
    data: contourAt(field, width, level).map(([x0, y0, x1, y1]) => ({
      coords: [
        [x0, y0],
        [x1, y1],
      ],
    })),
  });
  const axis = { type: 'value', ...axisLines(look), axisLine: { show: false }, splitLine: { show: false }, interval: 1, min: -0.5 };
  const labels = (values: readonly number[]): object => ({
    ...axisFigures(look),
    hideOverlap: true,
    formatter: (at: number) => (Number.isInteger(at) ? plainNumber(values[at] ?? 0) : ''),
  });
  return {
    aria: { enabled: true, label: { enabled: false } },
    grid: { left: LEFT + 18, right: RIGHT, top: TOP, bottom: BOTTOM },
    xAxis: { ...axis, max: width - 0.5, ...nameBelow(look, x.name), axisLabel: labels(x.values), axisTick: { show: false }, interval: 0.5 },
    yAxis: {
      ...axis,
      max: y.values.length - 0.5,
      name: y.name,
      nameLocation: 'middle',
      nameGap: 40,
      nameTextStyle: { color: palette.ink },
      axisLabel: labels(y.values),
      interval: 0.5,
    },
    tooltip: {
      trigger: 'item',
      ...tip(look),
      formatter: ({ data }: { readonly data?: readonly number[] }) => {
        const [column = 0, row = 0] = data ?? [];
        const cell = cells[row * width + column];
        const head = `${x.name} ${plainNumber(x.values[column] ?? 0)}, ${y.name} ${plainNumber(y.values[row] ?? 0)}`;
        return cell == null ? '' : tipOf(head, [`${spec.name} ${figure(cell)}`]);
      },
    },
    series: [
      {
        type: 'custom',
        name: 'cells',
        encode: { x: 0, y: 1 },
        data: cells.flatMap((cell, at) => (cell === null ? [] : [[at % width, Math.floor(at / width), at, cell.value]])),
        renderItem: (
          _: unknown,
          api: { value: (dimension: number) => number; coord: (at: number[]) => number[]; size: (by: number[]) => number[] },
        ) => {
          const [column, row, , value] = [api.value(0), api.value(1), api.value(2), api.value(3)];
          const [left = 0, top = 0] = api.coord([column - 0.5, row + 0.5]);
          const [wide = 0, tall = 0] = api.size([1, 1]);
          const rect = {
            type: 'rect',
            shape: { x: left, y: top, width: wide, height: tall },
            // So dark that figures in ink can be read on it.
            style: { fill: palette.ink, opacity: 0.04 + 0.4 * share(value) },
          };
          const shown = wide > 30 && tall > 13;
          const text = {
            type: 'text',
            silent: true,
            style: {
              x: left + wide / 2,
              y: top + tall / 2,
              text: plainNumber(value, 0),
              align: 'center',
              verticalAlign: 'middle',
              fill: palette.ink,
              font: `10px ${faces.figures}`,
            },
          };
          return { type: 'group', children: shown ? [rect, text] : [rect] };
        },
      },
      ...roundLevels(low, high, CONTOURS).map((level) => contour(level, false)),
      ...spec.edges.map((level) => contour(level, true)),
      marksOn(spec.marks, look),
    ],
  };
}
