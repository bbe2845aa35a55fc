import type { Level } from '@dial/core/level';
import type { KeyboardEvent } from 'react';
import { moveSelection } from '../state/document/authoring.ts';
import type { PlanTool, Selection } from '../state/slices/view.ts';
import { SNAP, snapped } from './tools/planPointer.ts';
import type { Hand } from './tools/tool.ts';
import { TOOLS, wayOf } from './tools/tools.ts';
import { wayKey } from './tools/way.ts';
import type { PlanViewing } from './usePlanView.ts';

const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** Moves what is chosen by an arrow key: a snap, with Shift a unit, with Alt finely. */
function moveByKey(hand: Hand, event: KeyboardEvent, { placements, solid, spot }: Selection): void {
  const way = ARROWS[event.key];
  if (way === undefined || (placements.length === 0 && solid === null && spot === null)) return;
  event.preventDefault();
  const by = event.shiftKey ? 1 : event.altKey ? 0.05 : SNAP;
  moveSelection(hand.store, way[0] * by, way[1] * by);
}

/** A key while the Plan has the focus. */
export function planKey(hand: Hand, viewing: PlanViewing, tool: PlanTool, level: Level, chosen: Selection, event: KeyboardEvent): void {
  const map = wayOf(tool);
  if (map !== null && wayKey(hand, map, event)) {
    event.preventDefault();
    event.stopPropagation();
    return;
  }
  if (event.key === '0') viewing.fit();
  if (event.key === '+' || event.key === '=') viewing.step(1);
  if (event.key === '-') viewing.step(-1);
  if (event.key === 'Enter') {
    const middle = { x: snapped(level.size.width / 2, false), y: snapped(level.size.height / 2, false) };
    TOOLS[tool].enter?.(hand, middle, level, chosen);
  }
  moveByKey(hand, event, chosen);
}
