import { stuckWords } from '../../formats/index.ts';
import { addKind, addPlacement, newLevel, parseLevel, type Level, type Route } from '../../level/index.ts';
import { compile } from '../../session/index.ts';
import { routeFromRun } from './routeFromRun.ts';
import { simulate } from '../simulate.ts';
import { walkRoute } from './walker.ts';

function yard(change: (level: Level) => void): Level {
  const level = newLevel({ name: 'yard', view: 'top', width: 20, height: 10, unitsPerPixel: 0.03, framesPerSecond: 60 });
  change(level);
  return structuredClone(level);
}
const through = (...places: readonly [number, number][]): Route => ({
  name: 'through',
  order: 1,
  wayPoints: places.map(([x, y]) => ({ x, y, pause: 0, until: null })),
});

test('a walker says what stopped it: sent away, slowed for good; what ends by itself it waits for', () => {
  const base = yard((draft) => addPlacement(draft, addKind(draft, 'movement'), 10, 5));
  const kind = Object.keys(base.kinds)[0]!;
  const with1 = (effect: object, more: object = {}): Level => {
    const effects = { only: { order: 0, ...effect } };
    const rule = { ...Object.values(base.kinds[kind]!.rules)[0]!, effects, becomes: { type: 'stays' }, ...more };
    const parsed = parseLevel({ ...base, kinds: { [kind]: { ...base.kinds[kind]!, rules: { only: rule } } } });
    if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
    return parsed.value;
  };
  const walk = (document: Level) => walkRoute(compile(document), through([16, 5]));
  const stuckIn = (document: Level) => {
    const { stuckAt } = walk(document);
    return stuckAt === null ? null : [stuckAt.because, stuckAt.by, stuckWords(document, stuckAt).split(': ')[1]];
  };
  const thing = Object.keys(base.placements)[0]!;
  const name = base.kinds[kind]!.name;
  expect(stuckIn(with1({ type: 'move', to: { type: 'start' } }))).toEqual(['put elsewhere', thing, `sent away three times by ${name}`]);
  const root = { type: 'movement', of: 'control', change: 'set', value: 0, again: 'refresh', most: 1 };
  expect(stuckIn(with1({ ...root, lasts: { type: 'until death' } }))).toEqual(['slowed', thing, `slowed by ${name}`]);
  // Rooted for eight seconds, longer than a walker waits that merely comes no nearer.
  const rooted = walk(with1({ ...root, lasts: { type: 'for', seconds: 8 } }));
  expect([rooted.stuckAt, rooted.run.steps / 60 > 10]).toEqual([null, true]);
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

test('a walker waits at a way-point until a thing is ready, or a meter is high enough, but not for ever', () => {
  const pads = yard((draft) => {
    addPlacement(draft, addKind(draft, 'mend'), 10, 5);
    draft.meters['health']!.start = 50;
  });
  const waiting = (until: Route['wayPoints'][number]['until']): Route => {
    const route = through([10, 5], [14, 5]);
    return { ...route, wayPoints: route.wayPoints.map((point, index) => (index === 0 ? { ...point, until } : point)) };
  };
  const seconds = (route: Route): number => walkRoute(compile(pads), route).run.steps / 60;
  const plain = seconds(waiting(null));
  // The pad heals when the walker comes, and is ready again after six seconds.
  expect(seconds(waiting({ type: 'ready', kind: 'healing-pad' })) - plain).toBeCloseTo(6, 0);
  expect(seconds(waiting({ type: 'meter', meter: 'health', is: 'at least', value: 70 })) - plain).toBeLessThan(0.5);
  expect(seconds(waiting({ type: 'meter', meter: 'score', is: 'at least', value: 1 })) - plain).toBeCloseTo(60, 0);
});

test('a route made from a run goes where the run went, and pauses where it stood', () => {
  const level = yard(() => undefined);
  const first = through([14, 5], [14, 8], [6, 8]);
  first.wayPoints[1]!.pause = 2;
  const recording = simulate(compile(level), walkRoute(compile(level), first).run);
  const wayPoints = routeFromRun(recording, 60);
  expect(wayPoints.length).toBeLessThan(10);
  expect(wayPoints.filter(({ pause }) => pause > 1)).toEqual([expect.objectContaining({ pause: expect.closeTo(2, 0) as number })]);
  const again = simulate(compile(level), walkRoute(compile(level), { name: 'again', wayPoints }).run);
  expect(again.x.at(-1)).toBeCloseTo(recording.x.at(-1) ?? 0, 0);
  expect(again.y.at(-1)).toBeCloseTo(recording.y.at(-1) ?? 0, 0);
  expect(again.outcome.players[0]!.distance).toBeCloseTo(recording.outcome.players[0]!.distance, -1);
});
