import fc from 'fast-check';
import type { Level } from '../level/index.ts';
import { outcomeOfRun, sessionAt, simulate } from '../players/index.ts';
import { box, circle, kind, level, meterEffect, runOf } from '../testing/levels.ts';
import { runs } from '../testing/runs.ts';
import { stepped } from '../testing/stepping.ts';
import { compile, snapshot } from './index.ts';

const arriving = (effects: object, becomes: object): Record<string, unknown> => ({ setOffBy: { type: 'arriving' }, effects, becomes });
const SPEED = [
  [0, 2],
  [0.5, 9],
];

/**
 * A level in which 60 carts, 60 wanderers and 60 magnets are among still things, solids and four players, and things taken bring
 * more; also gates that open and close, magnets that drift, things that swing round, some that are put elsewhere, and solid carts.
 */
function crowdedLevel(seed: number): Level {
  let drawn = seed + 1;
  const number = (below: number): number => {
    drawn = (drawn * 48271) % 2147483647;
    return Math.round((drawn / 2147483647) * below * 4) / 4;
  };
  const many = (count: number, name: string, of: string, more: (k: number) => object = () => ({})) =>
    Array.from({ length: count }, (_, k) => [`${name}${String(k)}`, { kind: of, x: 2 + number(96), y: 2 + number(56), ...more(k) }]);
  const harm = arriving(meterEffect('health', 'take', 1), { type: 'stays' });
  const scores = arriving(meterEffect('score', 'add', 1), { type: 'rests', seconds: 1.5 });
  const placements = Object.fromEntries([
    ...many(40, 's', 'still'),
    ...many(12, 'b', 'bringing'),
    ...many(60, 'c', 'cart', (k) => ({ travel: { path: `p${String(k)}` } })),
    ...many(60, 'w', 'wanderer'),
    ...many(60, 'm', 'magnet'),
    ...many(10, 'g', 'gate'),
    ...many(10, 'l', 'lure'),
    ...many(6, 'a', 'arm'),
    ...many(20, 't', 'tile'),
  ]) as object;
  const paths = Object.fromEntries(
    Array.from({ length: 60 }, (_, k) => {
      const [x, y] = [4 + number(70), 2 + number(56)];
      const wayPoints = [
        { x, y },
        { x: x + 4 + number(18), y: Math.min(58, y + number(6)) },
      ];
      return [`p${String(k)}`, { name: `p${String(k)}`, speed: 1 + number(4), round: k % 3 === 0 ? 'loop' : 'back and forth', wayPoints }];
    }),
  );
  const magnet = { reach: 4, giveUp: 6, latched: seed % 2 === 0, then: 'goes home', speed: SPEED };
  const swing = {
    setOffBy: { type: 'arriving' },
    effects: meterEffect('health', 'take', 1),
    windUp: { seconds: 0.7, turn: { x: 1, y: 0, degrees: 90 } },
  };
  const spawn = { type: 'spawn', pool: { wanderer: 1, magnet: 1 }, at: { type: 'here' }, most: 20 };
  return level({
    size: { width: 100, height: 60 },
    kinds: {
      still: kind(circle(0.6), scores),
      bringing: kind(circle(0.8), arriving({ more: spawn }, { type: 'rests', seconds: 1 })),
      cart: kind(box(1.6, 0.9), harm, { role: 'harm', tags: ['rover'], solid: seed % 5 === 0 ? { width: 1.5, height: 0.8 } : null }),
      gate: kind(box(3, 1), harm, { solid: { width: 3, height: 1 }, cycle: { on: 0.8, off: 0.6, offset: 0.2 } }),
      lure: kind(circle(0.4), scores, { magnet, drift: { speed: 2 } }),
      arm: kind(box(4, 0.5), swing),
      tile: kind(circle(0.8), arriving(meterEffect('score', 'add', 1), { type: 'moves', distance: 15 })),
      wanderer: kind(circle(0.5), harm, { role: 'harm', tags: ['rover'], drift: { speed: 3 } }),
      magnet: kind(circle(0.4), scores, { magnet }),
    },
    placements,
    paths,
    solids: Object.fromEntries(
      Array.from({ length: 12 }, (_, k) => [
        `w${String(k)}`,
        { x: 4 + number(90), y: 4 + number(50), width: 1 + number(4), height: 1 + number(4) },
      ]),
    ),
    players: { count: 4 },
    meters: {
      health: { name: 'health', lower: 0, upper: 500, start: 500 },
      score: { name: 'score', lower: 0, upper: null, start: 0, whole: true },
    },
  });
}

const ways = fc.array(
  fc.tuple(fc.integer({ min: 20, max: 90 }), fc.integer({ min: -127, max: 127 }), fc.integer({ min: -127, max: 127 })),
  {
    minLength: 4,
    maxLength: 8,
  },
);

test('among 200 things that travel, and those they bring, the shortcuts change nothing, and a snapshot goes on as the whole', () => {
  fc.assert(
    fc.property(fc.nat(1e6), fc.tuple(ways, ways, ways, ways), (seed, players) => {
      const changes = players.map((list) => {
        let at = 1;
        return list.map(([length, x, y]): [number, number, number, number, number] => {
          const from = at;
          at += length;
          return [from, x, y, 0, 0];
        });
      });
      const run = runOf(60, 180, changes, { seed: seed % 1000 });
      const compiled = compile(crowdedLevel(seed));
      const fast = stepped(compiled, run);
      expect(fast.lines.length).toBeGreaterThan(30);
      expect(fast).toEqual(stepped(compiled, run, { exhaustive: true }));
      const half = sessionAt(compiled, run, simulate(compiled, run), 97);
      expect(stepped(compiled, run, { from: snapshot(half) }).state).toBe(fast.state);
    }),
    { numRuns: runs(2), endOnFailure: true },
  );
});

test('a hundred carts on one spot all touch each other; with more than a session can hold it ends, and says so', () => {
  const together = (count: number): Level =>
    level({
      kinds: {
        cart: kind(circle(0.5), { ...arriving(meterEffect('health', 'take', 1), { type: 'stays' }), who: { any: ['player'], none: [] } }),
      },
      paths: {
        way: {
          name: 'way',
          speed: 2,
          round: 'loop',
          wayPoints: [
            { x: 20, y: 5 },
            { x: 40, y: 5 },
          ],
        },
      },
      placements: Object.fromEntries(
        Array.from({ length: count }, (_, k) => [`c${String(k)}`, { kind: 'cart', x: 20, y: 5, travel: { path: 'way' } }]),
      ),
    });
  const hundred = simulate(compile(together(100)), runOf(60, 90, [[]]));
  expect(hundred.outcome.ended).toEqual({ how: 'inputs ended', seconds: 1.5 });
  expect(hundred.contacts.count).toBe(100 * 99);
  expect(outcomeOfRun(compile(together(300)), runOf(60, 90, [[]])).ended).toEqual({ how: 'too many contacts', seconds: 1 / 60 });
});
