import { FINE_TURN, type Level, type Problem } from '../../level/index.ts';
import type { Estimate } from '../intervals.ts';
import { costProblems, crowdProblems, sessionCount } from '../settings.ts';
import { turnedProblem, type Round, type Study } from './asks.ts';
import { dialIn, dialProblems, lostFigure } from './dials.ts';
import { figureOf } from './figures.ts';
import type { Answer, Ask, SeekSettings } from './settings.ts';

/** A value of the dial that was played. */
export interface SoughtPoint {
  readonly value: number;
  readonly estimate: Estimate;
}

/** A value at which the figure is as wished. */
export interface Sought {
  readonly value: number;
  /** Values whose intervals hold the wish lie between these. */
  readonly low: number;
  readonly high: number;
  /** The figure jumps over the wish here: no value comes nearer than this. */
  readonly jump: boolean;
}

export interface SeekResult {
  /** All that was played, by value. */
  readonly points: readonly SoughtPoint[];
  /** None, one or several. */
  readonly found: readonly Sought[];
  /** Sessions that were played. */
  readonly sessions: number;
  /** Whether the search is over. */
  readonly done: boolean;
}

/** Values that are looked at first, from one end to the other. */
const FIRST = 9;
/** So often a bracket is halved at most. */
const HALVED = 12;
/** Values between which the ends of the interval are read off. */
const AROUND = 6;
/** Sessions of the first look: so many, or all. */
const EARLY = 40;

/** Values that are asked about where one is found; of several, each costs the last part again. */
const VALUES = FIRST + HALVED + AROUND;

/** Sessions that it costs where one value is found. */
export const seekCost = ({ crowd }: Pick<SeekSettings, 'crowd'>): number => VALUES * sessionCount(crowd);

/** What in the settings does not fit a level, or asks for too much. */
export const seekProblems = (level: Level, { dial, figure, crowd }: SeekSettings): Problem[] => [
  ...crowdProblems(level, crowd),
  ...dialProblems(level, [dial], () => '/dial'),
  ...lostFigure(level, figure, '/figure'),
  ...costProblems(crowd, VALUES),
];

/** Where a straight line from one point to another comes to nought; between them. */
const crossing = (x0: number, y0: number, x1: number, y1: number): number =>
  y0 === y1 ? (x0 + x1) / 2 : x0 + ((x1 - x0) * y0) / (y0 - y1);

/** Whether a figure is off the wish for sure, so many values being asked about: by an interval that is twice as wide. */
const isOff = ({ estimate: { value, low, high } }: SoughtPoint, wish: number): boolean => wish < 2 * low - value || wish > 2 * high - value;

/**
 * Values between which the figure never leaves the wish for sure are one, as far as the noise tells: from the first to the last of them
 * the one at which it was nearest to the wish, with all that is held by any of them. By value.
 */
function merged(points: readonly SoughtPoint[], wish: number, found: readonly Sought[]): Sought[] {
  const off = ({ estimate }: SoughtPoint): number => Math.abs(estimate.value - wish);
  const kept: Sought[] = [];
  for (const one of [...found].sort((a, b) => a.value - b.value)) {
    const last = kept.at(-1);
    const within = last === undefined ? [] : points.filter(({ value }) => last.value <= value && value <= one.value);
    const [nearest] = [...within].sort((a, b) => off(a) - off(b));
    if (last === undefined || nearest === undefined || within.some((point) => isOff(point, wish))) kept.push(one);
    else
      kept[kept.length - 1] = { value: nearest.value, low: Math.min(last.low, one.low), high: Math.max(last.high, one.high), jump: false };
  }
  return kept;
}

/** What values are counted in: the finest turn of the dial or, within a narrow range, hundredths of that; and the value of those that is next to another, within the range. */
function turnsOf(level: Level, { dial, from, to }: Pick<SeekSettings, 'dial' | 'from' | 'to'>) {
  const quantity = dialIn(level, dial)?.quantity;
  const whole = quantity?.integer === true;
  const turn = whole ? 1 : Math.min(FINE_TURN * (quantity?.step ?? Infinity), (to - from) / 100);
  const next = (value: number): number => Number((Math.round(value / turn) * turn).toFixed(9));
  return { turn, clean: (value: number): number => (whole ? Math.round(value) : Math.max(from, Math.min(to, next(value)))) };
}

