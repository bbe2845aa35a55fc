import { probit } from 'simple-statistics';
import type { Level, Problem } from '../../level/index.ts';
import { lyingOf, USUAL, type Estimate, type Lying, type Sureness } from '../intervals.ts';
import { costProblems, crowdProblems, sessionCount } from '../settings.ts';
import { sessionsIn, turnedProblem, type Round, type Study } from './asks.ts';
import { dialProblems, lostFigure } from './dials.ts';
import { differenceOf, figureOf } from './figures.ts';
import type { Answer, Ask, Figure, SweepSettings, Turned } from './settings.ts';

/** What in the settings of a sweep does not fit a level, or asks for too much. */
export function sweepProblems(level: Level, { dials, figures, crowd }: SweepSettings): Problem[] {
  return [
    ...crowdProblems(level, crowd),
    ...dialProblems(level, dials),
    ...figures.flatMap((figure, at) => lostFigure(level, figure, `/figures/${String(at)}`)),
    ...costProblems(
      crowd,
      dials.reduce((product, { values }) => product * values.length, 1),
    ),
  ];
}

/** One cell of a sweep: the dials at some of their values. */
export interface SweepCell {
  /** Which value of each dial. */
  readonly at: readonly number[];
  /** Of each figure; empty until it has been played, or where the level would not be valid. */
  readonly estimates: readonly Estimate[];
  /** Of the outcome of each figure, where the sessions themselves lie. */
  readonly lying: readonly Lying[];
  /** The session whose outcome lies nearest the middle, by its number in the crowd; null: none was played. */
  readonly typical: number | null;
  /** Why the level would not be valid so. */
  readonly problem: string | null;
}

/** What a sweep came to, or what is known of it so far: a cell for each pair of values, the first dial's fastest. */
export interface SweepResult {
  readonly cells: readonly SweepCell[];
  /** Cells that are as sure as they shall be. */
  readonly done: number;
  /** By how much the first figure is more in the cell where it is most than where it is least, in the same sessions; null until all are done. */
  readonly apart: Estimate | null;
}

/** How sure the interval of the extremes of so many cells has to be: any two of them might have been those (Bonferroni). */
function surenessAmong(cells: number): Sureness {
  const tail = USUAL.tail / Math.max(1, (cells * (cells - 1)) / 2);
  return { tail, z: -probit(tail) };
}

/** Sessions with which the first cells are played, to show early how it lies. */
const EARLY = 20;
/** Cells that are played at first, of each dial. */
const COARSE = 4;
/** Of what is left, so large a part is played at a time: where the outcome changes most comes first. */
const PARTS = 6;

interface Played {
  readonly turned: Turned[];
  readonly answer: number[][];
  /** Why the level would not be valid so; undefined: not looked at yet. */
  problem: string | null | undefined;
}

const middleOf = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return ((sorted[(sorted.length - 1) >> 1] ?? 0) + (sorted[sorted.length >> 1] ?? 0)) / 2;
};

/** The session that lies nearest the middle of what was asked first. */
function typicalOf([values = []]: readonly (readonly number[])[]): number | null {
  if (values.length === 0) return null;
  const middle = middleOf(values);
  let best = 0;
  values.forEach((value, at) => {
    if (Math.abs(value - middle) < Math.abs((values[best] ?? 0) - middle)) best = at;
  });
  return best;
}

/** Numbers evenly spread from the first to the last. */
function spread(length: number, most: number): number[] {
  if (length <= most) return Array.from({ length }, (_, at) => at);
  return [...new Set(Array.from({ length: most }, (_, nth) => Math.round((nth * (length - 1)) / (most - 1))))];
}

