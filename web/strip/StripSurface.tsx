import { isStopped } from '@dial/core/session';
import { clockTime, lineWords, plainNumber } from '@dial/core/formats';
import { useRef, useState, type PointerEvent, type ReactNode } from 'react';
import { playbackActions } from '../state/slices/playback.ts';
import { ledgerOf } from '../state/simulation/lines.ts';
import type { ShownRun } from '../state/simulation/protocol.ts';
import { useAppDispatch } from '../state/store.ts';
import type { TimeView } from '../drawing/lanes/laneDrawing.ts';
import { ROW_HEIGHT } from './drawing.ts';
import type { PlayerLane } from './lanes.ts';
import type { StripRow } from './rows.ts';
import type { Viewing } from './timeView.ts';

interface SurfaceProps {
  readonly run: ShownRun;
  readonly lanes: readonly PlayerLane[];
  readonly rows: readonly StripRow[];
  readonly laneHeight: number;
  readonly viewing: Viewing;
  readonly left: number;
  readonly width: number;
  readonly height: number;
  readonly span: TimeView | null;
  readonly onSpan: (span: TimeView | null) => void;
  /** Pressed on the surface: seconds, pixels from the top, and seconds a pixel stands for. */
  readonly onPress: (seconds: number, y: number, secondsPerPixel: number) => void;
  readonly children: ReactNode;
}

interface Pointed {
  readonly seconds: number;
  readonly x: number;
  readonly y: number;
}

const LABEL_WIDTH = 270;
/** A press and a pull of fewer pixels is a press. */
const LEAST_PULL = 4;

/** What is at a place of the Strip, in words: the value of a lane and what brought it there, or what a row shows. */
function pointedWords({ run, lanes, rows, laneHeight }: SurfaceProps, { seconds, y }: Pointed, secondsPerPixel: number): string[] {
  const { level, rate } = run;
  if (y < laneHeight) {
    let top = 0;
    const lane = lanes.find(({ height }) => y < (top += height));
    if (lane === undefined) return [];
    const values = lane.lines.map(({ values: all, dashed }) => {
      const value = all[Math.max(0, Math.min(all.length - 1, Math.round(seconds * rate)))] ?? 0;
      return `${plainNumber(value, 1)}${dashed ? ' in the ghost' : ''}`;
    });
    const bar = lane.bars.find(({ from, to }) => seconds >= from && seconds <= to);
    const cause = ledgerOf(run).findLast(
      (line) =>
        line.seconds <= seconds + secondsPerPixel &&
        (lane.toucher === null || ('toucher' in line && line.toucher === lane.toucher)) &&
        (((line.type === 'changed' || line.type === 'rate') && line.meter === lane.of) ||
          (line.type === 'item' && `item ${line.item}` === lane.of) ||
          (line.type === 'movement' && (`movement ${line.of}` === lane.of || (lane.of === 'speed' && line.of === 'speed')))),
    );
    return [
      `${lane.name} ${bar === undefined ? values.join(', ') : bar.text}`,
      ...(cause === undefined ? [] : [`${clockTime(cause.seconds)} ${lineWords(level, cause)}`]),
    ];
  }
  const row = rows[Math.floor((y - laneHeight) / ROW_HEIGHT)];
  if (row === undefined) return [];
  const near = 4 * secondsPerPixel;
  const within = ({ from, to }: TimeView): boolean => seconds >= from - near && seconds <= to + near;
  const refusal = row.refusals.find(({ at }) => Math.abs(at - seconds) <= near);
  const refused =
    refusal === undefined
      ? undefined
      : ledgerOf(run).find((line) => isStopped(line) && line.placement === refusal.placement && line.seconds === refusal.at);
  const inside = row.inside.find(within);
  const resting = row.resting.find(within);
  const drawn = row.drawn.find(within);
  return [
    row.name,
    ...(refused === undefined ? [] : [`${clockTime(refused.seconds)} ${lineWords(level, refused)}`]),
    ...(inside === undefined ? [] : [`inside from ${clockTime(inside.from)} to ${clockTime(inside.to)}`]),
    ...(drawn === undefined ? [] : [`drawn from ${clockTime(drawn.from)} to ${clockTime(drawn.to)}`]),
    ...(resting === undefined ? [] : [`rests from ${clockTime(resting.from)} to ${clockTime(resting.to)}`]),
  ];
}

