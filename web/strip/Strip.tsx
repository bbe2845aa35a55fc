import { axisTime, clockTime, plainNumber } from '@dial/core/formats';
import { kindOf } from '@dial/core/level';
import { useEffect, useMemo, useRef, useState, type PointerEvent } from 'react';
import { playbackActions } from '../state/slices/playback.ts';
import { viewActions, type Selection } from '../state/slices/view.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';
import { Button } from '../controls/controls.tsx';
import { usePalette } from '../drawing/palette.ts';
import { useSize } from '../controls/useSize.ts';
import { useArrangement } from './arrangement.ts';
import { useBands } from '../drawing/lanes/bands.ts';
import { AXIS_HEIGHT, LANE_DRAWING, tickSeconds, type TimeView } from '../drawing/lanes/laneDrawing.ts';
import { ROW_DRAWING, ROW_HEIGHT } from './drawing.ts';
import { LaneChooser } from './LaneChooser.tsx';
import { arranged, lanesOf, type PlayerLane } from './lanes.ts';
import { useBeyond } from '../controls/useBeyond.ts';
import { Needle } from './Needle.tsx';
import { EventList, EventMarks } from './OutsideEvents.tsx';
import { stripRows, type StripRow } from './rows.ts';
import { SpanPanel } from './SpanPanel.tsx';
import { StripSurface } from './StripSurface.tsx';
import { useTimeView, type Viewing } from './timeView.ts';
import { Hint } from '../controls/Hint.tsx';

const LABEL_WIDTH = 112;
/** Room after the end of the run, so that its last moment can be seen. */
const RIGHT_MARGIN = 8;
const NEARER = 0.6;
/** Room for the buttons at the right of the axis, and a label before them; with the one that shows the whole run. Pixels. */
const TOOLS_WIDTH = 80;
const MORE_TOOLS_WIDTH = 150;

const isSelected = (row: StripRow, selection: Selection): boolean =>
  selection.placements.length > 0
    ? selection.placements.some((placement) => row.placements.includes(placement))
    : selection.kind === row.kind;

/** The times over the lanes; pressing and pulling on them moves the needle. */
function Axis({ view, whole, width, rate }: Pick<Viewing, 'view' | 'whole'> & { readonly width: number; readonly rate: number }) {
  const dispatch = useAppDispatch();
  const span = view.to - view.from;
  const every = tickSeconds(span, width);
  const first = Math.ceil(view.from / every - 1e-6);
  const ticks = Array.from({ length: Math.max(0, Math.floor(view.to / every + 1e-6) - first + 1) }, (_, index) => (first + index) * every);
  // A label that would lie under the buttons at the right is left out.
  const labelled = ticks.filter((at) => ((at - view.from) / span) * width < width - (whole ? TOOLS_WIDTH : MORE_TOOLS_WIDTH));
  const moveNeedle = (event: PointerEvent<HTMLDivElement>): void => {
    if (event.buttons !== 1) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const x = event.clientX - event.currentTarget.getBoundingClientRect().x - LABEL_WIDTH;
    dispatch(playbackActions.playingChanged(false));
    dispatch(playbackActions.needleMoved((view.from + (x / width) * span) * rate));
  };
  return (
    <div
      className="absolute inset-0 cursor-col-resize touch-none select-none"
      aria-hidden="true"
      onPointerDown={moveNeedle}
      onPointerMove={moveNeedle}
    >
      {labelled.map((at) => (
        <span
          key={at}
          className="absolute top-[2px] pl-1 font-mono text-[10.5px] text-soft"
          style={{ left: LABEL_WIDTH + ((at - view.from) / span) * width }}
        >
          {axisTime(at, every)}
        </span>
      ))}
    </div>
  );
}

interface PartingProps {
  readonly seconds: number;
  readonly view: TimeView;
  readonly width: number;
  readonly rate: number;
}

