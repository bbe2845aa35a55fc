import { keyedDraw } from '../../session/index.ts';

/** What search draws are keyed by, after the draws of bootstraps. */
const SEARCHING = 9;

/** An even draw's sum of twelve, less six: near enough to a normal one, of plain additions alone. */
function normal(seed: number, nth: number, at: number): number {
  let sum = -6;
  for (let part = 0; part < 12; part += 1) sum += keyedDraw({ seed }, SEARCHING, nth, at * 12 + part);
  return sum;
}

/** e to a small power, of multiplications alone: the same on every machine. */
function exp(power: number): number {
  let value = 1 + power / 1024;
  for (let doubled = 0; doubled < 10; doubled += 1) value *= value;
  return value;
}

/** A place that is to be tried, and the draw that led to it. */
interface Trial {
  readonly place: readonly number[];
  readonly draw: readonly number[];
  /** How far outside it would have lain: counts against it, or whatever lies far outside would be as good as the edge. */
  readonly beyond: number;
}

/** A search for the place at which something is least, over numbers from nought to one. */
export interface Search {
  /** The places of the next generation. */
  readonly trials: () => Trial[];
  /** Told the trials of a generation, the best first. */
  readonly learn: (ranked: readonly Trial[]) => void;
  /** How far it steps still. */
  readonly reach: () => number;
}

/**
 * Matrix adaptation evolution strategy (Beyer and Sendhoff 2017): covariance adaptation without taking matrices apart. Derivative-free, and
 * drawn by a seed. Places outside are put onto the edge,
 * and whoever ranks them adds how far outside they would have lain.
 */
export function createSearch(start: readonly number[], seed: number, reach = 0.3): Search {
  const size = start.length;
  // Three times the natural logarithm of the size, as usual, and two more for the noise; of the few sizes there are.
  const logs = [0, 0, 0.69, 1.1, 1.39, 1.61, 1.79, 1.95, 2.08, 2.2, 2.3, 2.4, 2.48];
  const count = 6 + Math.floor(3 * (logs[size] ?? 2.5));
  const parents = Math.floor(count / 2);
  const rough = Array.from({ length: parents }, (_, nth) => parents - nth);
  const total = rough.reduce((sum, one) => sum + one, 0);
  const weights = rough.map((one) => one / total);
  const effective = 1 / weights.reduce((sum, one) => sum + one * one, 0);
  const pathRate = (effective + 2) / (size + effective + 5);
  const oneRate = 2 / ((size + 1.3) * (size + 1.3) + effective);
  const manyRate = Math.min(1 - oneRate, (2 * (effective - 2 + 1 / effective)) / ((size + 2) * (size + 2) + effective));
  const damping = 1 + pathRate + 2 * Math.max(0, Math.sqrt((effective - 1) / (size + 1)) - 1);
  const expected = Math.sqrt(size) * (1 - 1 / (4 * size) + 1 / (21 * size * size));
  const mean = [...start];
  const path = start.map(() => 0);
  let step = reach;
  let generation = 0;
  let matrix = start.map((_, row) => start.map<number>((_one, column) => (row === column ? 1 : 0)));
  const inside = (value: number): number => Math.max(0, Math.min(1, value));
  const turned = (draw: readonly number[]): number[] =>
    matrix.map((row) => row.reduce((sum, one, column) => sum + one * (draw[column] as number), 0));
  return {
    trials() {
      generation += 1;
      return Array.from({ length: count }, (_, nth) => {
        const draw = start.map((_one, at) => normal(seed, generation, nth * size + at));
        const way = turned(draw);
        const wished = mean.map((value, at) => value + step * (way[at] as number));
        const place = wished.map(inside);
        return { draw, place, beyond: wished.reduce((sum, value, at) => sum + Math.abs(value - (place[at] as number)), 0) };
      });
    },
    learn(ranked) {
      const best = ranked.slice(0, parents);
      const weighted = (of: (trial: Trial) => readonly number[]): number[] =>
        start.map((_, at) => best.reduce((sum, trial, nth) => sum + (weights[nth] as number) * (of(trial)[at] as number), 0));
      const draw = weighted((trial) => trial.draw);
      const way = turned(draw);
      mean.forEach((value, at) => (mean[at] = inside(value + step * (way[at] as number))));
      const spread = Math.sqrt(effective * pathRate * (2 - pathRate));
      path.forEach((value, at) => (path[at] = (1 - pathRate) * value + spread * (draw[at] as number)));
      const change = start.map((_, row) =>
        start.map((_one, column) => {
          const unit = row === column ? 1 : 0;
          const many = best.reduce(
            (sum, trial, nth) => sum + (weights[nth] as number) * (trial.draw[row] as number) * (trial.draw[column] as number),
            0,
          );
          return unit + (oneRate / 2) * ((path[row] as number) * (path[column] as number) - unit) + (manyRate / 2) * (many - unit);
        }),
      );
      matrix = matrix.map((row) =>
        start.map((_, column) => row.reduce((sum, one, at) => sum + one * ((change[at] as number[])[column] as number), 0)),
      );
      const length = Math.sqrt(path.reduce((sum, one) => sum + one * one, 0));
      step = Math.min(0.5, step * exp((pathRate / damping) * (length / expected - 1)));
    },
    reach: () => step,
  };
}
