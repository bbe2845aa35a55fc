import { addPoint } from '../../state/document/spots.ts';
import { snappedSpot, type Tool } from './tool.ts';

export const pointTool: Tool = {
  name: 'Point',
  keys: 'O',
  says: 'Press on the Plan to place a point: for returns, checkpoints and goals',
  press: (hand, { event }) => addPoint(hand.store, snappedSpot(hand, event)),
  enter: ({ store }, middle) => addPoint(store, middle),
};
