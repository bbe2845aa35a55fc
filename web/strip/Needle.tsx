import { clockTime } from '@dial/core/formats';
import type { KeyboardEvent } from 'react';
import { playbackActions } from '../state/slices/playback.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';
import type { Viewing } from './timeView.ts';

interface NeedleProps {
  readonly viewing: Viewing;
  readonly width: number;
  readonly height: number;
  readonly rate: number;
}

const NEARER = 0.7;

/** The needle, moved by keys on its own handle; the surface beneath moves it by pointer. */
export function Needle({ viewing, width, height, rate }: NeedleProps) {
  const dispatch = useAppDispatch();
  const step = useAppSelector((state) => state.playback.needleStep);
  const steps = useAppSelector((state) => state.playback.steps);
  const { view } = viewing;
  const seconds = step / rate;
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
    const zooms: Record<string, () => void> = {
      '+': () => viewing.zoom(NEARER, seconds),
      '=': () => viewing.zoom(NEARER, seconds),
      '-': () => viewing.zoom(1 / NEARER, seconds),
      '0': viewing.fit,
    };
    const next = moves[event.key];
    const zoom = zooms[event.key];
    if ((next === undefined && zoom === undefined) || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    zoom?.();
    if (next === undefined) return;
    dispatch(playbackActions.playingChanged(false));
    dispatch(playbackActions.needleMoved(next));
  };
  const x = ((seconds - view.from) / (view.to - view.from)) * width;
  const outside = x < -1 || x > width + 1;
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label="Needle"
      aria-valuemin={0}
      aria-valuemax={Number((steps / rate).toFixed(2))}
      aria-valuenow={Number(seconds.toFixed(2))}
      aria-valuetext={clockTime(seconds)}
      className={`group absolute top-0 h-3 w-3 -translate-x-1/2 outline-none ${outside ? 'opacity-0' : ''}`}
      style={{ left: Math.max(0, Math.min(width, x)) }}
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
      <div className="pointer-events-none absolute top-0 left-1/2 w-[1.8px] -translate-x-1/2 bg-needle" style={{ height }} />
    </div>
  );
}
