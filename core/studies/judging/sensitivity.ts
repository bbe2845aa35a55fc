import { sampleStandardDeviation } from 'simple-statistics';
import type { Level, Problem } from '../../level/index.ts';
import { meanOf, type Estimate } from '../intervals.ts';
import { costProblems, crowdProblems, sessionCount } from '../settings.ts';
import { turnedProblem, type Round, type Study } from './asks.ts';
import { dialIn, dialProblems, lostFigure } from './dials.ts';
import { counting, differenceOf, figureOf } from './figures.ts';
import type { Answer, Ask, DialAt, SensitivitySettings, Turned } from './settings.ts';

/** How far a dial moves an outcome. */
export interface Effect {
  /** Which of the dials asked about. */
  readonly dial: number;
  readonly down: number;
  readonly up: number;
  /** By how much the figure is another at the higher value than at the lower one, in the same sessions. Null: no such level, or not played yet. */
  readonly moves: Estimate | null;
  /** What the figure is at either value. */
  readonly atDown: Estimate | null;
  readonly atUp: Estimate | null;
  readonly problem: string | null;
}

/** Two dials nudged up together, against what each does alone. */
export interface Interaction {
  readonly dials: readonly [number, number];
  /** By how much more, or less, both together move it than the sum of each alone; of a quantile, what is asked of the mean. */
  readonly beyond: Estimate;
}

export interface SensitivityResult {
  readonly base: Estimate | null;
  /** By how much the sessions as the level is differ from each other: their standard deviation. Null: of a share, or not known. */
  readonly spread?: number | null;
  /** Those that move it most come first; those of which no effect was seen last. */
  readonly effects: readonly Effect[];
  readonly interactions: readonly Interaction[];
}

/** Dials at the top whose pairs are played together. */
const TOP = 3;
/** Sessions with which all are played at first. */
const EARLY = 20;

/** Whether an effect was seen: its interval does not hold nought. */
export const isSeen = ({ moves }: Pick<Effect, 'moves'>): boolean => moves !== null && (moves.low > 0 || moves.high < 0);

/** Pairs that are played together, at most. */
const pairsOf = ({ length }: readonly unknown[]): number => {
  const top = Math.min(TOP, length);
  return (top * (top - 1)) / 2;
};

/** Settings of the dials that are played, at most: as they stand, each nudged down and up, and pairs. */
const settingsOf = (dials: readonly unknown[]): number => 1 + 2 * dials.length + pairsOf(dials);

/** Sessions that it costs, at most. */
export const sensitivityCost = ({ dials, crowd }: Pick<SensitivitySettings, 'dials' | 'crowd'>): number =>
  settingsOf(dials) * sessionCount(crowd);

/** What in the settings does not fit a level, or asks for too much. */
export function sensitivityProblems(level: Level, { dials, figure, crowd }: SensitivitySettings): Problem[] {
  return [
    ...crowdProblems(level, crowd),
    ...dialProblems(level, dials),
    ...lostFigure(level, figure, '/figure'),
    ...costProblems(crowd, settingsOf(dials)),
  ];
}

/** Where a dial is nudged to, within its limits: by a share of its value, of nought by a step of its ruler; whole numbers by one at least. */
function nudged(level: Level, dial: DialAt, share: number): { readonly down: number; readonly up: number } {
  const found = dialIn(level, dial);
  if (found === null) return { down: 0, up: 0 };
  const { value, quantity } = found;
  const { step, integer, min, max } = quantity;
  const by = value === 0 ? step : Math.abs(value) * share;
  const whole = integer === true ? Math.max(1, Math.round(by)) : by;
  const clean = (wished: number): number => Number(Math.max(min, Math.min(max, wished)).toFixed(6));
  return { down: clean(value - whole), up: clean(value + whole) };
}

type Row = readonly number[];
const at0 = (row: Row, at: number): number => row[at] ?? 0;

interface Cell {
  readonly turned: readonly Turned[];
  readonly values: number[];
  readonly problem: string | null;
}

