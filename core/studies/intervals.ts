import { mean, quantileSorted } from 'simple-statistics';
import { keyedDraw } from '../session/index.ts';

/** A figure with the interval that holds the truth in 95 of 100 such crowds. */
export interface Estimate {
  readonly value: number;
  readonly low: number;
  readonly high: number;
  /** Sessions it rests on. */
  readonly sessions: number;
}

/** How sure an interval is: the share left out on each side, and that point of the normal distribution. */
export interface Sureness {
  readonly tail: number;
  readonly z: number;
}

/** 95 of 100. */
export const USUAL: Sureness = { tail: 0.025, z: 1.959963984540054 };

/** A share of trials with its interval (Wilson 1927); `of` need not be whole where trials count for less. */
export function wilson(share: number, of: number, { z }: Sureness = USUAL): { readonly low: number; readonly high: number } {
  if (of <= 0) return { low: 0, high: 1 };
  const square = z * z;
  const middle = (share + square / (2 * of)) / (1 + square / of);
  const half = (z / (1 + square / of)) * Math.sqrt((share * (1 - share)) / of + square / (4 * of * of));
  return { low: Math.max(0, middle - half), high: Math.min(1, middle + half) };
}

/** The share of sessions in which something is so. */
export function shareOf(yes: number, sessions: number, sure = USUAL): Estimate {
  const value = sessions === 0 ? 0 : yes / sessions;
  return { value, ...wilson(value, sessions, sure), sessions };
}

/** So many crowds are drawn from one to tell how far a quantile might have been another. */
const RESAMPLES = 400;

/** What bootstrap draws are keyed by, after what simulated players draw for. */
const BOOTSTRAP = 8;

/** Whole numbers from 0 to below another, one after the other, by a seed: xorshift32 (Marsaglia 2003). */
function drawing(seed: number, below: number): () => number {
  let state = (keyedDraw({ seed }, BOOTSTRAP, 0, 0) * 4294967295 + 1) | 0 || 1;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) % below;
  };
}

/** The values of a crowd drawn from another, sorted as those are. */
function resample(sorted: Float64Array, draw: () => number, into: Float64Array, times: Int32Array): void {
  times.fill(0);
  for (let nth = 0; nth < sorted.length; nth += 1) {
    const at = draw();
    times[at] = (times[at] as number) + 1;
  }
  let filled = 0;
  for (let at = 0; at < sorted.length; at += 1) {
    for (let left = times[at] as number; left > 0; left -= 1) {
      into[filled] = sorted[at] as number;
      filled += 1;
    }
  }
}

const asList = (values: Float64Array): number[] => values as unknown as number[];

/** A quantile of values in any order, alone. */
export const plainQuantile = (values: readonly number[], quantile: number): number =>
  quantileSorted(asList(Float64Array.from(values).sort()), quantile);

/** Where values lie: eight of ten between the tenth and the ninetieth. */
export interface Lying {
  readonly tenth: number;
  readonly median: number;
  readonly ninetieth: number;
}

/** Where values in any order lie. Throws for none. */
export function lyingOf(values: readonly number[]): Lying {
  const sorted = asList(Float64Array.from(values).sort());
  return { tenth: quantileSorted(sorted, 0.1), median: quantileSorted(sorted, 0.5), ninetieth: quantileSorted(sorted, 0.9) };
}

/** A quantile of values in any order, with the percentile bootstrap's interval (Efron 1979), seeded. Throws for no values. */
export function quantileOf(values: readonly number[], quantile: number, seed: number, { tail } = USUAL): Estimate {
  const sorted = Float64Array.from(values).sort();
  const value = quantileSorted(asList(sorted), quantile);
  const [into, times] = [new Float64Array(sorted.length), new Int32Array(sorted.length)];
  const draw = drawing(seed, sorted.length);
  const drawn = Float64Array.from({ length: RESAMPLES }, () => {
    resample(sorted, draw, into, times);
    return quantileSorted(asList(into), quantile);
  }).sort();
  return { value, low: quantileSorted(asList(drawn), tail), high: quantileSorted(asList(drawn), 1 - tail), sessions: values.length };
}