/** Turns one or two dials over their values with the same sessions at each: a coarse picture first, then finer where the outcome changes most. */
export function* sweep(level: Level, { dials, figures, crowd }: SweepSettings): Study<SweepResult> {
  const [first, second] = dials;
  const width = first?.values.length ?? 0;
  const height = second?.values.length ?? 1;
  const sessions = sessionCount(crowd);
  const cells = Array.from({ length: width * height }, (_, nth): Played & { readonly at: number[] } => {
    const at = dials.length === 1 ? [nth] : [nth % width, Math.floor(nth / width)];
    const turned = dials.map(({ paths, values }, dial) => ({ paths, value: values[at[dial] ?? 0] ?? 0 }));
    return { at, turned, answer: figures.map(() => []), problem: undefined };
  });
  type Cell = (typeof cells)[number];
  const played = (cell: Cell): number => cell.answer[0]?.length ?? 0;
  /** Looked at where it is about to be played, so that the first cells do not wait for all others. */
  const isValid = (cell: Cell): boolean => {
    if (cell.problem === undefined) cell.problem = turnedProblem(level, cell.turned);
    return cell.problem === null;
  };
  type Known = Pick<SweepCell, 'estimates' | 'lying'> & { readonly sessions: number };
  const knownOf = new Map<Cell, Known>();
  /** What is known of each figure, worked out once for so many sessions. */
  const knownIn = (cell: Cell): Known => {
    const sessionsNow = played(cell);
    const before = knownOf.get(cell);
    if (before?.sessions === sessionsNow) return before;
    const answers = sessionsNow === 0 ? [] : cell.answer;
    const known = {
      sessions: sessionsNow,
      estimates: answers.map((values, at) => figureOf(figures[at] as Figure, values, crowd.seed)),
      lying: answers.map((values) => lyingOf(values)),
    };
    knownOf.set(cell, known);
    return known;
  };
  const isDone = (cell: Cell): boolean => typeof cell.problem === 'string' || played(cell) >= sessions;
  const apart = (): Estimate | null => {
    const known = cells.filter((cell) => played(cell) > 0);
    const [figure] = figures;
    if (figure === undefined || known.length < 2 || !cells.every(isDone)) return null;
    const ordered = known.sort((a, b) => (knownIn(a).estimates[0]?.value ?? 0) - (knownIn(b).estimates[0]?.value ?? 0));
    const [least = [], most = []] = [ordered[0]?.answer[0], ordered.at(-1)?.answer[0]];
    return differenceOf(figure, most, least, crowd.seed, surenessAmong(known.length));
  };
  const result = (): SweepResult => ({
    apart: apart(),
    cells: cells.map((cell) => ({
      at: cell.at,
      estimates: knownIn(cell).estimates,
      lying: knownIn(cell).lying,
      typical: typicalOf(cell.answer),
      problem: cell.problem ?? null,
    })),
    done: cells.filter(isDone).length,
  });
  function* play(some: readonly Cell[], upTo: number): Generator<Round<SweepResult>, void, readonly Answer[]> {
    const open = some.filter((cell) => isValid(cell) && played(cell) < upTo);
    if (open.length === 0) return;
    const asks = open.map((cell): Ask => {
      return { version: null, turned: cell.turned, crowd, from: played(cell), to: upTo, outcomes: figures.map(({ outcome }) => outcome) };
    });
    const rest = cells.reduce((sum, cell) => sum + (isDone(cell) ? 0 : sessions - played(cell)), 0);
    const answers = yield {
      asks,
      soFar: () => (cells.every((cell) => played(cell) === 0) ? null : result()),
      more: rest - sessionsIn(asks),
    };
    open.forEach((cell, nth) => {
      cell.answer.forEach((values, figure) => values.push(...(answers[nth]?.[figure] ?? [])));
    });
  }
  const [columns, rows] = [spread(width, dials.length === 1 ? 2 * COARSE : COARSE), spread(height, COARSE)];
  const coarse = cells.filter(({ at: [x = 0, y = 0] }) => columns.includes(x) && rows.includes(y));
  yield* play(coarse, Math.min(EARLY, sessions));
  yield* play(coarse, sessions);
  const left = (): Cell[] => cells.filter((cell) => isValid(cell) && !isDone(cell));
  const part = Math.max(4, Math.ceil(left().length / PARTS));
  while (left().length > 0) yield* play(steepest(cells, left()).slice(0, part), sessions);
  return result();
}

/** Cells that are to be played, those between known ones that differ most first; then by their order. */
function steepest<Cell extends Pick<Played, 'answer'> & { readonly at: readonly number[] }>(
  all: readonly Cell[],
  left: readonly Cell[],
): Cell[] {
  const known = all.flatMap(({ at, answer: [values = []] }) =>
    values.length === 0 ? [] : [{ at, value: values.reduce((sum, one) => sum + one, 0) / values.length }],
  );
  /** How much the known cells around it differ, nearer ones counting more. */
  const steep = ({ at: [x = 0, y = 0] }: Cell): number => {
    const around = known
      .map(({ at: [u = 0, v = 0], value }) => ({ value, far: (u - x) * (u - x) + (v - y) * (v - y) }))
      .sort((a, b) => a.far - b.far)
      .slice(0, 4);
    const values = around.map(({ value }) => value);
    return Math.max(...values) - Math.min(...values);
  };
  const ranked = left.map((cell, order) => ({ cell, order, steep: known.length === 0 ? 0 : steep(cell) }));
  return ranked.sort((a, b) => b.steep - a.steep || a.order - b.order).map(({ cell }) => cell);
}
