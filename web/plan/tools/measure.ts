import { follow } from './planPointer.ts';
import { snappedSpot, type Tool } from './tool.ts';

export const measureTool: Tool = {
  name: 'Measure',
  keys: 'M',
  says: 'Drag a line: how long it is, and how long it takes to walk',
  /** The line stays until the next press. */
  press(hand, { event }) {
    const from = snappedSpot(hand, event);
    hand.setMeasured(null);
    follow(
      event,
      (to) => hand.setMeasured({ from, to: snappedSpot(hand, to) }),
      () => undefined,
      () => hand.setMeasured(null),
    );
  },
};
