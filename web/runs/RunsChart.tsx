import type { Level } from '@dial/core/level';
import { useMemo, useState } from 'react';
import { Chart } from '../charts/Chart.tsx';
import { hues } from '../charts/looks.ts';
import { Select } from '../controls/Select.tsx';
import { laneDash } from '../drawing/lanes/laneDrawing.ts';
import { usePalette } from '../drawing/palette.ts';
import { alignments, comparedChart, type AlignBy } from './aligned.ts';
import type { ComparedRun } from './useRuns.ts';

/** CSS pixels of a panel, with the room to the next. */
const PANEL = 86;
/** CSS pixels of names and times around the panels. */
const AROUND = 54;

/** The line of a run in the chart, as a sample beside its name. */
export function DashSample({ index }: { readonly index: number }) {
  const palette = usePalette();
  return (
    <svg width="30" height="8" aria-hidden>
      <line x1="0" x2="30" y1="4" y2="4" stroke={hues(palette)[index]} strokeWidth="1.8" strokeDasharray={laneDash(index).join(' ')} />
    </svg>
  );
}

/** Several runs over time, laid over each other by their start, a checkpoint or an event. */
export function RunsChart({ level, runs }: { readonly level: Level; readonly runs: readonly ComparedRun[] }) {
  const [wished, setBy] = useState<AlignBy>('start');
  const choices = useMemo(() => alignments(level, runs), [level, runs]);
  const by = choices.some(([one]) => one === wished) ? wished : 'start';
  const spec = useMemo(() => comparedChart(level, runs, by), [level, runs, by]);
  return (
    <section aria-label="Runs compared" className="rounded-sm border-[1.3px] border-ink bg-card text-xs">
      <label className="flex items-center gap-1.5 border-b border-line bg-panel px-2 py-1">
        aligned by
        <Select label="aligned by" value={by} options={choices} onChoose={setBy} />
        <span className="ml-auto text-soft">what all of these runs come to can be chosen · Ctrl and the wheel look closer</span>
      </label>
      <div className="px-2 pt-1">
        <Chart spec={spec} height={AROUND + PANEL * spec.panels.length} />
      </div>
    </section>
  );
}
