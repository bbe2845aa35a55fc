import { isAsked, type Level, type AskedOutcome } from '../../level/index.ts';
import { meanOf, pairedOf, pairedQuantileOf, pairedShareOf, quantileOf, shareOf, USUAL, type Estimate } from '../intervals.ts';
import { measureOf } from '../measures.ts';
import type { Figure } from './settings.ts';

/** Outcomes that are counted: the median of a few is a step that hides most of what a dial does. */
const COUNTED: ReadonlySet<AskedOutcome['type']> = new Set(['carried', 'deaths', 'uses', 'refusals']);

function usualStatistic(outcome: AskedOutcome): Figure['statistic'] {
  if (isAsked(outcome)) return { type: 'share', from: null, to: null };
  return COUNTED.has(outcome.type) ? { type: 'mean' } : { type: 'quantile', below: 0.5 };
}

/** What is judged of an outcome when nothing else is said: the share of sessions, of what is counted the mean, else the median. */
export const usualFigure = (outcome: AskedOutcome): Figure => ({ outcome, statistic: usualStatistic(outcome) });

/** Sessions as shares count them: one where it counts, else nought. */
function counted({ outcome, statistic }: Figure, values: readonly number[]): readonly number[] {
  if (statistic.type !== 'share' || isAsked(outcome)) return values;
  const { from, to } = statistic;
  return values.map((value) => (value >= (from ?? -Infinity) && value <= (to ?? Infinity) ? 1 : 0));
}

const times = (factor: number, { value, low, high, sessions }: Estimate): Estimate => ({
  value: factor * value,
  low: factor * low,
  high: factor * high,
  sessions,
});

/** The figure of some sessions, with its interval; a share is told of 100. Throws for a quantile of none. */
export function figureOf(figure: Figure, values: readonly number[], seed: number, sure = USUAL): Estimate {
  const { statistic } = figure;
  if (statistic.type === 'mean') return meanOf(values, sure);
  if (statistic.type === 'quantile') return quantileOf(values, statistic.below, seed, sure);
  const yes = counted(figure, values).reduce((sum, one) => sum + one, 0);
  return times(100, shareOf(yes, values.length, sure));
}

/** What each session adds to a mean or a share of 100. */
export const counting = (figure: Figure, values: readonly number[]): readonly number[] =>
  figure.statistic.type === 'share' ? counted(figure, values).map((one) => 100 * one) : values;

/** By how much a figure comes out otherwise in the same sessions, with its interval. */
export function differenceOf(figure: Figure, now: readonly number[], was: readonly number[], seed: number, sure = USUAL): Estimate {
  const { statistic } = figure;
  if (statistic.type === 'quantile') return pairedQuantileOf(now, was, statistic.below, seed, sure);
  if (statistic.type === 'mean') return pairedOf(now, was, sure);
  return times(100, pairedShareOf(counted(figure, now), counted(figure, was), sure));
}

/** What a figure is called: `median final health`, `finishes, of 100`. */
export function figureName(level: Level, { outcome, statistic }: Figure): string {
  const { name } = measureOf(level, outcome);
  if (statistic.type === 'mean') return `mean ${name}`;
  if (statistic.type === 'quantile')
    return statistic.below === 0.5 ? `median ${name}` : `${name} with ${String(100 * statistic.below)} % below`;
  if (isAsked(outcome)) return `${name}, of 100`;
  const { from, to } = statistic;
  const where = from === null ? `at most ${String(to)}` : to === null ? `at least ${String(from)}` : `${String(from)} to ${String(to)}`;
  return `${name} ${where}, of 100`;
}

/** The unit of a figure: that of its outcome; a share has none. */
export const figureUnit = (level: Level, { outcome, statistic }: Figure): string =>
  statistic.type === 'share' ? '' : measureOf(level, outcome).unit;