/** Where the session is no longer the one that was recorded, since the level has changed. Digests are kept for each second, so it is told to a second. */
function Parting({ seconds, view, width, rate }: PartingProps) {
  const dispatch = useAppDispatch();
  const share = (seconds - view.from) / (view.to - view.from);
  if (share < 0 || share > 1) return null;
  const right = share > 0.6;
  const at = LABEL_WIDTH + share * width;
  return (
    <Hint says="From here the session is not the one that was recorded: the level has changed since.">
      <button
        type="button"
        className={`absolute top-0 z-10 h-[17px] cursor-pointer bg-panel px-1 text-[10.5px] whitespace-nowrap hover:underline ${right ? '-translate-x-full border-r-2' : 'border-l-2'} border-ink`}
        style={{ left: at }}
        onClick={() => dispatch(playbackActions.needleMoved(seconds * rate))}
      >
        parts from the recording at {clockTime(seconds, 0)}
      </button>
    </Hint>
  );
}

/** What the view is zoomed with, shown while only a part is in view. */
function ZoomTools({ viewing, about }: { readonly viewing: Viewing; readonly about: number }) {
  const quiet = 'px-1! py-0! text-[10.5px]! leading-[14px]';
  return (
    <span className="absolute top-px right-1 z-20 flex gap-1 bg-panel pl-1">
      <Button
        kind="quiet"
        className={quiet}
        aria-label="Nearer"
        hint="Ctrl + wheel, or + on the needle"
        onClick={() => viewing.zoom(NEARER, about)}
      >
        +
      </Button>
      <Button
        kind="quiet"
        className={quiet}
        aria-label="Further"
        hint="− on the needle"
        disabled={viewing.whole}
        onClick={() => viewing.zoom(1 / NEARER, about)}
      >
        −
      </Button>
      {!viewing.whole && (
        <Button kind="quiet" className={quiet} hint="0 on the needle" onClick={viewing.fit}>
          whole run
        </Button>
      )}
    </span>
  );
}

function RowLabel({
  row,
  selected,
  unfolded,
  onSelect,
  onFold,
}: {
  readonly row: StripRow;
  readonly selected: boolean;
  readonly unfolded: boolean;
  readonly onSelect: () => void;
  readonly onFold: () => void;
}) {
  const many = row.placements.length;
  return (
    <div data-beyond="" className="flex items-center border-b border-line/60" style={{ height: ROW_HEIGHT }}>
      <button
        type="button"
        aria-pressed={selected}
        className={`min-w-0 flex-1 cursor-pointer truncate pr-1 text-right text-[11px] ${selected ? 'font-bold text-needle-text' : 'hover:underline'}`}
        onClick={onSelect}
        onContextMenu={onSelect}
      >
        {row.name}
      </button>
      {(many > 1 || unfolded) && (
        <button
          type="button"
          className="mr-1 cursor-pointer rounded-sm border border-line bg-card px-1 text-[10px] leading-[12px] hover:border-ink"
          aria-label={unfolded ? `fold ${row.name}` : `unfold ${row.name}, ${String(many)} things`}
          onClick={onFold}
        >
          {unfolded ? '–' : `×${String(many)}`}
        </button>
      )}
    </div>
  );
}

function LaneLabel({ lane, step }: { readonly lane: PlayerLane; readonly step: number }) {
  const value = lane.lines[0]?.values[step];
  if (lane.steady) {
    return (
      <div className="truncate border-b border-line pr-2 pl-2.5 text-[10.5px] leading-[15px]" style={{ height: lane.height }}>
        <b>{lane.name}</b> <span className="font-mono">{plainNumber(value ?? 0, 1)}</span> throughout
      </div>
    );
  }
  return (
    <div className="flex items-center justify-between gap-1 border-b border-line pr-2 pl-2.5" style={{ height: lane.height }}>
      <b className="truncate text-xs">{lane.name}</b>
      {lane.bars.length === 0 && <span className="font-mono text-[12.5px]">{plainNumber(value ?? 0, 1)}</span>}
    </div>
  );
}