/** What lies over the drawn lanes and rows: pressing and pulling moves the needle, with Shift it chooses a stretch, with the middle button it shifts the view; pointing tells values. */
export function StripSurface(props: SurfaceProps) {
  const { run, viewing, left, width, height, span, onSpan, onPress, children } = props;
  const dispatch = useAppDispatch();
  const { view } = viewing;
  const secondsPerPixel = (view.to - view.from) / width;
  const [pointed, setPointed] = useState<Pointed | null>(null);
  const pulling = useRef<{ readonly how: 'needle' | 'span' | 'view'; readonly x: number; readonly seconds: number } | null>(null);
  const placeOf = (event: PointerEvent<HTMLDivElement>): Pointed => {
    const box = event.currentTarget.getBoundingClientRect();
    const x = event.clientX - box.left;
    return { x, y: event.clientY - box.top, seconds: view.from + x * secondsPerPixel };
  };
  const moveTo = (seconds: number): void => {
    dispatch(playbackActions.playingChanged(false));
    dispatch(playbackActions.needleMoved(seconds * run.rate));
  };
  const down = (event: PointerEvent<HTMLDivElement>): void => {
    const at = placeOf(event);
    event.currentTarget.setPointerCapture(event.pointerId);
    const how = event.button === 1 ? 'view' : event.shiftKey ? 'span' : 'needle';
    pulling.current = { how, x: at.x, seconds: at.seconds };
    setPointed(null);
    if (how === 'view') event.preventDefault();
    if (how !== 'needle') return;
    onSpan(null);
    onPress(at.seconds, at.y, secondsPerPixel);
    moveTo(at.seconds);
  };
  const move = (event: PointerEvent<HTMLDivElement>): void => {
    const at = placeOf(event);
    const pulled = pulling.current;
    if (event.buttons === 0 || pulled === null) {
      setPointed(at);
      return;
    }
    if (pulled.how === 'view') viewing.shift(-event.movementX * secondsPerPixel);
    else if (pulled.how === 'needle') moveTo(at.seconds);
    else if (Math.abs(at.x - pulled.x) >= LEAST_PULL) {
      onSpan({
        from: Math.max(0, Math.min(pulled.seconds, at.seconds)),
        to: Math.min(run.steps / run.rate, Math.max(pulled.seconds, at.seconds)),
      });
    }
  };
  const x = (seconds: number): number => (seconds - view.from) / secondsPerPixel;
  const inView = (seconds: number): number => Math.max(0, Math.min(width, x(seconds)));
  const words = pointed === null ? [] : pointedWords(props, pointed, secondsPerPixel);
  return (
    <div
      className="absolute top-0 cursor-col-resize touch-none"
      style={{ left, width, height }}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={() => {
        pulling.current = null;
      }}
      onPointerLeave={() => setPointed(null)}
    >
      {span !== null && (
        <div
          className="pointer-events-none absolute top-0 border-x-[1.3px] border-ink bg-ink/10"
          style={{ left: inView(span.from), width: Math.max(1, inView(span.to) - inView(span.from)), height }}
        />
      )}
      {children}
      {pointed !== null && words.length > 0 && (
        <>
          <div className="pointer-events-none absolute top-0 w-px bg-ink/40" style={{ left: pointed.x, height }} />
          <div
            role="tooltip"
            className="pointer-events-none absolute z-10 rounded-sm border border-ink bg-card px-1.5 py-0.5 text-[11px]"
            style={{
              maxWidth: LABEL_WIDTH,
              top: pointed.y + 14,
              ...(pointed.x > width - LABEL_WIDTH ? { right: width - pointed.x + 8 } : { left: pointed.x + 8 }),
            }}
          >
            <span className="font-mono">{clockTime(pointed.seconds)}</span>
            {words.map((line, index) => (
              <p key={index}>{line}</p>
            ))}
          </div>
        </>
      )}
    </div>
  );
}
