import { useCallback, useRef } from 'react';
import { chosenThings } from '../state/document/authoring.ts';
import { viewActions, type Selection } from '../state/slices/view.ts';
import { useAppStore } from '../state/store.ts';
import type { Pile, Pressed } from '../drawing/plan/PlanThing.tsx';

/** A press so near to the one before is in the same place. Pixels. */
const SAME_PLACE = 4;

const isChosen = (chosen: Selection, { placement, solid, spot }: Pressed): boolean =>
  (placement !== undefined && chosen.placements.includes(placement)) ||
  (solid !== undefined && chosen.solid === solid) ||
  (spot !== undefined && chosen.spot === spot);

/**
 * Presses that come again in one place. Answers what such a press does when it is let go unmoved: what is chosen makes way
 * for what lies under it, and the last for the uppermost; null for any other press.
 */
export function usePressedAgain(): (event: MouseEvent, pile: Pile) => (() => void) | null {
  const store = useAppStore();
  const last = useRef({ x: NaN, y: NaN });
  return useCallback(
    (event, pile) => {
      const { x, y } = last.current;
      last.current = { x: event.clientX, y: event.clientY };
      if (event.shiftKey || !(Math.hypot(event.clientX - x, event.clientY - y) < SAME_PLACE)) return null;
      const { selection: chosen } = store.getState().view;
      const { open } = store.getState().document;
      const all = pile();
      const at = all.findIndex((one) => isChosen(chosen, one));
      if (open === null || at < 0 || chosen.placements.length > 1) return null;
      const { placement, solid = null, spot = null } = all[(at + 1) % all.length] ?? {};
      const next = placement === undefined ? { solid, spot } : chosenThings(open.level, [placement]);
      return () => store.dispatch(viewActions.selected(next));
    },
    [store],
  );
}
