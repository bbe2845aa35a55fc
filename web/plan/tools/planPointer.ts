import { onGrain } from '@dial/core/level';
import type { PlanBox } from '../../state/document/authoring.ts';
import type { PlanSpot } from '../../state/document/spots.ts';
import { hold } from '../../controls/keyboard.ts';
import type { PlanScale } from '../../drawing/plan/planScale.ts';

/** Places snap to this, unless Alt is held. Units. */
export const SNAP = 0.25;
/** A press that moves less than this is a click. Pixels. */
const STILL = 3;

export const snapped = (value: number, freely: boolean): number => {
  const grain = freely ? 0.01 : SNAP;
  return onGrain(value, grain);
};

/** The place of a pointer on the level. */
export function placeOf(frame: HTMLElement | null, scale: PlanScale, event: { clientX: number; clientY: number }): PlanSpot {
  const box = frame?.getBoundingClientRect();
  const [left, top] = [scale.x(0), scale.y(0)];
  return {
    x: (event.clientX - (box?.left ?? 0) - left) / scale.pixelsPerUnit,
    y: (top - (event.clientY - (box?.top ?? 0))) / scale.pixelsPerUnit,
  };
}

export function boxBetween(a: PlanSpot, b: PlanSpot): PlanBox {
  return { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y), width: Math.abs(a.x - b.x), height: Math.abs(a.y - b.y) };
}

/** Follows a press until the button is let go. `move` is told the way since, `end` whether it was one at all; `back` that it does not count. */
export function follow(
  start: { clientX: number; clientY: number },
  move: (event: PointerEvent) => void,
  end: (event: PointerEvent, moved: boolean) => void,
  back: () => void,
): void {
  let moved = false;
  const done = (): void => {
    removeEventListener('pointermove', onMove);
    removeEventListener('pointerup', onUp);
  };
  const release = hold(() => {
    done();
    back();
  });
  const onMove = (event: PointerEvent): void => {
    moved ||= Math.hypot(event.clientX - start.clientX, event.clientY - start.clientY) > STILL;
    if (moved) move(event);
  };
  const onUp = (event: PointerEvent): void => {
    done();
    release();
    end(event, moved);
  };
  addEventListener('pointermove', onMove);
  addEventListener('pointerup', onUp);
}
