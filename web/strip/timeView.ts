import { useCallback, useEffect, useState, type RefObject } from 'react';
import type { TimeView } from '../drawing/lanes/laneDrawing.ts';

/** Zoomed in as far as it goes, so many steps are in view. */
const LEAST_STEPS = 12;
const WHEEL_ZOOM = 1.0016;

/** A stretch of time within a session, no shorter than can be looked at, kept inside it. */
export function clampView({ from, to }: TimeView, duration: number, least: number): TimeView {
  const span = Math.min(duration, Math.max(least, to - from));
  const begin = Math.max(0, Math.min(duration - span, from));
  return { from: begin, to: begin + span };
}

/** The view zoomed by a factor about a moment, which stays where it is on the screen. */
export function zoomed({ from, to }: TimeView, about: number, factor: number): TimeView {
  return { from: about - (about - from) * factor, to: about + (to - about) * factor };
}

/** Which stretch of a session is in view, and the ways to change it. */
export interface Viewing {
  readonly view: TimeView;
  readonly whole: boolean;
  readonly zoom: (factor: number, about: number) => void;
  readonly shift: (seconds: number) => void;
  readonly show: (view: TimeView) => void;
  readonly fit: () => void;
}

/** Zooms with Ctrl and the wheel about the pointer, shifts with Shift and the wheel or a sideways wheel. The whole run is in view until it is changed. */
export function useTimeView(
  surface: RefObject<HTMLElement | null>,
  { duration, rate, left, width }: { readonly duration: number; readonly rate: number; readonly left: number; readonly width: number },
): Viewing {
  const [wanted, setWanted] = useState<TimeView | null>(null);
  const least = LEAST_STEPS / rate;
  const view = clampView(wanted ?? { from: 0, to: duration }, duration, least);
  const change = useCallback(
    (next: (now: TimeView) => TimeView) => {
      setWanted((now) => {
        const made = clampView(next(clampView(now ?? { from: 0, to: duration }, duration, least)), duration, least);
        return made.to - made.from >= duration ? null : made;
      });
    },
    [duration, least],
  );
  useEffect(() => {
    const element = surface.current;
    if (element === null) return;
    const onWheel = (event: WheelEvent): void => {
      const sideways = event.shiftKey ? event.deltaY + event.deltaX : event.deltaX;
      if (event.ctrlKey || event.metaKey) {
        const share = (event.clientX - element.getBoundingClientRect().left - left) / width;
        const factor = WHEEL_ZOOM ** event.deltaY;
        change((now) => zoomed(now, now.from + Math.max(0, Math.min(1, share)) * (now.to - now.from), factor));
      } else if (sideways !== 0) change((now) => shifted(now, (sideways / width) * (now.to - now.from)));
      else return;
      event.preventDefault();
    };
    // React listens to wheels without leave to keep the page from scrolling.
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [surface, change, left, width]);
  return {
    view,
    whole: wanted === null,
    zoom: (factor, about) => change((now) => zoomed(now, about, factor)),
    shift: (seconds) => change((now) => shifted(now, seconds)),
    show: (next) => change(() => next),
    fit: () => setWanted(null),
  };
}

const shifted = ({ from, to }: TimeView, by: number): TimeView => ({ from: from + by, to: to + by });
