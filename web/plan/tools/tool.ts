import type { Level } from '@dial/core/level';
import type { SetStateAction } from 'react';
import type { PlanBox } from '../../state/document/authoring.ts';
import type { PlanSpot } from '../../state/document/spots.ts';
import type { Selection } from '../../state/slices/view.ts';
import type { AppStore } from '../../state/store.ts';
import type { PlanScale } from '../../drawing/plan/planScale.ts';
import type { Pile, Pressed } from '../../drawing/plan/PlanThing.tsx';
import { boxBetween, follow, placeOf, snapped } from './planPointer.ts';

/** A line that was measured. */
export interface Measured {
  readonly from: PlanSpot;
  readonly to: PlanSpot;
}

/** What the hand with the tool has before it: the Plan as it is shown, and what is being drawn on it. */
export interface Hand {
  readonly store: AppStore;
  readonly frame: HTMLElement | null;
  readonly scale: PlanScale;
  readonly hiddenThings: ReadonlySet<string>;
  /** How far apart things are stamped, and how many; null for as many as fit. Units. */
  readonly gap: number;
  readonly count: number | null;
  /** The path or route that is being drawn. */
  readonly way: readonly PlanSpot[];
  readonly setWay: (way: SetStateAction<readonly PlanSpot[]>) => void;
  readonly setBand: (band: PlanBox | null) => void;
  readonly setMeasured: (measured: Measured | null) => void;
  readonly setDragged: (placements: readonly string[]) => void;
  readonly pressedAgain: (event: MouseEvent, pile: Pile) => (() => void) | null;
}

/** A press of the first button: on what, with what under it, in which level. */
export interface Press {
  readonly event: MouseEvent;
  readonly on: Pressed;
  readonly pile: Pile;
  readonly level: Level;
  readonly chosen: Selection;
}

/** What to do next depends on these. */
export interface Hinted {
  /** The name of the chosen kind. */
  readonly name: string | undefined;
  /** How many things are chosen, and how many way-points drawn so far. */
  readonly chosen: number;
  readonly drawn: number;
}

/** One tool of the Plan. */
export interface Tool {
  readonly name: string;
  readonly keys: string;
  readonly says: string;
  readonly press: (hand: Hand, press: Press) => void;
  /** Enter, while the Plan has the focus: what the tool makes begins in the middle, and is moved from there by the arrows. */
  readonly enter?: (hand: Hand, middle: PlanSpot, level: Level, chosen: Selection) => void;
  /** What to do next with the tool in hand; `says` where it is always the same. */
  readonly hint?: (asked: Hinted) => string;
}

export const spotOf = (hand: Hand, event: { clientX: number; clientY: number }): PlanSpot => placeOf(hand.frame, hand.scale, event);

export function snappedSpot(hand: Hand, event: { clientX: number; clientY: number; altKey: boolean }): PlanSpot {
  const { x, y } = spotOf(hand, event);
  return { x: snapped(x, event.altKey), y: snapped(y, event.altKey) };
}

/** Draws a box with the pointer, and does something with it; null: the press did not move. */
export function drawBox(hand: Hand, event: MouseEvent, corner: typeof snappedSpot, done: (box: PlanBox | null) => void): void {
  const from = corner(hand, event);
  follow(
    event,
    (to) => hand.setBand(boxBetween(from, corner(hand, to))),
    (to, moved) => {
      hand.setBand(null);
      done(moved ? boxBetween(from, corner(hand, to)) : null);
    },
    () => hand.setBand(null),
  );
}
