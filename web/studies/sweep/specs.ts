import { dialName, plainNumber, shortTarget } from '@dial/core/formats';
import { entry, type Level, type Target } from '@dial/core/level';
import {
  dialIn,
  figureName,
  measureOf,
  metStretches,
  targetFor,
  type Estimate,
  type Figure,
  type SeekResult,
  type SeekSettings,
  type SweepResult,
  type SweepSettings,
  type TradeOff,
} from '@dial/core/studies';
import { roundLevels } from '../../charts/contours.ts';
import type { AxisMark, CurvePoint, CurveSpec, MapSpec } from '../../charts/spec.ts';

/** The unit of a dial, after its name. */
function dialTitle(level: Level, dial: { readonly paths: readonly string[] }): string {
  const at = { paths: [...dial.paths] };
  const unit = dialIn(level, at)?.quantity.unit ?? '';
  return unit === '' ? dialName(level, at) : `${dialName(level, at)} (${unit})`;
}

/** Where a dial stands now, and stood in the compared version. */
function marksOf(now: Level, compared: Level | null, dial: { readonly paths: readonly string[] }): AxisMark[] {
  const at = { paths: [...dial.paths] };
  const [value, was] = [dialIn(now, at)?.value, compared === null ? undefined : dialIn(compared, at)?.value];
  return [
    ...(value === undefined ? [] : [{ x: value, name: `now ${plainNumber(value)}`, now: true }]),
    ...(was === undefined || was === value ? [] : [{ x: was, name: `was ${plainNumber(was)}`, now: false }]),
  ];
}

const pointOf = (x: number, { value, low, high }: Estimate, lying: CurvePoint['lying'] = null): CurvePoint => ({
  x,
  value,
  low,
  high,
  lying,
});

/** An axis on which values have room: from one round number to another, within what the outcome can be. */
function roomFor(level: Level, figure: Figure, values: readonly number[]): { readonly low: number; readonly high: number } {
  const { least, most } = figure.statistic.type === 'share' ? { least: 0, most: 100 } : measureOf(level, figure.outcome);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const [step = 1, next = 2 * step] = roundLevels(low - 1e-9, high > low ? high : low + 1, 4);
  const by = Math.abs(next - step) || 1;
  return {
    low: Math.max(least ?? -Infinity, Math.floor(low / by) * by),
    high: Math.min(most ?? Infinity, Math.ceil(high / by) * by),
  };
}

/** The levels that marks are taken from: as it is now, and the compared version. */
export interface Present {
  readonly now: Level;
  readonly compared: Level | null;
}

/** A sweep of one dial: each figure over its values. */
export function curveSpec(
  level: Level,
  { dials: [dial], figures, crowd }: SweepSettings,
  { cells }: SweepResult,
  { now, compared }: Present,
): CurveSpec | null {
  const [first] = figures;
  if (dial === undefined || first === undefined) return null;
  const curves = figures.map((figure, nth) => ({
    name: figureName(level, figure),
    points: cells.flatMap(({ at: [at = 0], estimates, lying }) => {
      const [estimate, lies] = [estimates[nth], lying[nth]];
      const spread = lies === undefined || figure.statistic.type === 'share' ? null : ([lies.tenth, lies.ninetieth] as const);
      return estimate === undefined ? [] : [pointOf(dial.values[at] ?? 0, estimate, spread)];
    }),
  }));
  const points = curves.flatMap((curve) => curve.points);
  if (points.length === 0) return null;
  const target = targetFor(now, first, crowd);
  const wished = target === null ? null : { from: target.least ?? -Infinity, to: target.most ?? Infinity };
  const values = points.flatMap(({ low, high, lying }) => [low, high, ...(lying ?? [])]);
  const edges = wished === null ? [] : [wished.from, wished.to].filter(Number.isFinite);
  const [low = 0, high = 1] = [dial.values[0], dial.values.at(-1)];
  const y = roomFor(now, first, [...values, ...edges]);
  return {
    kind: 'curve',
    label: `${figureName(level, first)} over ${dialName(level, dial)}`,
    x: { name: dialTitle(level, dial), low, high: high > low ? high : low + 1 },
    y: { name: figureName(level, first), ...y },
    curves,
    marks: marksOf(now, compared, dial).filter(({ x }) => x >= low && x <= high),
    wished:
      wished === null || target === null
        ? null
        : { name: `target: ${shortTarget(now, target)}`, from: Math.max(wished.from, y.low), to: Math.min(wished.to, y.high) },
    met: wished === null ? [] : metStretches(curves[0]?.points ?? [], wished),
  };
}

