import { isStopped } from '@dial/core/session';
import { allKinds, inOrder, type Level } from '@dial/core/level';
import { ledgerOf } from '../state/simulation/lines.ts';
import { peak } from '../drawing/lanes/extremes.ts';
import type { Lane, LaneLine } from '../drawing/lanes/laneDrawing.ts';
import type { Palette } from '../drawing/palette.ts';
import type { ComparedRun } from './useRuns.ts';

/** What runs are laid over each other by: their start, the first checkpoint, or the first time a kind did something. */
export type AlignBy = 'start' | 'checkpoint' | `kind ${string}`;

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

/** Lanes with a line for each run, laid over each other; and how long all of it is. Seconds. */
export function comparedLanes(
  level: Level,
  runs: readonly ComparedRun[],
  by: AlignBy,
  palette: Palette,
): { readonly lanes: readonly Lane[]; readonly duration: number; readonly zero: number } {
  const offsets = runs.map((run) => alignedAt(run, by) ?? 0);
  const zero = Math.max(0, ...offsets);
  const begins = offsets.map((at) => zero - at);
  const duration = Math.max(1, ...runs.map(({ shown }, index) => (begins[index] ?? 0) + shown.steps / shown.rate));
  const lane = (
    key: string,
    name: string,
    colour: string,
    low: number,
    high: number | null,
    of: (run: ComparedRun) => Float32Array | undefined,
  ): Lane => {
    const lines = runs.flatMap((run, index): LaneLine[] => {
      const values = of(run);
      return values === undefined ? [] : [{ values, dashed: false, beginsAt: begins[index] ?? 0 }];
    });
    const most = Math.max(0, ...lines.map(({ values }) => peak(values)));
    return { key, name, height: 64, colour, filled: false, low, high: high ?? Math.max(1, most) * 1.05, lines, bars: [] };
  };
  const meters = inOrder(level.meters).map(([id, { name, lower, upper }]) => {
    const colour = id === 'health' ? palette.role.mend : id === 'score' ? palette.role.score : palette.role.carry;
    return lane(id, name, colour, lower, upper, ({ shown }) => shown.meters[id]);
  });
  return { lanes: [...meters, lane('speed', 'speed', palette.role.movement, 0, null, ({ shown }) => shown.speed)], duration, zero };
}
