import { clockTime, plainNumber } from '@dial/core/formats';
import { inOrder } from '@dial/core/level';
import { useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { benchActions, type Selection } from '../state/bench.ts';
import type { ShownRun } from '../state/protocol.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';
import { usePalette, type Palette } from '../ui/palette.ts';
import { useSize } from '../ui/useSize.ts';
import { AXIS_HEIGHT, drawLanes, drawRows, prepare, ROW_HEIGHT, tickSeconds, type Lane } from './drawing.ts';
import { stripRows, type StripRow } from './rows.ts';

const LABEL_WIDTH = 112;
/** Room after the end of the run, so that its last moment can be seen. */
const RIGHT_MARGIN = 8;

const isSelected = (row: StripRow, selection: Selection): boolean =>
  selection.placements.length > 0
    ? selection.placements.some((placement) => row.placements.includes(placement))
    : selection.kind === row.kind;

const peak = (values: Float32Array): number => values.reduce((most, value) => Math.max(most, value), 0);

function lanesOf(now: ShownRun, ghost: ShownRun | null, palette: Palette): Lane[] {
  const { level } = now;
  const meters = inOrder(level.meters).map(([id, meter]): Lane => {
    const values = now.meters[id] ?? new Float32Array(1);
    const other = ghost?.meters[id] ?? null;
    const high = meter.upper ?? Math.max(1, peak(values), other === null ? 0 : peak(other));
    const main = id === 'health';
    const colour = main ? palette.role.mend : id === 'score' ? palette.role.score : palette.role.carry;
    return { key: id, name: meter.name, height: main ? 54 : 34, colour, filled: main, low: meter.lower, high, now: values, ghost: other };
  });
  const high = Math.max(level.body.speed, peak(now.speed)) * 1.05 || 1;
  return [
    ...meters,
    {
      key: 'speed',
      name: 'speed',
      height: 30,
      colour: palette.role.movement,
      filled: false,
      low: 0,
      high,
      now: now.speed,
      ghost: ghost?.speed ?? null,
    },
  ];
}

function Axis({ duration, width }: { readonly duration: number; readonly width: number }) {
  const every = tickSeconds(duration, width);
  const ticks = Array.from({ length: Math.floor(duration / every) + 1 }, (_, index) => index * every);
  return (
    <div className="sticky top-0 z-10 border-b border-line bg-panel" style={{ height: AXIS_HEIGHT }} aria-hidden="true">
      {ticks.map((at) => (
        <span
          key={at}
          className="absolute top-[2px] pl-1 font-mono text-[10.5px] text-soft"
          style={{ left: LABEL_WIDTH + (at / duration) * width }}
        >
          {clockTime(at, every < 1 ? 1 : 0)}
        </span>
      ))}
    </div>
  );
}

interface NeedleProps {
  readonly width: number;
  readonly height: number;
  readonly duration: number;
  readonly rate: number;
  /** Pressed on the surface: seconds, pixels from the top, and seconds a pixel stands for. */
  readonly onPress: (seconds: number, y: number, secondsPerPixel: number) => void;
}

/** Lets the needle be moved by pointer on the surface, and by keys on its own handle. */
function Needle({ width, duration, rate, height, onPress }: NeedleProps) {
  const dispatch = useAppDispatch();
  const step = useAppSelector((state) => state.bench.needleStep);
  const steps = useAppSelector((state) => state.bench.simulated.now?.steps ?? 0);
  const seconds = step / rate;
  const moveTo = (next: number): void => {
    dispatch(benchActions.playingChanged(false));
    dispatch(benchActions.needleMoved(next));
  };
  const onPointer = (event: PointerEvent<HTMLDivElement>): void => {
    if (event.buttons !== 1) return;
    const box = event.currentTarget.getBoundingClientRect();
    const at = ((event.clientX - box.left) / width) * duration;
    if (event.type === 'pointerdown') {
      event.currentTarget.setPointerCapture(event.pointerId);
      onPress(at, event.clientY - box.top, duration / width);
    }
    moveTo(at * rate);
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    const tenth = Math.max(1, Math.round(rate / 10));
    const moves: Record<string, number> = {
      ArrowRight: step + (event.shiftKey ? 1 : tenth),
      ArrowLeft: step - (event.shiftKey ? 1 : tenth),
      PageUp: step + 5 * rate,
      PageDown: step - 5 * rate,
      Home: 0,
      End: steps,
    };
    const next = moves[event.key];
    if (next === undefined) return;
    event.preventDefault();
    moveTo(next);
  };
  const x = (seconds / duration) * width;
  return (
    <div
      className="absolute top-0 cursor-col-resize touch-none"
      style={{ left: LABEL_WIDTH, width, height }}
      onPointerDown={onPointer}
      onPointerMove={onPointer}
    >
      <div
        role="slider"
        tabIndex={0}
        aria-label="Needle"
        aria-valuemin={0}
        aria-valuemax={Number((steps / rate).toFixed(2))}
        aria-valuenow={Number(seconds.toFixed(2))}
        aria-valuetext={clockTime(seconds)}
        className="group absolute top-0 h-3 w-3 -translate-x-1/2 outline-none"
        style={{ left: x }}
        onKeyDown={onKeyDown}
      >
        <svg
          width="12"
          height="9"
          className="absolute top-0 left-0 group-focus-visible:outline-2 group-focus-visible:outline-offset-1 group-focus-visible:outline-ink"
          aria-hidden="true"
        >
          <path d="M0 0h12l-6 9z" fill="var(--needle)" />
        </svg>
        <div className="absolute top-0 left-1/2 w-[1.8px] -translate-x-1/2 bg-needle" style={{ height }} />
      </div>
    </div>
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
    <div className="flex items-center border-b border-line/60" style={{ height: ROW_HEIGHT }}>
      <button
        type="button"
        aria-pressed={selected}
        className={`min-w-0 flex-1 cursor-pointer truncate pr-1 text-right text-[11px] ${selected ? 'font-bold text-needle-text' : 'hover:underline'}`}
        onClick={onSelect}
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

/** The session over time: a lane for each meter and speed, a row for each thing that was touched. */
export function Strip() {
  const dispatch = useAppDispatch();
  const palette = usePalette();
  const { now, compared } = useAppSelector((state) => state.bench.simulated);
  const selection = useAppSelector((state) => state.bench.selection);
  const needleStep = useAppSelector((state) => state.bench.needleStep);
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set());
  const frame = useRef<HTMLDivElement>(null);
  const laneCanvas = useRef<HTMLCanvasElement>(null);
  const rowCanvas = useRef<HTMLCanvasElement>(null);
  const { width: frameWidth, height: frameHeight } = useSize(frame);
  const width = Math.max(50, frameWidth - LABEL_WIDTH - RIGHT_MARGIN);
  const rate = now?.rate ?? 60;
  const duration = Math.max(1, (now?.steps ?? 0) / rate, (compared?.steps ?? 0) / (compared?.rate ?? rate));

  const lanes = useMemo(() => (now === null ? [] : lanesOf(now, compared, palette)), [now, compared, palette]);
  const rows = useMemo(() => (now === null ? [] : stripRows(now, unfolded)), [now, unfolded]);
  const laneHeight = lanes.reduce((sum, lane) => sum + lane.height, 0);

  useLayoutEffect(() => {
    const context = laneCanvas.current === null ? null : prepare(laneCanvas.current, width, laneHeight);
    if (context !== null) drawLanes(context, lanes, width, duration, rate, palette);
  }, [lanes, laneHeight, width, duration, rate, palette]);
  useLayoutEffect(() => {
    const context = rowCanvas.current === null ? null : prepare(rowCanvas.current, width, rows.length * ROW_HEIGHT);
    if (context !== null && now !== null) drawRows(context, rows, now.level, (row) => isSelected(row, selection), width, duration, palette);
  }, [rows, now, selection, width, duration, palette]);
  const choose = (row: StripRow): void => {
    dispatch(benchActions.selected({ kind: row.kind, placements: row.placements.length === 1 ? row.placements : [] }));
  };
  /** A press on a row chooses the very thing whose bar or × is there, else the row. */
  const press = (seconds: number, y: number, secondsPerPixel: number): void => {
    const row = rows[Math.floor((y - laneHeight) / ROW_HEIGHT)];
    if (y < laneHeight || row === undefined) return;
    const near = 4 * secondsPerPixel;
    const stretch = [...row.inside, ...row.resting].find(({ from, to }) => seconds >= from - near && seconds <= to + near);
    const placement = stretch?.placement ?? row.refusals.find(({ at }) => Math.abs(at - seconds) <= near)?.placement;
    if (placement === undefined) choose(row);
    else dispatch(benchActions.selected({ kind: row.kind, placements: [placement] }));
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
      <Axis duration={duration} width={width} />
      {now === null ? (
        <p className="p-3 text-soft">
          No run yet. Draw a route on the Plan (R) for the walker to follow, or press Play to walk the level by hand; the run appears here.
        </p>
      ) : (
        <div className="relative">
          <div className="flex">
            <div style={{ width: LABEL_WIDTH }} className="shrink-0">
              {lanes.map((lane) => (
                <div
                  key={lane.key}
                  className="flex items-center justify-between border-b border-line pr-2 pl-2.5"
                  style={{ height: lane.height }}
                >
                  <b className="text-xs">{lane.name}</b>
                  <span className="font-mono text-[12.5px]">{plainNumber(lane.now[needleStep] ?? 0, lane.key === 'speed' ? 1 : 1)}</span>
                </div>
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
            <canvas ref={rowCanvas} style={{ width, height: rows.length * ROW_HEIGHT }} aria-hidden="true" />
          </div>
          <Needle
            width={width}
            duration={duration}
            rate={rate}
            onPress={press}
            height={Math.max(laneHeight + rows.length * ROW_HEIGHT, frameHeight - AXIS_HEIGHT - 3)}
          />
        </div>
      )}
    </section>
  );
}