/** A sweep of two dials: its first figure over both. */
export function mapSpec(
  level: Level,
  { dials: [x, y], figures: [figure], crowd }: SweepSettings,
  { cells }: SweepResult,
  { now, compared }: Present,
): MapSpec | null {
  if (x === undefined || y === undefined || figure === undefined || !cells.some(({ estimates }) => estimates.length > 0)) return null;
  const target = targetFor(now, figure, crowd);
  /** Where on an axis of cells a value lies; null: outside. */
  const along = (values: readonly number[], value: number): number | null => {
    const [first = 0, last = 0] = [values[0], values.at(-1)];
    return value < first || value > last || last === first ? null : ((value - first) / (last - first)) * (values.length - 1);
  };
  const [across, up] = [marksOf(now, compared, x), marksOf(now, compared, y)];
  const places = [true, false].flatMap((present) => {
    const find = (marks: readonly AxisMark[]): number | undefined => (marks.find((mark) => mark.now === present) ?? marks[0])?.x;
    const [atX, atY] = [find(across), find(up)];
    if (atX === undefined || atY === undefined || (!present && [...across, ...up].every((mark) => mark.now))) return [];
    const [column, row] = [along(x.values, atX), along(y.values, atY)];
    return column === null || row === null ? [] : [{ x: column, y: row, name: present ? 'now' : 'was', now: present }];
  });
  return {
    kind: 'map',
    label: `${figureName(level, figure)} over ${dialName(level, x)} and ${dialName(level, y)}`,
    name: figureName(level, figure),
    x: { name: dialTitle(level, x), values: x.values },
    y: { name: dialTitle(level, y), values: y.values },
    cells: cells.map(({ estimates: [one] }) => (one === undefined ? null : { value: one.value, low: one.low, high: one.high })),
    marks: places,
    edges: [target?.least, target?.most].filter((edge) => edge != null),
  };
}

/** What a seek has played: the figure over the dial, the wish across it. */
export function seekSpec(
  level: Level,
  { dial, from, to, figure, wish }: SeekSettings,
  { points, found }: SeekResult,
  { now, compared }: Present,
): CurveSpec | null {
  if (points.length === 0) return null;
  const curve = points.map(({ value, estimate }) => pointOf(value, estimate));
  return {
    kind: 'curve',
    label: `${figureName(level, figure)} over ${dialName(level, dial)}`,
    x: { name: dialTitle(level, dial), low: from, high: to },
    y: { name: figureName(level, figure), ...roomFor(now, figure, [...curve.flatMap(({ low, high }) => [low, high]), wish]) },
    curves: [{ name: figureName(level, figure), points: curve }],
    marks: marksOf(now, compared, dial).filter(({ x }) => x >= from && x <= to),
    wished: { name: `wished: ${plainNumber(wish)}`, from: wish, to: wish },
    met: found.map(({ low, high }) => [low, high] as const),
  };
}

/** The balances of a trade-off in the order in which its points stand. */
export const balancesAlong = ({ balances }: TradeOff): TradeOff['balances'] =>
  [...balances].sort((a, b) => a.figures[0].value - b.figures[0].value);

/** What gives way to what: the figure of one target over that of another, for the settings of which none is nearer to both. */
export function tradeOffSpec(level: Level, { targets, balances }: TradeOff): CurveSpec | null {
  const [one, other] = targets.map((id) => entry(level.targets, id));
  if (one === undefined || other === undefined || balances.length < 2) return null;
  const limits = ({ least, most }: Target): { from: number; to: number } => ({ from: least ?? -Infinity, to: most ?? Infinity });
  const [across, up] = [limits(one), limits(other)];
  const points = balancesAlong({ targets, balances }).map(({ figures: [x, y] }) => pointOf(x.value, y));
  const finite = (values: readonly number[]): number[] => values.filter(Number.isFinite);
  const x = roomFor(level, one, finite([...points.map((point) => point.x), across.from, across.to]));
  const y = roomFor(level, other, finite([...points.flatMap(({ low, high }) => [low, high]), up.from, up.to]));
  return {
    kind: 'curve',
    label: `What gives way to what: ${figureName(level, one)} and ${figureName(level, other)}`,
    x: { name: figureName(level, one), ...x },
    y: { name: figureName(level, other), ...y },
    curves: [{ name: figureName(level, other), points }],
    marks: finite([across.from, across.to]).map((edge) => ({ x: edge, name: plainNumber(edge), now: false })),
    wished: { name: shortTarget(level, other), from: Math.max(up.from, y.low), to: Math.min(up.to, y.high) },
    met: [[Math.max(across.from, x.low), Math.min(across.to, x.high)]],
  };
}
