import { level, vent } from '../../../core/testing/levels.ts';
import { fitPlan } from './planScale.ts';
import { placeNames, takenOn, type Box } from './pointNames.ts';

const crowded = level({
  kinds: { vent },
  placements: { vent: { kind: 'vent', x: 20, y: 9 } },
  points: {
    edge: { name: 'by the kiln door', x: 59.5, y: 9 },
    corner: { name: 'corner', x: 0.2, y: 0.2 },
    beside: { name: 'beside the corner', x: 0.9, y: 0.4 },
    inside: { name: 'in the vent', x: 20, y: 9 },
  },
});
const scale = fitPlan(crowded.size.width, crowded.size.height, 800, 400);
const overlap = (a: Box, b: Box) => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;

test('names of points keep within the level, off each other and off things', () => {
  const names = [...placeNames(crowded, scale).values()];
  expect(names).toHaveLength(4);
  for (const [index, box] of names.entries()) {
    expect(box.left).toBeGreaterThanOrEqual(scale.x(0));
    expect(box.right).toBeLessThanOrEqual(scale.x(crowded.size.width));
    expect(box.bottom).toBeLessThanOrEqual(scale.y(0));
    expect([...names.slice(index + 1), ...takenOn(crowded, scale)].filter((other) => overlap(box, other))).toEqual([]);
  }
});
