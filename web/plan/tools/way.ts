import { addWay, type Ways } from '../../state/document/spots.ts';
import { viewActions } from '../../state/slices/view.ts';
import { snappedSpot, type Hand, type Hinted, type Tool } from './tool.ts';

const LEAST: Readonly<Record<Ways, number>> = { paths: 2, routes: 1 };

/** The path or route that is being drawn is done; with too few way-points it is dropped. */
export function finishWay({ store, way, setWay }: Hand, map: Ways): void {
  setWay([]);
  if (way.length < LEAST[map]) return;
  addWay(store, map, way);
  store.dispatch(viewActions.toolChosen('select'));
}

/** A key while a way is being drawn; answers whether it was for the way. */
export function wayKey(hand: Hand, map: Ways, { key, ctrlKey, metaKey }: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey'>): boolean {
  const { way, setWay } = hand;
  if (way.length === 0) return false;
  if (key === 'Enter') finishWay(hand, map);
  else if (key === 'Escape') setWay([]);
  // What is being drawn is taken back first, point by point; only then what was done before.
  else if (key === 'Backspace' || (key.toLowerCase() === 'z' && (ctrlKey || metaKey))) setWay(way.slice(0, -1));
  else return false;
  return true;
}

const wayTool = (map: Ways, about: Pick<Tool, 'name' | 'keys' | 'says'>, first: (asked: Hinted) => string): Tool => ({
  ...about,
  press(hand, { event }) {
    const spot = snappedSpot(hand, event);
    // The second press of a double one ends the way where it is.
    if (event.detail <= 1) hand.setWay((before) => [...before, spot]);
  },
  enter({ store }, { x, y }) {
    addWay(store, map, [
      { x: x - 2, y },
      { x: x + 2, y },
    ]);
  },
  hint: (asked) => (asked.drawn > 0 ? `${String(asked.drawn)} way-points; Enter or a double-click ends it, Esc drops it` : first(asked)),
});

export const pathTool = wayTool(
  'paths',
  { name: 'Path', keys: 'A', says: 'Press for each way-point; the chosen things follow the path' },
  ({ chosen }) =>
    chosen === 0
      ? 'Press for each way-point; choose things first to have them follow it'
      : `Press for each way-point that ${chosen === 1 ? 'the chosen thing follows' : 'the chosen things follow'}`,
);
export const routeTool = wayTool(
  'routes',
  { name: 'Route', keys: 'R', says: 'Press for each way-point; the plain walker follows the route, and its run is shown' },
  () => 'Press for each way-point of the walker',
);
