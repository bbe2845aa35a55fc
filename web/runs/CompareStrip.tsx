import { axisTime, plainNumber } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { useMemo, useRef, useState } from 'react';
import { useBands } from '../drawing/lanes/bands.ts';
import { LANE_DRAWING, laneDash, tickSeconds } from '../drawing/lanes/laneDrawing.ts';
import { usePalette } from '../drawing/palette.ts';
import { Select } from '../controls/Select.tsx';
import { useSize } from '../controls/useSize.ts';
import { alignments, comparedLanes, type AlignBy } from './aligned.ts';
import type { ComparedRun } from './useRuns.ts';

const LABEL_WIDTH = 84;
const AXIS = 18;

/** The dashes of a run's line, as a sample beside its name. */
export function DashSample({ index }: { readonly index: number }) {
  return (
    <svg width="30" height="8" aria-hidden>
      <line x1="0" x2="30" y1="4" y2="4" stroke="var(--ink)" strokeWidth="1.8" strokeDasharray={laneDash(index).join(' ')} />
    </svg>
  );
}

/** Several runs on one Strip, laid over each other by their start, a checkpoint or an event. */
export function CompareStrip({ level, runs }: { readonly level: Level; readonly runs: readonly ComparedRun[] }) {
  const palette = usePalette();
  const [wished, setBy] = useState<AlignBy>('start');
  const [pointed, setPointed] = useState<number | null>(null);
  const frame = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width: whole } = useSize(frame);
  const width = Math.max(50, whole - LABEL_WIDTH - 8);
  const choices = useMemo(() => alignments(level, runs), [level, runs]);
  const by = choices.some(([one]) => one === wished) ? wished : 'start';
  const { lanes, duration, zero } = useMemo(() => comparedLanes(level, runs, by, palette), [level, runs, by, palette]);
  const height = lanes.reduce((sum, lane) => sum + lane.height, 0);
  const rate = runs[0]?.shown.rate ?? 60;
  const look = useMemo(() => ({ width, view: { from: 0, to: duration }, rate, palette }), [width, duration, rate, palette]);
  useBands(canvas, LANE_DRAWING, lanes, look);
  const every = tickSeconds(duration, width);
  const at = pointed === null ? null : (pointed / width) * duration;
  return (
    <section aria-label="Runs compared" className="rounded-sm border-[1.3px] border-ink bg-card text-xs">
      <label className="flex items-center gap-1.5 border-b border-line bg-panel px-2 py-1">
        aligned by
        <Select label="aligned by" value={by} options={choices} onChoose={setBy} />
        <span className="ml-auto text-soft">what all of these runs come to can be chosen</span>
      </label>
      <div ref={frame} className="relative">
        <div className="relative border-b border-line bg-panel" style={{ height: AXIS }} aria-hidden>
          {Array.from({ length: Math.floor(duration / every) + 1 }, (_, index) => index * every).map((tick) => (
            <span
              key={tick}
              className="absolute top-[2px] pl-1 font-mono text-[10.5px] text-soft"
              style={{ left: LABEL_WIDTH + (tick / duration) * width }}
            >
              {zero === 0 ? axisTime(tick, every) : `${tick < zero ? '−' : '+'}${axisTime(Math.abs(tick - zero), every)}`}
            </span>
          ))}
        </div>
        <div className="flex">
          <div style={{ width: LABEL_WIDTH }} className="shrink-0">
            {lanes.map(({ key, name, height: tall }) => (
              <b key={key} className="flex items-center border-b border-line pl-2.5" style={{ height: tall }}>
                {name}
              </b>
            ))}
          </div>
          <canvas
            ref={canvas}
            style={{ width, height }}
            aria-hidden
            onPointerMove={(event) => setPointed(event.clientX - event.currentTarget.getBoundingClientRect().left)}
            onPointerLeave={() => setPointed(null)}
          />
        </div>
        {at !== null && pointed !== null && (
          <div
            role="tooltip"
            className="pointer-events-none absolute top-6 rounded-sm border border-ink bg-card px-1.5 py-0.5 text-[11px]"
            style={pointed > width / 2 ? { right: width - pointed + 16 } : { left: LABEL_WIDTH + pointed + 8 }}
          >
            {runs.map(({ id, name, shown }, index) => {
              const step = Math.round((at - (lanes[0]?.lines[index]?.beginsAt ?? 0)) * shown.rate);
              const health = shown.meters['health']?.[step];
              return (
                <p key={id} className="flex items-center gap-1.5 whitespace-nowrap">
                  <DashSample index={index} /> {name}{' '}
                  <span className="font-mono">{health === undefined ? 'not running' : `health ${plainNumber(health, 1)}`}</span>
                </p>
              );
            })}
          </div>
        )}
      </div>
    </section>
  );
}