/** The session over time: a lane for each meter, speed, item and change of movement, a row for each thing that was touched. */
export function Strip() {
  const dispatch = useAppDispatch();
  const palette = usePalette();
  const { now, compared } = useAppSelector((state) => state.simulated.shown);
  const id = useAppSelector((state) => state.document.open?.id ?? '');
  const selection = useAppSelector((state) => state.view.selection);
  const needleStep = useAppSelector((state) => state.playback.needleStep);
  const playing = useAppSelector((state) => state.playback.playing);
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set());
  const [span, setSpan] = useState<TimeView | null>(null);
  const [arrangement, arrange] = useArrangement(id);
  const frame = useRef<HTMLDivElement>(null);
  const laneCanvas = useRef<HTMLCanvasElement>(null);
  const rowCanvas = useRef<HTMLCanvasElement>(null);
  const { width: frameWidth, height: frameHeight } = useSize(frame);
  const width = Math.max(50, frameWidth - LABEL_WIDTH - RIGHT_MARGIN);
  const rate = now?.rate ?? 60;
  const duration = Math.max(1, (now?.steps ?? 0) / rate, (compared?.steps ?? 0) / (compared?.rate ?? rate));
  const viewing = useTimeView(frame, { duration, rate, left: LABEL_WIDTH, width });
  const { from, to } = viewing.view;

  const all = useMemo(() => (now === null ? [] : lanesOf(now, compared, palette)), [now, compared, palette]);
  const lanes = useMemo(() => arranged(all, arrangement), [all, arrangement]);
  const rows = useMemo(() => (now === null ? [] : stripRows(now, unfolded)), [now, unfolded]);
  const laneHeight = lanes.reduce((sum, lane) => sum + lane.height, 0);
  const rowsHeight = rows.length * ROW_HEIGHT;

  const beyond = useBeyond(frame, 'below', `${String(laneHeight)} ${String(rowsHeight)}`);

  const look = useMemo(() => ({ width, view: { from, to }, rate, palette }), [width, from, to, rate, palette]);
  const drawnRows = useMemo(
    () =>
      rows.map((row) => ({
        row,
        role: (now === null ? undefined : kindOf(now.level, row.kind)?.role) ?? 'score',
        selected: isSelected(row, selection),
        height: ROW_HEIGHT,
      })),
    [rows, now, selection],
  );
  useBands(laneCanvas, LANE_DRAWING, lanes, look);
  useBands(rowCanvas, ROW_DRAWING, drawnRows, look);

  // While it runs, and when it is moved otherwise, the needle is kept in view.
  const seconds = needleStep / rate;
  const shown = useRef(viewing);
  useEffect(() => {
    shown.current = viewing;
  });
  useEffect(() => {
    const { view, whole, shift } = shown.current;
    if (whole || (seconds >= view.from && seconds <= view.to)) return;
    shift(seconds - (playing ? view.from : (view.from + view.to) / 2));
  }, [seconds, playing]);

  const choose = (row: StripRow): void => {
    dispatch(viewActions.selected({ kind: row.kind, placements: row.placements.length === 1 ? row.placements : [] }));
  };
  /** A press on a row chooses the very thing whose bar or × is there, else the row. */
  const press = (at: number, y: number, secondsPerPixel: number): void => {
    const row = rows[Math.floor((y - laneHeight) / ROW_HEIGHT)];
    if (y < laneHeight || row === undefined) return;
    const near = 4 * secondsPerPixel;
    const stretch = [...row.inside, ...row.resting].find((one) => at >= one.from - near && at <= one.to + near);
    const placement = stretch?.placement ?? row.refusals.find((one) => Math.abs(one.at - at) <= near)?.placement;
    if (placement === undefined) choose(row);
    else dispatch(viewActions.selected({ kind: row.kind, placements: [placement] }));
  };
  const fold = (kind: string): void => {
    const next = new Set(unfolded);
    if (!next.delete(kind)) next.add(kind);
    setUnfolded(next);
  };

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
              <LaneChooser lanes={all} arrangement={arrangement} onArrange={arrange} />
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
                  onFold={() => fold(row.kind)}
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
            height={Math.max(laneHeight + rowsHeight, frameHeight - AXIS_HEIGHT - 3)}
            span={span}
            onSpan={setSpan}
            onPress={press}
          >
            <Needle viewing={viewing} width={width} rate={rate} height={Math.max(laneHeight + rowsHeight, frameHeight - AXIS_HEIGHT - 3)} />
          </StripSurface>
        </div>
      )}
      {beyond > 0 && (
        <div className="pointer-events-none sticky bottom-0 z-20 h-0">
          <button
            type="button"
            className="pointer-events-auto absolute right-1 bottom-0 cursor-pointer rounded-t-sm border border-b-0 border-ink bg-panel px-1.5 text-[10.5px] hover:underline"
            onClick={() => frame.current?.scrollBy({ top: frame.current.clientHeight / 2 })}
          >
            {beyond} {beyond === 1 ? 'row' : 'rows'} below ▾
          </button>
        </div>
      )}
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
