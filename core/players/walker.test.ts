import { addKind, addPlacement, newLevel, type Level, type Route } from '../level/index.ts';
import { compile } from '../session/index.ts';
import { simulate } from './simulate.ts';
import { walkRoute } from './walker.ts';

function yard(change: (level: Level) => void): Level {
  const level = newLevel({ name: 'yard', view: 'top', width: 20, height: 10, unitsPerPixel: 0.03, framesPerSecond: 60 });
  change(level);
  return structuredClone(level);
}
const through = (...places: readonly [number, number][]): Route => ({
  name: 'through',
  order: 1,
  wayPoints: places.map(([x, y]) => ({ x, y, pause: 0 })),
});

test('a walker killed on the way comes back, tries again, and gives up after three deaths', () => {
  const level = yard((draft) => addPlacement(draft, addKind(draft, 'lethal'), 10, 5));
  const { run, stuckAt } = walkRoute(compile(level), through([5, 5], [10, 5]));
  expect(stuckAt).toMatchObject({ wayPoint: 1, x: expect.closeTo(2, 1) as number });
  const { outcome } = simulate(compile(level), run);
  expect([outcome.players[0]?.deaths, outcome.perKind['kill-zone']?.uses]).toEqual([3, 3]);
});

test('a walker before a wall stops after three seconds, one with nothing in its way arrives', () => {
  const walled = yard((draft) => {
    draft.solids['wall'] = { order: 1, x: 8, y: 0, width: 1, height: 10, sides: ['top', 'bottom', 'left', 'right'] };
  });
  const { stuckAt } = walkRoute(compile(walled), through([14, 5]));
  expect([stuckAt?.wayPoint, stuckAt?.x.toFixed(2)]).toEqual([0, '7.60']);
  expect(walkRoute(compile(yard(() => undefined)), through([14, 5], [14, 8])).stuckAt).toBeNull();
});
