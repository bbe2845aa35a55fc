import { kindOf } from '@dial/core/level';
import { useMemo, useRef } from 'react';
import { useSize } from '../controls/hooks/useSize.ts';
import { useBands } from '../drawing/lanes/bands.ts';
import { AXIS_HEIGHT, LANE_DRAWING } from '../drawing/lanes/laneDrawing.ts';
import { usePalette } from '../drawing/palette.ts';
import type { ShownRun } from '../state/simulation/protocol.ts';
import { ROW_DRAWING, ROW_HEIGHT } from './drawing.ts';
import { arranged, lanesOf } from './lanes.ts';
import { stripRows } from './rows.ts';
import { LABEL_WIDTH, Times } from './StripAxis.tsx';
import { LaneLabel } from './StripLabels.tsx';

/** Room after the end, and for the last label of the axis. Pixels. */
const RIGHT_MARGIN = 8;
const LABEL_ROOM = 40;

const AS_THEY_COME = { order: [], hidden: [], folded: [] };
const ALL_FOLDED: ReadonlySet<string> = new Set();

interface StillStripProps {
  readonly label: string;
  readonly now: ShownRun;
  readonly ghost: ShownRun;
}

/** A whole run over another, which is dashed, drawn as on the Strip: to be looked at, not to be worked with. */
export function StillStrip({ label, now, ghost }: StillStripProps) {
  const frame = useRef<HTMLElement>(null);
  const laneCanvas = useRef<HTMLCanvasElement>(null);
  const rowCanvas = useRef<HTMLCanvasElement>(null);
  const palette = usePalette();
  const width = Math.max(50, useSize(frame).width - LABEL_WIDTH - RIGHT_MARGIN);
  const seconds = Math.max(1, now.steps / now.rate, ghost.steps / ghost.rate);
  const look = useMemo(() => ({ width, view: { from: 0, to: seconds }, rate: now.rate, palette }), [width, seconds, now.rate, palette]);
  const lanes = useMemo(() => arranged(lanesOf(now, { ghost, crowd: null, crowdWas: null }, palette), AS_THEY_COME), [now, ghost, palette]);
  const rows = useMemo(() => stripRows(now, ALL_FOLDED), [now]);
  const drawnRows = useMemo(
    () =>
      rows.map((row) => ({ row, role: kindOf(now.level, row.kind)?.role ?? 'score', selected: false, crowd: null, height: ROW_HEIGHT })),
    [rows, now],
  );
  useBands(laneCanvas, LANE_DRAWING, lanes, look);
  useBands(rowCanvas, ROW_DRAWING, drawnRows, look);
  const laneHeight = lanes.reduce((sum, { height }) => sum + height, 0);
  return (
    <section ref={frame} aria-label={label} className="overflow-hidden rounded-sm border-[1.3px] border-ink bg-card">
      <div className="relative border-b border-line bg-panel" style={{ height: AXIS_HEIGHT }} aria-hidden="true">
        <Times view={look.view} width={width} free={LABEL_ROOM} />
      </div>
      <div className="flex">
        <div style={{ width: LABEL_WIDTH }} className="shrink-0">
          {lanes.map((lane) => (
            <LaneLabel key={lane.key} lane={lane} step={now.steps} />
          ))}
        </div>
        <canvas ref={laneCanvas} style={{ width, height: laneHeight }} aria-hidden="true" />
      </div>
      <div className="flex">
        <ul style={{ width: LABEL_WIDTH }} className="shrink-0 text-right text-[11px]" aria-label="What was touched">
          {rows.map(({ key, name, placements }) => (
            <li key={key} className="truncate border-b border-line/60 pr-1" style={{ height: ROW_HEIGHT }}>
              {name}
              {placements.length > 1 && <span className="text-soft"> ×{placements.length}</span>}
            </li>
          ))}
        </ul>
        <canvas ref={rowCanvas} style={{ width, height: rows.length * ROW_HEIGHT }} aria-hidden="true" />
      </div>
    </section>
  );
}
