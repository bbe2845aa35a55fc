import { kindOf } from '@dial/core/level';
import type { CrowdBands } from '@dial/core/studies';
import { useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { viewActions, type Selection } from '../state/slices/view.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';
import { usePalette } from '../drawing/palette.ts';
import { useSize } from '../controls/hooks/useSize.ts';
import { useArrangement } from './arrangement.ts';
import { useBands } from '../drawing/lanes/bands.ts';
import { AXIS_HEIGHT, LANE_DRAWING, type TimeView } from '../drawing/lanes/laneDrawing.ts';
import { ROW_DRAWING, ROW_HEIGHT } from './drawing.ts';
import { LaneChooser } from './LaneChooser.tsx';
import { arranged, lanesOf } from './lanes.ts';
import { useBeyond } from '../controls/hooks/useBeyond.ts';
import { Needle } from './Needle.tsx';
import { EventList, EventMarks } from './OutsideEvents.tsx';
import { stripRows, type StripRow } from './rows.ts';
import { SpanPanel } from './SpanPanel.tsx';
import { Axis, LABEL_WIDTH, Parting, ZoomTools } from './StripAxis.tsx';
import { LaneLabel, RowLabel } from './StripLabels.tsx';
import { StripSurface } from './StripSurface.tsx';
import { useTimeView, type Viewing } from './timeView.ts';

/** Room after the end of the run, so that its last moment can be seen. */
const RIGHT_MARGIN = 8;

const isSelected = (row: StripRow, selection: Selection): boolean =>
  selection.placements.length > 0
    ? selection.placements.some((placement) => row.placements.includes(placement))
    : selection.kind === row.kind;

/** How many of the crowd are at the things of a row, second by second: of several the most. */
function crowdIn({ placements }: StripRow, crowd: CrowdBands | null): Float32Array | null {
  if (crowd === null) return null;
  const [first, ...others] = placements.flatMap((id) => crowd.inside[id] ?? []);
  if (first === undefined || others.length === 0) return first ?? null;
  return first.map((share, second) => Math.max(share, ...others.map((one) => one[second] ?? 0)));
}

type CanvasRef = RefObject<HTMLCanvasElement | null>;

/** What stands on the Strip: lanes, rows and where they lie; drawn on the two surfaces. */
function useStripRows(frame: RefObject<HTMLElement | null>, laneCanvas: CanvasRef, rowCanvas: CanvasRef) {
  const palette = usePalette();
  const { now, compared } = useAppSelector((state) => state.simulated.shown);
  const id = useAppSelector((state) => state.document.open?.id ?? '');
  const selection = useAppSelector((state) => state.view.selection);
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set());
  const [arrangement, arrange] = useArrangement(id);
  const { width: frameWidth, height: frameHeight } = useSize(frame);
  const width = Math.max(50, frameWidth - LABEL_WIDTH - RIGHT_MARGIN);
  const rate = now?.rate ?? 60;
  const duration = Math.max(1, (now?.steps ?? 0) / rate, (compared?.steps ?? 0) / (compared?.rate ?? rate));
  const viewing = useTimeView(frame, { duration, rate, left: LABEL_WIDTH, width });
  const { from, to } = viewing.view;

  const crowds = useAppSelector((state) => state.crowd.shown);
  const [crowd, crowdWas] = [crowds.now?.bands ?? null, crowds.compared?.bands ?? null];
  const all = useMemo(
    () => (now === null ? [] : lanesOf(now, { ghost: compared, crowd, crowdWas }, palette)),
    [now, compared, crowd, crowdWas, palette],
  );
  const lanes = useMemo(() => arranged(all, arrangement), [all, arrangement]);
  const rows = useMemo(() => (now === null ? [] : stripRows(now, unfolded)), [now, unfolded]);
  const laneHeight = lanes.reduce((sum, lane) => sum + lane.height, 0);
  const rowsHeight = rows.length * ROW_HEIGHT;

  const look = useMemo(() => ({ width, view: { from, to }, rate, palette }), [width, from, to, rate, palette]);
  const drawnRows = useMemo(
    () =>
      rows.map((row) => ({
        row,
        role: (now === null ? undefined : kindOf(now.level, row.kind)?.role) ?? 'score',
        selected: isSelected(row, selection),
        crowd: crowdIn(row, crowd),
        height: ROW_HEIGHT,
      })),
    [rows, now, selection, crowd],
  );
  useBands(laneCanvas, LANE_DRAWING, lanes, look);
  useBands(rowCanvas, ROW_DRAWING, drawnRows, look);
  const fold = (kind: string): void => {
    const next = new Set(unfolded);
    if (!next.delete(kind)) next.add(kind);
    setUnfolded(next);
  };
  const height = Math.max(laneHeight + rowsHeight, frameHeight - AXIS_HEIGHT - 3);
  return {
    now,
    selection,
    unfolded,
    fold,
    all,
    lanes,
    rows,
    arrangement,
    arrange,
    width,
    rate,
    viewing,
    laneHeight,
    rowsHeight,
    height,
  };
}

/** Presses on rows: a press chooses the very thing whose bar or × is there, else the row. */
function useRowPress(rows: readonly StripRow[], laneHeight: number) {
  const dispatch = useAppDispatch();
  const choose = (row: StripRow): void => {
    dispatch(viewActions.selected({ kind: row.kind, placements: row.placements.length === 1 ? row.placements : [] }));
  };
  const press = (at: number, y: number, secondsPerPixel: number): void => {
    const row = rows[Math.floor((y - laneHeight) / ROW_HEIGHT)];
    if (y < laneHeight || row === undefined) return;
    const near = 4 * secondsPerPixel;
    const stretch = [...row.inside, ...row.resting].find((one) => at >= one.from - near && at <= one.to + near);
    const placement = stretch?.placement ?? row.refusals.find((one) => Math.abs(one.at - at) <= near)?.placement;
    if (placement === undefined) choose(row);
    else dispatch(viewActions.selected({ kind: row.kind, placements: [placement] }));
  };
  return { choose, press };
}

