/** A piece of a contour: from one point to another, in cells. */
export type ContourPiece = readonly [x0: number, y0: number, x1: number, y1: number];

/**
 * Where a field of values crosses a level: marching squares over the middles of its cells (Lorensen and Cline 1987, in the plane), straight
 * between them. Squares with an unknown corner have none.
 */
export function contourAt(values: readonly (number | null)[], width: number, level: number): ContourPiece[] {
  const height = Math.floor(values.length / Math.max(1, width));
  const pieces: ContourPiece[] = [];
  const at = (x: number, y: number): number | null => values[y * width + x] ?? null;
  for (let y = 0; y + 1 < height; y += 1) {
    for (let x = 0; x + 1 < width; x += 1) {
      const corners = [at(x, y), at(x + 1, y), at(x + 1, y + 1), at(x, y + 1)];
      if (corners.some((corner) => corner === null)) continue;
      const [a, b, c, d] = corners as [number, number, number, number];
      const share = (from: number, to: number): number => (level - from) / (to - from);
      const crossings: [number, number][] = [];
      if (a < level !== b < level) crossings.push([x + share(a, b), y]);
      if (b < level !== c < level) crossings.push([x + 1, y + share(b, c)]);
      if (c < level !== d < level) crossings.push([x + 1 - share(c, d), y + 1]);
      if (d < level !== a < level) crossings.push([x, y + 1 - share(d, a)]);
      // A saddle has four: its middle says which belong together.
      const middle = (a + b + c + d) / 4 < level === a < level;
      const order = crossings.length === 4 && middle ? [0, 1, 2, 3] : [3, 0, 1, 2];
      const pairs = crossings.length === 4 ? order : [0, 1];
      for (let nth = 0; nth + 1 < Math.min(crossings.length, pairs.length); nth += 2) {
        const [from, to] = [crossings[pairs[nth] ?? 0], crossings[pairs[nth + 1] ?? 1]];
        if (from !== undefined && to !== undefined) pieces.push([from[0], from[1], to[0], to[1]]);
      }
    }
  }
  return pieces;
}

/** Round values between the least and the most, about so many: steps of 1, 2 or 5 times a power of ten. */
export function roundLevels(low: number, high: number, about: number): number[] {
  if (!(high > low)) return [];
  const rough = (high - low) / about;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 5, 10].map((times) => times * power).find((one) => one >= rough) ?? rough;
  const first = Math.floor(low / step) + 1;
  return Array.from({ length: Math.max(0, Math.ceil(high / step) - first) }, (_, nth) => Number(((first + nth) * step).toPrecision(12)));
}
