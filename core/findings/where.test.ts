import { box, circle, kind, level, vent } from '../testing/levels.ts';
import { bodyAt, holds, landings, meets, touchesAt, wallsFor } from './where.ts';
import { viewOf } from './view.ts';

type Parts = Record<string, unknown>;

const thingOf = (shapes: Parts, view: 'top' | 'side' = 'top') => {
  const document = level({
    view,
    kinds: { thing: kind(shapes, { setOffBy: { type: 'arriving' } }) },
    placements: { one: { kind: 'thing', x: 10, y: 10 } },
  });
  return { document, thing: viewOf(document).things[0]! };
};

/** A corner at its place, a unit to the right and a unit up. */
const WEDGE = {
  body: {
    type: 'polygon',
    points: [
      [-1, -1],
      [1, -1],
      [-1, 1],
    ],
  },
};

test.each([
  // The body is half a unit around: seen from above it touches within half a unit more.
  ['a circle', circle(1), 'top', 11.4, 10, true],
  ['a circle, just', circle(1), 'top', 11.5, 10, true],
  ['beside a circle', circle(1), 'top', 11.51, 10, false],
  ['a box', box(4, 2), 'top', 12.4, 10, true],
  ['a box, just', box(4, 2), 'top', 10, 11.5, true],
  ['beside a box', box(4, 2), 'top', 10, 11.51, false],
  ['off the corner of a box', box(2, 2), 'top', 11.4, 11.4, false],
  ['a wedge', WEDGE, 'top', 10.9, 9.1, true],
  ['beyond the slant of a wedge', WEDGE, 'top', 10.9, 10.9, false],
  ['a box on end', { body: { type: 'box', width: 4, height: 1, rotation: 90 } }, 'top', 10, 12.4, true],
  ['beside a box on end', { body: { type: 'box', width: 4, height: 1, rotation: 90 } }, 'top', 12, 10, false],
  // From the side it is 0.7 wide and 1.3 high.
  ['a box from the side', box(2, 2), 'side', 11.3, 11.6, true],
  ['over a box from the side', box(2, 2), 'side', 10, 11.7, false],
] as const)('a body at a place touches %s, or does not', (_, shapes, view, x, y, touches) => {
  const { document, thing } = thingOf(shapes, view);
  expect(touchesAt(document, thing, x, y)).toBe(touches);
});

test('walls are as much larger as the body reaches; one that can be stood on from above only is none', () => {
  const document = level({
    solids: { wall: { x: 10, y: 4, width: 2, height: 6 }, ledge: { x: 20, y: 4, width: 2, height: 1, sides: ['top'] } },
  });
  expect(wallsFor(document)).toEqual([{ id: 'wall', box: { left: 9.5, right: 12.5, bottom: 3.5, top: 10.5 } }]);
  const [{ box: wall }] = wallsFor(document) as [ReturnType<typeof wallsFor>[number]];
  expect([holds(wall, 9.6, 7), holds(wall, 9.5, 7)]).toEqual([true, false]);
  expect([meets(bodyAt(document, 9.4, 7), wall), meets(bodyAt(document, 8.9, 7), wall)]).toEqual([true, false]);
});

test('players are put where they start, where they come back, at checkpoints and where rules put them', () => {
  const zone = kind(box(2, 2), {
    setOffBy: { type: 'arriving' },
    effects: { kill: { type: 'kill', returnTo: { type: 'nearest', points: ['a', 'b'] } } },
  });
  const door = kind(box(2, 2), { setOffBy: { type: 'arriving' }, effects: { go: { type: 'move', to: { type: 'point', point: 'c' } } } });
  const bell = kind(circle(1), { setOffBy: { type: 'arriving' }, effects: { here: { type: 'checkpoint', point: null } } });
  const parts = {
    kinds: { zone, door, bell, vent },
    placements: { zone: { kind: 'zone', x: 20, y: 5 }, door: { kind: 'door', x: 30, y: 5 }, bell: { kind: 'bell', x: 40, y: 5 } },
    points: Object.fromEntries(['a', 'b', 'c', 'd'].map((id, at) => [id, { name: id, order: at, x: 5 + at, y: 15 }])),
  };
  const told = (document: ReturnType<typeof level>) => landings(viewOf(document)).map(({ at, returns }) => [at, returns]);
  expect(told(level({ ...parts, death: { returns: 'always' } }))).toEqual([
    ['/start', true],
    ['/points/a', true],
    ['/points/b', true],
    ['/points/c', false],
    ['/placements/bell', true],
  ]);
  // Where nobody comes back, zones and bells lead nowhere; two who start at points do not start elsewhere.
  const pair = { players: { count: 2, starts: ['c', 'd'] } };
  expect(told(level({ ...parts, ...pair }))).toEqual([
    ['/points/c', false],
    ['/points/d', false],
  ]);
});
