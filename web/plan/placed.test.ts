import { addKind, addPlacement, newLevel } from '@dial/core/level';
import { isChosen, placedOn } from './placed.ts';
import { measuredWords } from './PlanOverlay.tsx';

test('the list beside the Plan has everything that is on it, by the names it has everywhere', () => {
  const level = newLevel({ name: 'yard', view: 'top', width: 20, height: 10, unitsPerPixel: 0.05, framesPerSecond: 60 });
  const kind = addKind(level, 'mend');
  addPlacement(level, kind, 4, 4);
  addPlacement(level, kind, 6.25, 4);
  const wayPoints = [{ x: 1, y: 2, pause: 0 }, { x: 3, y: 2, pause: 0 }]; // prettier-ignore
  level.paths['rail'] = { name: 'rail', order: 1, speed: 1, round: 'loop', wayPoints };
  level.placements['healing-pad-2']!.travel = { path: 'rail', startOffset: 0 };
  level.solids['wall'] = { order: 1, x: 0, y: 0, width: 1, height: 1, sides: ['top'] };
  level.points['gate'] = { name: 'gate', order: 1, x: 9, y: 9 };
  const placed = placedOn(structuredClone(level));
  expect(placed.map(({ name, where }) => `${name}: ${where}`)).toEqual([
    'healing pad 1: 4, 4',
    'healing pad 2: on rail',
    'one-way platform 1: 0, 0',
    `start: ${String(level.start.x)}, ${String(level.start.y)}`,
    'gate: 9, 9',
    'rail: 1, 2',
  ]);
  const nothing = { kind: null, placements: [], solid: null, spot: null };
  const chosen = (selection: object) => placed.filter((one) => isChosen(one, { ...nothing, ...selection })).map(({ name }) => name);
  expect(chosen({ placements: ['healing-pad-2'] })).toEqual(['healing pad 2']);
  expect([chosen({ solid: 'wall' }), chosen({ spot: '/paths/rail/wayPoints/1' }), chosen({ spot: '/start' })]).toEqual([['one-way platform 1'], ['rail'], ['start']]); // prettier-ignore
});

test('a measured line says its length, its way, its angle and how long it takes to walk', () => {
  const line = { from: { x: 5, y: 5 }, to: { x: 2, y: 1 } };
  expect(measuredWords(line, 2.5)).toBe('5 u · 3 left, 4 down · −127° · 2 s at walk speed');
  expect(measuredWords(line, 0)).not.toContain('walk');
});
