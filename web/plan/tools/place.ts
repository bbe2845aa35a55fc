import { placeThing } from '../../state/document/authoring.ts';
import { documentActions } from '../../state/slices/document.ts';
import type { PlanSpot } from '../../state/document/spots.ts';
import { areaSpots, evenArea, evenRow, previewStamps, rowSpots, stamp } from '../../state/document/stamping.ts';
import { boxBetween, follow } from './planPointer.ts';
import { snappedSpot, type Hand, type Tool } from './tool.ts';

/** Places one thing; drawn out, a row of them, or with Shift an area full. */
function paint(hand: Hand, event: MouseEvent, kind: string): void {
  const { store, gap, count } = hand;
  const from = snappedSpot(hand, event);
  const spots = (to: MouseEvent): PlanSpot[] => {
    const end = snappedSpot(hand, to);
    if (to.shiftKey) return count === null ? areaSpots(boxBetween(from, end), gap) : evenArea(boxBetween(from, end), count);
    return count === null ? rowSpots(from, end, gap) : evenRow(from, end, count);
  };
  follow(
    event,
    (to) => previewStamps(store, kind, spots(to)),
    (to, moved) => {
      if (moved) stamp(store, kind, spots(to));
      else placeThing(store, kind, from.x, from.y);
    },
    () => store.dispatch(documentActions.turned(null)),
  );
}

export const placeTool: Tool = {
  name: 'Place',
  keys: 'B',
  says: 'Press on the Plan to place things of the chosen kind; drag for a row of them, with Shift for an area',
  press(hand, { event, chosen }) {
    if (chosen.kind !== null) paint(hand, event, chosen.kind);
  },
  enter({ store, count, gap }, { x, y }, level, { kind }) {
    if (kind === null) return;
    if (count === null) {
      placeThing(store, kind, x, y);
      return;
    }
    const reach = Math.min(((count - 1) * gap) / 2, level.size.width / 2 - 1);
    stamp(store, kind, evenRow({ x: x - reach, y }, { x: x + reach, y }, count));
  },
  hint: ({ name }) =>
    name === undefined ? 'Choose a kind in the Tray first' : `Press to place: ${name}; drag for a row, with Shift for an area`,
};
