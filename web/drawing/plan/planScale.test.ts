import { fitPlan, WHOLE, zoomed } from './planScale.ts';

test('zooming keeps the place under the pointer where it is, and can be taken back', () => {
  const surface = [40, 18, 900, 400] as const;
  const before = fitPlan(...surface, WHOLE);
  // The place drawn at (600, 100) of the surface, whose middle is (450, 200).
  const place = { x: (600 - before.x(0)) / before.pixelsPerUnit, y: (before.y(0) - 100) / before.pixelsPerUnit };
  const view = zoomed(zoomed(WHOLE, 3, 150, -100), 1.5, 150, -100);
  const after = fitPlan(...surface, view);
  expect([after.x(place.x).toFixed(6), after.y(place.y).toFixed(6)]).toEqual(['600.000000', '100.000000']);
  expect(after.pixelsPerUnit / before.pixelsPerUnit).toBeCloseTo(4.5);
  expect(zoomed(WHOLE, 1000, 0, 0).zoom).toBe(40);
});
