import { useCallback, useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { fitPlan, WHOLE, zoomed, type PlanScale, type PlanView } from '../drawing/plan/planScale.ts';
import { follow } from './tools/planPointer.ts';

/** What is drawn is shifted and stretched while the view changes, and drawn anew once it has come to rest. */
const SETTLE_MILLISECONDS = 140;
const WHEEL = 0.0015;
const KEY_ZOOM = 1.25;
/** Room around the level, so that one can begin at its edge. Pixels. */
const ROOM = 18;

interface Surface {
  readonly levelWidth: number;
  readonly levelHeight: number;
  readonly width: number;
  readonly height: number;
}

export interface PlanViewing {
  readonly scale: PlanScale;
  /** CSS transform of the drawing while the view is changing. */
  readonly transform: string | undefined;
  readonly fit: () => void;
  /** Nearer (1) or further (−1), about the middle. */
  readonly step: (way: 1 | -1) => void;
  /** Shifts the view with the pointer until the button is let go. */
  readonly pan: (event: MouseEvent) => void;
}

/** The view of the Plan: zoomed by the wheel about the pointer, shifted by dragging. */
export function usePlanView(frame: RefObject<HTMLElement | null>, { levelWidth, levelHeight, width, height }: Surface): PlanViewing {
  const [drawn, setDrawn] = useState<PlanView>(WHOLE);
  const [wanted, setWanted] = useState<PlanView>(WHOLE);
  const newest = useRef<PlanView>(WHOLE);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const go = useCallback((view: PlanView): void => {
    newest.current = view;
    setWanted(view);
    clearTimeout(timer.current);
    timer.current = setTimeout(() => setDrawn(newest.current), SETTLE_MILLISECONDS);
  }, []);
  useEffect(() => () => clearTimeout(timer.current), []);

  useEffect(() => {
    const element = frame.current;
    if (element === null) return;
    const onWheel = (event: WheelEvent): void => {
      event.preventDefault();
      const box = element.getBoundingClientRect();
      const [x, y] = [event.clientX - box.left - box.width / 2, event.clientY - box.top - box.height / 2];
      go(zoomed(newest.current, Math.exp(-event.deltaY * WHEEL), x, y));
    };
    // React's own wheel listener is passive, and the page would scroll.
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [frame, go]);

  const scale = useMemo(
    () => fitPlan(levelWidth, levelHeight, width, height, drawn, ROOM),
    [levelWidth, levelHeight, width, height, drawn],
  );
  const next = fitPlan(levelWidth, levelHeight, width, height, wanted, ROOM);
  const stretch = next.pixelsPerUnit / scale.pixelsPerUnit;
  const shiftX = next.x(0) - scale.x(0) * stretch;
  const shiftY = next.y(0) - scale.y(0) * stretch;
  return {
    scale,
    transform: wanted === drawn ? undefined : `translate(${String(shiftX)}px, ${String(shiftY)}px) scale(${String(stretch)})`,
    fit: useCallback(() => go(WHOLE), [go]),
    step: useCallback((way) => go(zoomed(newest.current, way > 0 ? KEY_ZOOM : 1 / KEY_ZOOM, 0, 0)), [go]),
    pan: useCallback(
      (event) => {
        const from = newest.current;
        const shifted = (to: PointerEvent): void =>
          go({ ...from, x: from.x + to.clientX - event.clientX, y: from.y + to.clientY - event.clientY });
        follow(
          event,
          shifted,
          () => undefined,
          () => go(from),
        );
      },
      [go],
    ),
  };
}