/** While it runs, and when it is moved otherwise, the needle is kept in view. */
function useNeedleInView(viewing: Viewing, seconds: number): void {
  const playing = useAppSelector((state) => state.playback.playing);
  const shown = useRef(viewing);
  useEffect(() => {
    shown.current = viewing;
  });
  useEffect(() => {
    const { view, whole, shift } = shown.current;
    if (whole || (seconds >= view.from && seconds <= view.to)) return;
    shift(seconds - (playing ? view.from : (view.from + view.to) / 2));
  }, [seconds, playing]);
}

/** How many rows follow below what can be seen; pressed, it goes on to them. */
function Beyond({ count, onMore }: { readonly count: number; readonly onMore: () => void }) {
  return (
    <div className="pointer-events-none sticky bottom-0 z-20 h-0">
      <button
        type="button"
        className="pointer-events-auto absolute right-1 bottom-0 cursor-pointer rounded-t-sm border border-b-0 border-ink bg-panel px-1.5 text-[10.5px] hover:underline"
        onClick={onMore}
      >
        {count} {count === 1 ? 'row' : 'rows'} below ▾
      </button>
    </div>
  );
}

/** The session over time: a lane for each meter, speed, item and change of movement, a row for each thing that was touched. */
export function Strip() {
  const frame = useRef<HTMLDivElement>(null);
  const laneCanvas = useRef<HTMLCanvasElement>(null);
  const rowCanvas = useRef<HTMLCanvasElement>(null);
  const strip = useStripRows(frame, laneCanvas, rowCanvas);
  const { now, selection, unfolded, lanes, rows, width, rate, viewing, laneHeight, rowsHeight, height } = strip;
  const { from, to } = viewing.view;
  const needleStep = useAppSelector((state) => state.playback.needleStep);
  const [span, setSpan] = useState<TimeView | null>(null);
  const beyond = useBeyond(frame, 'below', `${String(laneHeight)} ${String(rowsHeight)}`);
  const seconds = needleStep / rate;
  useNeedleInView(viewing, seconds);
  const { choose, press } = useRowPress(rows, laneHeight);
  return (
    <section
      aria-label="Strip"
      ref={frame}
      className="relative h-full overflow-x-hidden overflow-y-auto rounded-sm border-[1.3px] border-ink bg-card"
    >
      <div className="sticky top-0 z-20 border-b border-line bg-panel" style={{ height: AXIS_HEIGHT }}>
        <Axis view={viewing.view} whole={viewing.whole} width={width} rate={now?.rate ?? 60} />
        {now !== null && (
          <>
            <div className="relative z-10 flex gap-1 pl-1" style={{ width: LABEL_WIDTH }}>
              <LaneChooser lanes={strip.all} arrangement={strip.arrangement} onArrange={strip.arrange} />
              <EventList level={now.level} />
            </div>
            <EventMarks level={now.level} view={viewing.view} left={LABEL_WIDTH} width={width} />
            {now.partsAtSeconds !== null && <Parting seconds={now.partsAtSeconds} view={viewing.view} width={width} rate={rate} />}
            <ZoomTools viewing={viewing} about={seconds >= from && seconds <= to ? seconds : (from + to) / 2} />
          </>
        )}
      </div>
      {now === null ? (
        <p className="p-3 text-soft">
          No run yet. Draw a route on the Plan (R) for the walker to follow, or press Play to walk the level by hand; the run appears here.
        </p>
      ) : (
        <div className="relative">
          <div className="flex">
            <div style={{ width: LABEL_WIDTH }} className="shrink-0">
              {lanes.map((lane) => (
                <LaneLabel key={lane.key} lane={lane} step={needleStep} />
              ))}
            </div>
            <canvas ref={laneCanvas} style={{ width, height: laneHeight }} aria-hidden="true" />
          </div>
          <div className="flex">
            <div style={{ width: LABEL_WIDTH }} className="shrink-0">
              {rows.map((row) => (
                <RowLabel
                  key={row.key}
                  row={row}
                  selected={isSelected(row, selection)}
                  unfolded={unfolded.has(row.kind)}
                  onSelect={() => choose(row)}
                  onFold={() => strip.fold(row.kind)}
                />
              ))}
            </div>
            <canvas ref={rowCanvas} style={{ width, height: rowsHeight }} aria-hidden="true" />
          </div>
          <StripSurface
            run={now}
            lanes={lanes}
            rows={rows}
            laneHeight={laneHeight}
            viewing={viewing}
            left={LABEL_WIDTH}
            width={width}
            height={height}
            span={span}
            onSpan={setSpan}
            onPress={press}
          >
            <Needle viewing={viewing} width={width} rate={rate} height={height} />
          </StripSurface>
        </div>
      )}
      {beyond > 0 && <Beyond count={beyond} onMore={() => frame.current?.scrollBy({ top: frame.current.clientHeight / 2 })} />}
      {now !== null && span !== null && (
        <SpanPanel
          run={now}
          span={span}
          onZoom={() => {
            viewing.show(span);
            setSpan(null);
          }}
          onClose={() => setSpan(null)}
        />
      )}
    </section>
  );
}
