import type { Level } from '../level/index.ts';
import type { Run } from '../players/index.ts';
import { basin, box, circle, kind, level, meterEffect, play, pressed, shard, short, vent } from '../testing/levels.ts';

/**
 * Sessions worked out by hand from the rules. The player starts at x = 2 and walks right: x(t) = 2 + 4·t − 1 after half
 * a second. A contact at t = 2.001 s falls into step 2·rate + 1 at every rate, since 0.001 s is under one step.
 */
interface Worked {
  readonly name: string;
  readonly level: Level;
  readonly run: (rate: number) => Run;
  readonly expected: (rate: number) => string[];
}

const walkRight =
  (seconds: number) =>
  (rate: number): Run =>
    pressed(rate, [seconds, 1, 0]);

const sessions: Worked[] = [
  {
    // Touches when x = 10.004 − 0.5 − 0.5 = 9.004, that is 4·t − 1 = 7.004.
    name: 'a shard is worth 15, once',
    level: level({ kinds: { shard }, placements: { one: { kind: 'shard', x: 10.004, y: 10 } } }),
    run: (rate) => pressed(rate, [3, 1, 0], [3, -1, 0]),
    expected: (rate) => [
      `${2 * rate + 1} changed one score 15/15 → 15`,
      `${2 * rate + 1} phase one spent`,
      // Back over it: turning at x = 13 takes until v = −4 at 4 s, x = 13; reaches x = 11.004 half a second later.
      `${Math.floor(4.499 * rate) + 1} refused player 1 one used up`,
      `${6 * rate} ended running`,
    ],
  },
  {
    // Stands in the basin from 2.001 s on: +18 every 6.5 s until full, then refused once.
    name: 'a basin heals 18 if hurt and rests 6.5 s; whoever stands inside arrives again',
    level: level({
      kinds: { basin: { ...basin, shapes: circle(9) } },
      placements: { pool: { kind: 'basin', x: 18.504, y: 10 } },
      meters: {
        health: { name: 'health', lower: 0, upper: 100, start: 60 },
        score: { name: 'score', lower: 0, upper: null, start: 0 },
      },
    }),
    run: (rate) => pressed(rate, [3, 1, 0], [20, 0, 0]),
    expected: (rate) => {
      const first = 2 * rate + 1;
      const rest = 6.5 * rate;
      return [
        `${first} changed pool health 18/18 → 78`,
        `${first} phase pool resting`,
        `${first + rest} phase pool ready`,
        // It rests for `rest` steps of sensing, so whoever is inside arrives in the one after.
        `${first + rest + 1} changed pool health 18/18 → 96`,
        `${first + rest + 1} phase pool resting`,
        `${first + 2 * rest + 1} phase pool ready`,
        `${first + 2 * rest + 2} changed pool health 18/4 → 100`,
        `${first + 2 * rest + 2} limit health 100`,
        `${first + 2 * rest + 2} phase pool resting`,
        `${first + 3 * rest + 2} phase pool ready`,
        `${first + 3 * rest + 3} refused player 1 pool full`,
        `${23 * rate} ended running`,
      ];
    },
  },
  {
    // In at 2.001 s; turns at 3 s (x = 13), is out of the pool (x < 8.504 … 11.504) at 4.374 s, turns at 4.5, back in.
    name: 'coming back too soon is refused with the seconds left',
    level: level({
      kinds: { basin },
      placements: { pool: { kind: 'basin', x: 10.504, y: 10 } },
      meters: {
        health: { name: 'health', lower: 0, upper: 100, start: 60 },
        score: { name: 'score', lower: 0, upper: null, start: 0 },
      },
    }),
    run: (rate) => pressed(rate, [4, 1, 0], [4, -1, 0]),
    // x = 17 at 4 s; v = −4 at 5 s with x = 17; x = 12.004 at 6.249 s.
    expected: (rate) => {
      const back = Math.floor(6.249 * rate) + 1;
      return [
        `${2 * rate + 1} changed pool health 18/18 → 78`,
        `${2 * rate + 1} phase pool resting`,
        `${back} refused player 1 pool resting ${Number(((2 * rate + 1 + 6.5 * rate - back) / rate).toFixed(9))}`,
        `${8 * rate} ended running`,
      ];
    },
  },
  {
    // Inside from x = 9.504 to 16.504: 7 u at 4 u/s are 1.75 s, 21 health at 12 a second.
    name: 'a vent takes 12 a second for just the time inside',
    level: level({ kinds: { vent }, placements: { grate: { kind: 'vent', x: 13.004, y: 10 } } }),
    run: walkRight(6),
    expected: (rate) => [`${Math.floor(3.876 * rate) + 1} rate grate health -21/-21 → 79`, `${6 * rate} ended running`],
  },
  {
    // 0.12 a second on a whole meter: the parts are kept; 1.75 s at 2 a second make 3, the half is left over.
    name: 'a whole meter keeps its remainder',
    level: level({
      kinds: { purse: kind(box(6, 4), { setOffBy: { type: 'inside' }, effects: meterEffect('score', 'add', 2) }) },
      placements: { spot: { kind: 'purse', x: 13.004, y: 10 } },
    }),
    run: walkRight(6),
    expected: (rate) => [`${Math.floor(3.876 * rate) + 1} rate spot score 3.5/3 → 3`, `${6 * rate} ended running`],
  },
  {
    // The cart's face passes the shard's edge after (20 − 1 − 0.5 − 12.497) ÷ 3 = 2.001 s. It does not take it.
    name: 'a cart is no player',
    level: level({
      kinds: { shard, cart: { ...kind(box(2, 1), { effects: {}, setOffBy: { type: 'arriving' } }), tags: ['rover'] } },
      paths: {
        rails: {
          name: 'rails',
          speed: 3,
          round: 'loop',
          wayPoints: [
            { x: 12.497, y: 4 },
            { x: 50, y: 4 },
          ],
        },
      },
      placements: { one: { kind: 'shard', x: 20, y: 4 }, cart: { kind: 'cart', x: 0, y: 0, travel: { path: 'rails' } } },
    }),
    run: (rate) => pressed(rate, [4, 0, 0]),
    expected: (rate) => [`${2 * rate + 1} refused cart one wrong tag`, `${4 * rate} ended running`],
  },
  {
    // 100 health at 50 a second are gone after 2 s inside: from 2.001 s to 4.001 s.
    name: 'health at its lower limit is death, and without a life the session is lost',
    level: level({
      kinds: { vent: kind(box(30, 4), { setOffBy: { type: 'inside' }, effects: meterEffect('health', 'take', 50) }) },
      placements: { grate: { kind: 'vent', x: 24.504, y: 10 } },
    }),
    run: walkRight(6),
    expected: (rate) => {
      // Entering at x = 9.004 is at 2.001 s.
      const last = 4 * rate + 1;
      return [
        `${last} limit health 0`,
        `${last} rate grate health ${String(Number((-50 * (last / rate - 2.001)).toFixed(9)))}/-100 → 0`,
        `${last} died grate`,
        `${last} ended lost`,
      ];
    },
  },
  {
    // Both rules of one touch see the phase it was in when touched; the later one still counts although it is spent.
    name: 'all rules of one arrival act on the thing as it was touched',
    level: level({
      kinds: {
        both: kind(
          circle(0.5),
          {},
          {
            rules: {
              first: { order: 1, setOffBy: { type: 'arriving' }, effects: meterEffect('score', 'add', 5), becomes: { type: 'spent' } },
              second: { order: 2, setOffBy: { type: 'arriving' }, effects: meterEffect('health', 'take', 10) },
            },
          },
        ),
      },
      placements: { one: { kind: 'both', x: 10.004, y: 10 } },
    }),
    run: walkRight(3),
    expected: (rate) => [
      `${2 * rate + 1} changed one score 5/5 → 5`,
      `${2 * rate + 1} phase one spent`,
      `${2 * rate + 1} changed one health -10/-10 → 90`,
      `${3 * rate} ended running`,
    ],
  },
];

describe.each([30, 60, 120, 240])('at %i steps a second', (rate) => {
  test.each(sessions)('$name', (worked) => {
    const { lines } = play(worked.level, worked.run(rate));
    expect(short(lines)).toEqual(worked.expected(rate));
  });
});

test('a wall stops the body at its face, and it slides along', () => {
  const walled = level({ solids: { wall: { x: 10, y: 0, width: 1, height: 15 } } });
  const { recording } = play(walled, pressed(60, [4, 1, 0], [3, 1, 1]));
  expect(recording.x[240]).toBeCloseTo(9.5, 5);
  // Along the wall at 4 ÷ √2 a second, and past its end at y = 15.5.
  expect(recording.y[300]).toBeGreaterThan(11.5);
  expect(recording.x[420]).toBeGreaterThan(10);
});