/** Looks for the values of a dial at which a figure is as wished: over the whole range first, then within each stretch in which it crosses the wish. */
export function* seek(level: Level, { dial, from, to, figure, wish, crowd }: SeekSettings): Study<SeekResult> {
  const sessions = sessionCount(crowd);
  const { turn, clean } = turnsOf(level, { dial, from, to });
  /** Values nearer to each other than this are one. */
  const grain = Math.max(turn, (to - from) / 2000);
  const played = new Map<number, number[]>();
  const found: Pick<Sought, 'value' | 'jump'>[] = [];
  const known = (): SoughtPoint[] =>
    [...played]
      .filter(([, values]) => values.length > 0)
      .map(([value, values]) => ({ value, estimate: figureOf(figure, values, crowd.seed) }))
      .sort((a, b) => a.value - b.value);
  const result = (done: boolean): SeekResult => {
    const points = known();
    const held = found.map((one) => ({ ...one, ...holding(points, one.value) }));
    const sum = [...played.values()].reduce((all, values) => all + values.length, 0);
    return { points, found: merged(points, wish, held), sessions: sum, done };
  };
  function* play(values: readonly number[], upTo: number, more: number): Generator<Round<SeekResult>, void, readonly Answer[]> {
    const open = [...new Set(values)].filter(
      (value) => (played.get(value)?.length ?? 0) < upTo && turnedProblem(level, [{ paths: dial.paths, value }]) === null,
    );
    if (open.length === 0) return;
    const asks = open.map((value): Ask => {
      const turned = [{ paths: dial.paths, value }];
      return { version: null, turned, crowd, from: played.get(value)?.length ?? 0, to: upTo, outcomes: [figure.outcome] };
    });
    const answers = yield { asks, soFar: () => (played.size === 0 ? null : result(false)), more };
    open.forEach((value, at) => played.set(value, [...(played.get(value) ?? []), ...(answers[at]?.[0] ?? [])]));
  }
  /** By how much the figure is more than wished at a value that was played. */
  const beyond = (value: number): number => {
    const values = played.get(value) ?? [];
    return values.length === 0 ? NaN : figureOf(figure, values, crowd.seed).value - wish;
  };
  const ends = (value: number): { readonly low: number; readonly high: number } => figureOf(figure, played.get(value) ?? [], crowd.seed);
  const first = Array.from({ length: FIRST }, (_, nth) => clean(from + ((to - from) * nth) / (FIRST - 1)));
  const later = sessions * (HALVED + AROUND);
  yield* play(first, Math.min(EARLY, sessions), FIRST * sessions + later);
  yield* play(first, sessions, later);
  const values = [...played.keys()].sort((a, b) => a - b);
  const brackets = values.slice(1).flatMap((high, at): [number, number][] => {
    const low = values[at] ?? high;
    const [below, above] = [beyond(low), beyond(high)];
    // One that is met exactly belongs to the stretch that it ends.
    return (below < 0 && above >= 0) || (below > 0 && above <= 0) ? [[low, high]] : [];
  });
  // At an end of the range the crossing may lie just outside of what was drawn, though not of what is likely.
  const holds = (value: number): boolean => ends(value).low <= wish && wish <= ends(value).high;
  const atEnds = (
    [
      [values[0], values[1]],
      [values.at(-1), values.at(-2)],
    ] as const
  ).flatMap(([end, next]) => {
    const isEnd = end !== undefined && next !== undefined && holds(end) && !brackets.some((bracket) => bracket.includes(end));
    return isEnd ? [{ end, next }] : [];
  });
  for (const { end, next } of atEnds) {
    yield* around([Math.min(end, next), Math.max(end, next)], end);
    found.push({ value: end, jump: false });
  }
  for (const bracket of brackets) {
    let [low, high] = bracket;
    for (let nth = 0; nth < HALVED && high - low > grain && beyond(high) !== 0; nth += 1) {
      const middle = clean((low + high) / 2);
      if (middle === low || middle === high) break;
      yield* play([middle], sessions, sessions * (HALVED - nth - 1 + AROUND));
      if (!played.has(middle)) break;
      if (Math.sign(beyond(middle)) === Math.sign(beyond(low))) low = middle;
      else high = middle;
      // Where the whole bracket lies within the noise, halving it further says nothing.
      if (holds(low) && holds(high)) break;
    }
    const value = clean(high === low || beyond(high) === 0 ? high : crossing(low, beyond(low), high, beyond(high)));
    yield* around(bracket, value);
    const [below, above] = [ends(low), ends(high)];
    const jump =
      high - low <= grain * 1.001 && (below.high < wish || below.low > wish) && (above.high < wish || above.low > wish) && high !== low;
    found.push({ value: jump && Math.abs(beyond(low)) < Math.abs(beyond(high)) ? low : value, jump });
  }
  /** Plays a few values on either side, as far as the noise reaches there. */
  function* around([low, high]: readonly [number, number], value: number): Generator<Round<SeekResult>, void, readonly Answer[]> {
    if (!played.has(value)) yield* play([value], sessions, 0);
    const { low: least, high: most } = ends(value);
    const slope = Math.abs(beyond(high) - beyond(low)) / Math.max(grain, high - low);
    const reach = slope === 0 ? high - low : Math.min(high - low + (to - from) / FIRST, (0.75 * (most - least)) / slope);
    const steps = Array.from({ length: AROUND }, (_, nth) => clean(value + reach * ((2 * nth + 1) / AROUND - 1)));
    yield* play(
      steps.filter((one) => one >= from && one <= to),
      sessions,
      0,
    );
  }
  /** From where to where intervals hold the wish, about a value; straight between what was played. */
  function holding(points: readonly SoughtPoint[], value: number): Pick<Sought, 'low' | 'high'> {
    const out = ({ estimate }: SoughtPoint): number => Math.max(estimate.low - wish, wish - estimate.high);
    const walk = (ordered: readonly SoughtPoint[], limit: number): number => {
      let inside: SoughtPoint | null = null;
      for (const point of ordered) {
        if (out(point) <= 0) inside = point;
        else return inside === null ? value : crossing(inside.value, out(inside), point.value, out(point));
      }
      return inside === null ? value : limit;
    };
    const down = walk(
      [...points].reverse().filter((point) => point.value <= value),
      from,
    );
    const up = walk(
      points.filter((point) => point.value >= value),
      to,
    );
    return { low: Math.min(value, down), high: Math.max(value, up) };
  }
  return result(true);
}
