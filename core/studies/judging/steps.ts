/** Where a figure is wished to lie, and the distance from there that counts as one. */
export interface Aim {
  readonly least: number;
  readonly most: number;
  readonly scale: number;
}

/** Figures over places, taken for straight: what they are at one place, and how each changes with each dial. */
export interface Straight {
  readonly place: readonly number[];
  readonly figures: readonly number[];
  /** A row a figure, a column a dial. */
  readonly slopes: readonly (readonly number[])[];
}

/** Sweeps over all dials: the sum falls with each, and is flat long before. */
const SWEEPS = 120;
/** Home holds the dials so much more at first, and lets go by so much with each sweep: so those that do as much go as far as each other. */
const [HELD_FIRST, LET_GO] = [1e5, 0.85];

const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((sum, one, at) => sum + one * (b[at] ?? 0), 0);

/**
 * The place at which figures, taken for straight, come nearest to where they are wished, within reach of where they are known; of such
 * places one near home. Least squares within bounds, one dial after the other (coordinate descent; it is convex).
 * @param weights how much a change of each dial counts
 */
export function stepTowards(
  { place, figures, slopes }: Straight,
  aims: readonly Aim[],
  home: readonly number[],
  weights: readonly number[],
  reach: number,
): number[] {
  const made = [...place];
  const values = [...figures];
  for (let [sweep, more] = [0, HELD_FIRST]; sweep < SWEEPS; sweep += 1, more *= LET_GO) {
    made.forEach((here, dial) => {
      // What pulls at this dial: figures that lie outside, and home.
      const weight = (weights[dial] ?? 0) * (1 + more);
      let [pull, stiff] = [weight * (here - (home[dial] ?? 0)), weight];
      aims.forEach(({ least, most, scale }, at) => {
        const value = values[at] ?? 0;
        const off = value < least ? value - least : value > most ? value - most : 0;
        const slope = (slopes[at]?.[dial] ?? 0) / scale;
        if (off === 0) return;
        pull += (off / scale) * slope;
        stiff += slope * slope;
      });
      if (stiff === 0) return;
      const [low, high] = [Math.max(0, (place[dial] ?? 0) - reach), Math.min(1, (place[dial] ?? 0) + reach)];
      const next = Math.max(low, Math.min(high, here - pull / stiff));
      made[dial] = next;
      slopes.forEach((row, at) => (values[at] = (values[at] ?? 0) + (row[dial] ?? 0) * (next - here)));
    });
  }
  return made;
}

/** Slopes with what one more place has shown, as little changed as may be (Broyden 1965). */
export function learned({ place, figures, slopes }: Straight, next: readonly number[], found: readonly number[]): number[][] {
  const way = next.map((value, at) => value - (place[at] ?? 0));
  const length = dot(way, way);
  return slopes.map((row, at) => {
    if (length === 0) return [...row];
    const beyond = (found[at] ?? 0) - (figures[at] ?? 0) - dot(row, way);
    return row.map((slope, dial) => slope + (beyond * (way[dial] ?? 0)) / length);
  });
}