/** Nudges dials down and up with the same sessions, and ranks them by how far a figure moves; then the pairs of the first ones together. */
export function* sensitivity(level: Level, { dials, share, figure, crowd, atATime }: SensitivitySettings): Study<SensitivityResult> {
  const sessions = sessionCount(crowd);
  const cellOf = (turned: readonly Turned[]): Cell => ({ turned, values: [], problem: turnedProblem(level, turned) });
  const base = cellOf([]);
  const nudges = dials.map((dial) => {
    const { down, up } = nudged(level, dial, share);
    return { ...dial, down, up, low: cellOf([{ paths: dial.paths, value: down }]), high: cellOf([{ paths: dial.paths, value: up }]) };
  });
  const interactions: Interaction[] = [];
  const effectOf = ({ down, up, low, high }: (typeof nudges)[number], dial: number): Effect => {
    const problem = low.problem ?? high.problem;
    const known = problem === null && low.values.length > 0;
    return {
      dial,
      down,
      up,
      moves: known ? differenceOf(figure, high.values, low.values, crowd.seed) : null,
      atDown: known ? figureOf(figure, low.values, crowd.seed) : null,
      atUp: known ? figureOf(figure, high.values, crowd.seed) : null,
      problem,
    };
  };
  const size = ({ moves }: Effect): number => Math.abs(moves?.value ?? 0);
  const result = (): SensitivityResult => ({
    base: base.values.length === 0 ? null : figureOf(figure, base.values, crowd.seed),
    spread: base.values.length < 2 || figure.statistic.type === 'share' ? null : sampleStandardDeviation(base.values),
    effects: nudges.map(effectOf).sort((a, b) => Number(isSeen(b)) - Number(isSeen(a)) || size(b) - size(a) || a.dial - b.dial),
    interactions,
  });
  function* play(cells: readonly Cell[], upTo: number, more: number): Generator<Round<SensitivityResult>, void, readonly Answer[]> {
    const open = cells.filter(({ problem, values }) => problem === null && values.length < upTo);
    if (open.length === 0) return;
    const asks = open.map(({ turned, values }): Ask => {
      return { version: null, turned: [...turned], crowd, from: values.length, to: upTo, outcomes: [figure.outcome] };
    });
    const answers = yield { asks, soFar: () => (base.values.length === 0 ? null : result()), more };
    open.forEach(({ values }, at) => values.push(...(answers[at]?.[0] ?? [])));
  }
  const pairs = pairsOf(dials) * sessions;
  const all = [base, ...nudges.flatMap(({ low, high }) => [low, high])].filter(({ problem }) => problem === null);
  /** Plays dials up to so many sessions, some at a time so that bars come in. */
  function* playAll(some: readonly (typeof nudges)[number][], upTo: number): ReturnType<typeof play> {
    const together = atATime ?? Math.max(1, some.length);
    for (let from = 0; from === 0 || from < some.length; from += together) {
      const cells = [base, ...some.slice(from, from + together).flatMap(({ low, high }) => [low, high])];
      const left = all.reduce((sum, cell) => sum + sessions - (cells.includes(cell) ? upTo : cell.values.length), pairs);
      yield* play(cells, upTo, left);
    }
  }
  yield* playAll(nudges, Math.min(EARLY, sessions));
  // What seems to matter most is made sure first.
  yield* playAll(atATime === null ? nudges : result().effects.flatMap(({ dial }) => nudges[dial] ?? []), sessions);
  const top = result()
    .effects.filter(isSeen)
    .slice(0, TOP)
    .map(({ dial }) => dial);
  const together = top.flatMap((one, nth) =>
    top.slice(nth + 1).flatMap((other) => {
      const [a, b] = [nudges[one], nudges[other]];
      return a === undefined || b === undefined
        ? []
        : [{ a, b, dials: [one, other] as const, cell: cellOf([...a.high.turned, ...b.high.turned]) }];
    }),
  );
  yield* play(
    together.map(({ cell }) => cell),
    sessions,
    0,
  );
  for (const { a, b, dials: pair, cell } of together) {
    if (cell.problem !== null) continue;
    // What both do beyond each alone, in the same sessions: (both − a) against (b − neither).
    const [both, one, other, neither] = [cell, a.high, b.high, base].map(({ values }) => counting(figure, values)) as [Row, Row, Row, Row];
    interactions.push({ dials: pair, beyond: meanOf(both.map((value, at) => value - at0(one, at) - at0(other, at) + at0(neither, at))) });
  }
  return result();
}
