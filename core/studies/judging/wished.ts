import { inOrder, type Level, type Target, type Wished } from '../../level/index.ts';
import type { CrowdSettings } from '../settings.ts';
import type { Figure } from './settings.ts';

/** The target of a level that speaks of a figure of the same players, where there is one. */
export function targetFor(level: Level, { outcome, statistic }: Figure, crowd: CrowdSettings): Target | null {
  const key = (figure: Figure, personas: readonly string[]): string =>
    JSON.stringify([figure.outcome, figure.statistic, [...personas].sort()]);
  const all = Object.keys(level.personas);
  const wanted = key(
    { outcome, statistic },
    crowd.personas.map(({ persona }) => persona),
  );
  const found = inOrder(level.targets).find(([, { personas, than, ...target }]) => {
    return (
      than === null && key({ outcome: target.outcome, statistic: target.statistic }, personas.length === 0 ? all : personas) === wanted
    );
  });
  return found?.[1] ?? null;
}

/** A figure at one value of a dial: the edges of its interval. */
interface Edges {
  readonly x: number;
  readonly low: number;
  readonly high: number;
}

/** Stretches of x within which a curve lies between two values for sure, straight between its points. */
export function metStretches(points: readonly Edges[], { from, to }: Wished): [number, number][] {
  const stretches: [number, number][] = [];
  points.slice(1).forEach((next, at) => {
    const before = points[at];
    if (before === undefined) return;
    // Of the way from one point to the next, what keeps both edges of the interval inside.
    let [begin, end] = [0, 1];
    const keep = (first: number, last: number): void => {
      if (first < 0 && last < 0) end = -1;
      else if (first < 0) begin = Math.max(begin, first / (first - last));
      else if (last < 0) end = Math.min(end, first / (first - last));
    };
    keep(before.low - from, next.low - from);
    keep(to - before.high, to - next.high);
    if (begin >= end) return;
    const [left, right] = [begin, end].map((share) => before.x + share * (next.x - before.x)) as [number, number];
    const last = stretches.at(-1);
    if (last !== undefined && Math.abs(last[1] - left) < 1e-9) last[1] = right;
    else stretches.push([left, right]);
  });
  return stretches;
}
