import { axisTime } from '@dial/core/formats';
import { allKinds, inOrder, type Level } from '@dial/core/level';
import { isStopped } from '@dial/core/session';
import type { ChartLine, LinesSpec, Panel } from '../charts/spec.ts';
import { ledgerOf } from '../state/simulation/lines.ts';
import { peak } from '../drawing/lanes/extremes.ts';
import { tickSeconds } from '../drawing/lanes/laneDrawing.ts';
import type { ShownRun } from '../state/simulation/protocol.ts';
import type { ComparedRun } from './useRuns.ts';

/** What runs are laid over each other by: their start, the first checkpoint, or the first time a kind did something. */
export type AlignBy = 'start' | 'checkpoint' | `kind ${string}`;

/** The width that times are written for, in pixels. */
const CHART_WIDTH = 1000;

const NOTHING = new Float32Array(1);

/** When a run comes to what it is aligned by; null when it never does. Seconds. */
export function alignedAt({ shown }: ComparedRun, by: AlignBy): number | null {
  if (by === 'start') return 0;
  if (by === 'checkpoint') return ledgerOf(shown).find(({ type }) => type === 'checkpoint')?.seconds ?? null;
  const kind = by.slice('kind '.length);
  const line = ledgerOf(shown).find(
    (one) =>
      !isStopped(one) &&
      one.type !== 'flourish' &&
      'rule' in one &&
      one.rule !== null &&
      one.placement !== null &&
      shown.level.placements[one.placement]?.kind === kind,
  );
  return line === undefined ? null : line.type === 'rate' ? line.fromSeconds : line.seconds;
}

/** What the runs can be aligned by: kinds that did something in all of them. */
export function alignments(level: Level, runs: readonly ComparedRun[]): readonly (readonly [AlignBy, string])[] {
  const inAll = (by: AlignBy): boolean => runs.every((run) => alignedAt(run, by) !== null);
  const kinds = allKinds(level).map(([id, { name }]) => [`kind ${id}`, `the first ${name}`] as const);
  const all: readonly (readonly [AlignBy, string])[] = [['checkpoint', 'the first checkpoint'], ...kinds];
  return [['start', 'the start'], ...all.filter(([by]) => inAll(by))];
}

/** The points of a line through the numbers of a run's steps; a step in the middle of a level stretch says nothing. */
function pointsOf(values: Float32Array, rate: number, from: number): readonly (readonly [number, number])[] {
  const points: (readonly [number, number])[] = [];
  values.forEach((value, step) => {
    if (step === 0 || step === values.length - 1 || values[step - 1] !== value || values[step + 1] !== value)
      points.push([from + step / rate, value]);
  });
  return points;
}

/** A panel for each meter and for speed, with a line for each run, laid over each other: seconds from what they are aligned by. */
export function comparedChart(level: Level, runs: readonly ComparedRun[], by: AlignBy): LinesSpec {
  const begins = runs.map((run) => -(alignedAt(run, by) ?? 0));
  const low = Math.min(0, ...begins);
  const high = Math.max(low + 1, ...runs.map(({ shown }, index) => (begins[index] ?? 0) + shown.steps / shown.rate));
  // Lines go by their names: runs of one name are told apart by number.
  const names = runs.map(({ name }, index) => {
    const before = runs.slice(0, index).filter((one) => one.name === name).length;
    return before === 0 ? name : `${name} (${String(before + 1)})`;
  });
  const every = tickSeconds(high - low, CHART_WIDTH);
  const panel = (name: string, least: number, most: number | null, of: (shown: ShownRun) => Float32Array | undefined): Panel => {
    const lines = runs.flatMap(({ shown }, index): ChartLine[] => {
      const values = of(shown);
      return values === undefined ? [] : [{ name: names[index] ?? '', points: pointsOf(values, shown.rate, begins[index] ?? 0) }];
    });
    const highest = Math.max(1, ...runs.map(({ shown }) => peak(of(shown) ?? NOTHING)));
    return { name, low: least, high: most ?? highest, lines };
  };
  const meters = inOrder(level.meters).map(([id, { name, lower, upper }]) => panel(name, lower, upper, ({ meters: all }) => all[id]));
  return {
    kind: 'lines',
    label: `Runs of ${level.name} over time`,
    panels: [...meters, panel('speed', 0, null, ({ speed }) => speed)],
    x: {
      name: low === 0 ? 'time' : 'time from there',
      low,
      high,
      words: (seconds) => (low === 0 ? axisTime(seconds, every) : `${seconds < 0 ? '−' : '+'}${axisTime(Math.abs(seconds), every)}`),
    },
  };
}