/** The mean of values with its interval, by their spread. */
export function meanOf(values: readonly number[], { z } = USUAL): Estimate {
  const count = values.length;
  if (count === 0) return { value: 0, low: 0, high: 0, sessions: 0 };
  const value = mean([...values]);
  const squares = values.reduce((sum, one) => sum + (one - value) * (one - value), 0);
  const half = count < 2 ? 0 : z * Math.sqrt(squares / (count - 1) / count);
  return { value, low: value - half, high: value + half, sessions: count };
}

/** By how much the same sessions come out otherwise: the mean difference of pairs, with its interval. */
export const pairedOf = (now: readonly number[], was: readonly number[], sure = USUAL): Estimate =>
  meanOf(
    now.map((value, at) => value - (was[at] as number)),
    sure,
  );

/** By how much a share comes out otherwise in the same sessions, each one or nought: half a pair of each sort is added (Agresti and Min 2005). */
export function pairedShareOf(now: readonly number[], was: readonly number[], { z } = USUAL): Estimate {
  const count = now.length;
  if (count === 0) return { value: 0, low: 0, high: 0, sessions: 0 };
  let [more, less] = [0, 0];
  now.forEach((value, at) => {
    if (value > (was[at] as number)) more += 1;
    else if (value < (was[at] as number)) less += 1;
  });
  const middle = (more - less) / (count + 2);
  const half = z * Math.sqrt((more + less + 1 - (more - less) * middle) / ((count + 2) * (count + 2)));
  const low = Math.max(-1, middle - half);
  return { value: (more - less) / count, low, high: Math.min(1, middle + half), sessions: count };
}

/** By how much a quantile comes out otherwise, with the bootstrap's interval: pairs are drawn together, seeded. Throws for no values. */
export function pairedQuantileOf(
  now: readonly number[],
  was: readonly number[],
  quantile: number,
  seed: number,
  { tail } = USUAL,
): Estimate {
  const between = (ours: Float64Array, theirs: Float64Array): number =>
    quantileSorted(asList(ours.sort()), quantile) - quantileSorted(asList(theirs.sort()), quantile);
  const value = between(Float64Array.from(now), Float64Array.from(was));
  const draw = drawing(seed, now.length);
  const [ours, theirs] = [new Float64Array(now.length), new Float64Array(now.length)];
  const drawn = Float64Array.from({ length: RESAMPLES }, () => {
    for (let nth = 0; nth < now.length; nth += 1) {
      const at = draw();
      ours[nth] = now[at] as number;
      theirs[nth] = was[at] as number;
    }
    return between(ours, theirs);
  }).sort();
  return { value, low: quantileSorted(asList(drawn), tail), high: quantileSorted(asList(drawn), 1 - tail), sessions: now.length };
}

/** How long one session was seen, and whether what is waited for happened then; else it was lost from sight. */
export interface Seen {
  readonly seconds: number;
  readonly happened: boolean;
}

/** The share to whom it has not happened from a time on. */
export interface SurvivalStep {
  readonly seconds: number;
  readonly share: number;
  readonly low: number;
  readonly high: number;
  /** Sessions still seen just before. */
  readonly left: number;
}

/**
 * The share to whom something has not yet happened, over time (Kaplan and Meier 1958): a step wherever it happens to somebody. The
 * interval is Wilson's, of as many trials as would leave the variance that Greenwood's formula gives (Rothman 1978).
 */
export function survivalOf(seen: readonly Seen[]): SurvivalStep[] {
  const sorted = [...seen].sort((a, b) => a.seconds - b.seconds);
  const steps: SurvivalStep[] = [];
  let share = 1;
  let variance = 0;
  for (let at = 0; at < sorted.length;) {
    const { seconds } = sorted[at] as Seen;
    const left = sorted.length - at;
    let [happened, next] = [0, at];
    while (next < sorted.length && sorted[next]?.seconds === seconds) {
      if (sorted[next]?.happened === true) happened += 1;
      next += 1;
    }
    if (happened > 0) {
      share *= 1 - happened / left;
      if (left > happened) variance += happened / (left * (left - happened));
      const spread = share * share * variance;
      steps.push({ seconds, share, ...wilson(share, spread > 0 ? (share * (1 - share)) / spread : left), left });
    }
    at = next;
  }
  return steps;
}

/** Where a share that falls in steps stands at a time. */
export function survivalAt(steps: readonly SurvivalStep[], seconds: number): number {
  let share = 1;
  for (const step of steps) {
    if (step.seconds > seconds) break;
    share = step.share;
  }
  return share;
}
