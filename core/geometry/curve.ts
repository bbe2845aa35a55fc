/** Curves of a level laid end to end: sorted points, straight between, level beyond the ends. */
export interface CurveTable {
  readonly start: Int32Array;
  readonly at: Float64Array;
  readonly value: Float64Array;
}

export function createCurveTable(curves: readonly (readonly (readonly [number, number])[])[]): CurveTable {
  const start = new Int32Array(curves.length + 1);
  curves.forEach((points, index) => (start[index + 1] = (start[index] as number) + points.length));
  return {
    start,
    at: Float64Array.from(curves.flat(), ([at]) => at),
    value: Float64Array.from(curves.flat(), ([, value]) => value),
  };
}

/** The value of a curve. */
export function curveValue(table: CurveTable, curve: number, at: number): number {
  const first = table.start[curve] as number;
  const last = (table.start[curve + 1] as number) - 1;
  if (at <= (table.at[first] as number)) return table.value[first] as number;
  for (let point = first; point < last; point += 1) {
    const to = table.at[point + 1] as number;
    if (at > to) continue;
    const from = table.at[point] as number;
    const low = table.value[point] as number;
    return low + (((table.value[point + 1] as number) - low) * (at - from)) / (to - from);
  }
  return table.value[last] as number;
}

/** The area under a curve from 0 to `at`: the way gone, when the curve is a speed over time. */
export function curveArea(table: CurveTable, curve: number, at: number): number {
  const first = table.start[curve] as number;
  const last = (table.start[curve + 1] as number) - 1;
  let area = (table.value[first] as number) * Math.min(at, table.at[first] as number);
  for (let point = first; point < last; point += 1) {
    const from = table.at[point] as number;
    if (at <= from) return area;
    const to = Math.min(at, table.at[point + 1] as number);
    area += ((curveValue(table, curve, from) + curveValue(table, curve, to)) / 2) * (to - from);
  }
  const end = table.at[last] as number;
  return at > end ? area + (table.value[last] as number) * (at - end) : area;
}
