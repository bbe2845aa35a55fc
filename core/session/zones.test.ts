/**
 * Rules tied to one of a kind's shapes, worked out by hand. From rest the player is at x = 1 + 4t (t ≥ ½ s). A ring at x = 12 has an
 * outer disc of 3.03 and a core of 1.02: outer is touched from 8.47 (1.8675 s) to 15.53 (3.6325 s), the core from 10.48 (2.37 s)
 * to 13.52 (3.13 s).
 */
import { BUTTON } from './compile/codes.ts';
import { parseLevel } from '../level/index.ts';
import { play, runOf, short } from '../testing/levels.ts';
import { arriving, keys, meter, movement, pulsing, scene, told } from '../testing/scenes.ts';

const disc = (radius: number) => ({ type: 'circle', radius });
const notice = (word: string) => ({ say: { type: 'notice', notice: word } });
const ring = (rules: object, more: object = {}) => ({
  name: 'ring',
  role: 'score',
  mark: 'ring',
  shapes: { core: disc(1.02), outer: disc(3.03) },
  rules,
  ...more,
});
const at = { placements: { ring: { kind: 'ring', x: 12, y: 10 } } };
const OUTER = [1.8675, 3.6325] as const;
const CORE = [2.37, 3.13] as const;

describe.each([30, 60, 240])('at %i steps a second', (rate) => {
  const in5 = (rules: object, more: object = {}) => told(scene({ ring: ring(rules) }, { ...at, ...more }), rate, 5, keys(rate, [5, 1]));
  const step = (seconds: number): string => String(Math.ceil(seconds * rate));

  test('the outer disc warns, the core gives; each has its own leaving; what is tied to none goes by all', () => {
    const rules = {
      gives: { ...arriving({ a: meter('score', 'add', 5) }), touching: 'core', order: 1 },
      warns: { ...arriving(notice('near')), touching: 'outer', order: 2 },
      out: { setOffBy: { type: 'leaving' }, effects: notice('out'), touching: 'core', order: 3 },
      gone: { setOffBy: { type: 'leaving' }, effects: notice('gone'), order: 4 },
    };
    expect(in5(rules)).toEqual([
      `${step(OUTER[0])} notice ring near`,
      `${step(CORE[0])} changed ring score 5/5 → 5`,
      `${step(CORE[1])} notice ring out`,
      `${step(OUTER[1])} notice ring gone`,
    ]);
  });

  test('rates, pulses and changes while inside last as long as their shape is touched', () => {
    const rules = {
      burns: { setOffBy: { type: 'inside' }, effects: { a: meter('health', 'take', 8) }, touching: 'core', order: 1 },
      beats: { ...pulsing(0.5, { a: meter('score', 'add', 1) }), touching: 'outer', order: 2 },
      slows: { ...arriving({ a: movement('jump', 'multiply', 2, 'while') }), touching: 'core', order: 3 },
    };
    const lines = in5(rules);
    // 0.76 s at 8 a second.
    expect(lines).toContain(`${step(CORE[1])} rate ring health -6.08/-6.08 → 93.92`);
    expect(lines.filter((line) => line.includes(' movement '))).toEqual([
      `${step(CORE[0])} movement ring jump 13 → 26`,
      `${step(CORE[1])} movement ring jump ends 26 → 13`,
    ]);
    // 1.765 s inside the outer disc: at once, then at 0.5, 1 and 1.5 s.
    expect(lines.filter((line) => line.includes(' score '))).toHaveLength(4);
  });
});

test('inside both when it begins, rules act in their order, whichever shape they are tied to', () => {
  const rules = {
    a: { ...arriving(notice('a')), touching: 'outer', order: 1 },
    b: { ...arriving(notice('b')), order: 2 },
    c: { ...arriving(notice('c')), touching: 'core', order: 3 },
    d: { ...arriving(notice('d')), touching: 'outer', order: 4 },
  };
  const words = told(scene({ ring: ring(rules) }), 60, 0.1);
  expect(words).toEqual(['a', 'b', 'c', 'd'].map((word) => `1 notice ring ${word}`));
});

test('put elsewhere, whoever was in the core leaves core and ring at once, in the order of the rules', () => {
  const rules = {
    sends: { ...arriving({ a: { type: 'move', to: { type: 'point', point: 'far' } } }), touching: 'core', order: 1 },
    gone: { setOffBy: { type: 'leaving' }, effects: notice('gone'), touching: 'outer', order: 2 },
    out: { setOffBy: { type: 'leaving' }, effects: notice('out'), touching: 'core', order: 3 },
  };
  const points = { far: { name: 'far', x: 40, y: 10 } };
  expect(told(scene({ ring: ring(rules) }, { points, ...at }), 60, 4, keys(60, [4, 1]))).toEqual([
    '143 moved ring 40,10',
    '143 notice ring gone',
    '143 notice ring out',
  ]);
});

test('a wind-up is dropped by leaving its own shape; a strength hits those in its shape only', () => {
  const rules = {
    press: {
      ...arriving({ a: meter('health', 'take', 5) }, { windUp: { seconds: 1, ifLeft: 'dropped' } }),
      touching: 'core',
      order: 1,
    },
    gong: { setOffBy: { type: 'every', seconds: 2 }, hits: 'all inside', effects: { a: meter('score', 'add', 1) }, order: 2 },
  };
  const lines = told(scene({ ring: ring(rules) }, at), 60, 4.5, keys(60, [4.5, 1]));
  // In the core for 0.76 s of the second it takes; at 2 s in the outer disc, at 4 s out of it.
  expect(lines).toEqual([
    '120 changed ring score 1/1 → 1',
    '143 phase ring winding up',
    '188 phase ring ready',
    '240 nothing nobody ring nobody there',
  ]);
});

test('a patrol sets off the core when it comes to the core, and a ring that travels is touched by shape too', () => {
  const rules = {
    near: { ...arriving(notice('near')), who: { any: ['rover'] }, touching: 'outer', order: 1 },
    core: { ...arriving(notice('core')), who: { any: ['rover'] }, touching: 'core', order: 2 },
  };
  const rover = { name: 'rover', role: 'harm', mark: 'cross', tags: ['rover'], shapes: { body: disc(0.5) }, rules: {} };
  const line = (x: number, to: number) => ({
    name: 'line',
    speed: 2,
    round: 'back and forth',
    wayPoints: [
      { x, y: 15 },
      { x: to, y: 15 },
    ],
  });
  const travel = { path: 'line', startOffset: 0 };
  const still = { kind: 'ring', x: 32, y: 15 };
  // The rover comes from x = 20 at 2 u/s: 3.53 u off at 28.47 (4.235 s), 1.52 u off at 30.48 (5.24 s).
  const movers = { placements: { rover: { kind: 'rover', x: 0, y: 0, travel }, ring: still }, paths: { line: line(20, 40) } };
  expect(told(scene({ ring: ring(rules), rover }, movers), 60, 6).filter((one) => one.includes('notice'))).toEqual([
    '255 notice ring near',
    '315 notice ring core',
  ]);
  // The ring comes from x = 20 towards the player, who stands at (2, 10).
  const back = {
    placements: { ring: { kind: 'ring', x: 0, y: 0, travel } },
    paths: {
      line: {
        ...line(20, 0),
        wayPoints: [
          { x: 20, y: 10 },
          { x: 0, y: 10 },
        ],
      },
    },
  };
  const own = { core: { ...arriving(notice('core')), touching: 'core' } };
  // 1.52 u off the player at x = 3.52, after 16.48 u: 8.24 s.
  expect(told(scene({ ring: ring(own) }, back), 60, 8.5)).toEqual(['495 notice ring core']);
});

test('distance in a curve is taken from the point that is stated', () => {
  const curve = {
    by: 'distance',
    from: { x: 2, y: 0 },
    points: [
      [0, 10],
      [10, 0],
    ],
  };
  // Touched at 8.47: 3.53 u from the ring's place, 5.53 u from 2 u beyond it.
  const near = { hit: { ...arriving({ a: meter('health', 'take', curve) }), touching: 'outer' } };
  expect(told(scene({ ring: ring(near) }, at), 60, 2, keys(60, [2, 1]))).toEqual(['113 changed ring health -4.47/-4.47 → 95.53']);
});

test('a rule cannot be tied to a shape its kind has not, nor one that no touch sets off', () => {
  const problems = (rule: object) => {
    const document = { ...JSON.parse(JSON.stringify(scene({ ring: ring({}) }, at))), kinds: { ring: ring({ rule }) } } as object;
    const parsed = parseLevel(document);
    return parsed.ok ? [] : parsed.problems.map(({ message }) => message);
  };
  expect(problems({ ...arriving(notice('x')), touching: 'core' })).toEqual([]);
  expect(problems({ ...arriving(notice('x')), touching: 'rim' })).toEqual(['there is no shape "rim"; there are core, outer']);
  expect(problems({ setOffBy: { type: 'start' }, effects: {}, touching: 'core' })).toEqual([
    'only a rule set off by arriving, being inside or leaving can be tied to a shape',
  ]);
});

test('what a player drops touches by shape from the first: nothing arrives', () => {
  const rules = { core: { ...arriving(notice('core')), touching: 'core', order: 1 }, any: { ...arriving(notice('any')), order: 2 } };
  const items = { ring: { name: 'ring', start: 1, most: 2, holdable: true, dropsAs: 'ring' } };
  const held = { meters: {}, items: { ring: 1 }, held: 'ring', at: null, checkpoint: null, shieldSeconds: 0 };
  const document = scene({ ring: ring(rules) }, { placements: {}, items });
  const { lines } = play(document, runOf(60, 30, [[[10, 0, 0, BUTTON.drop]]], { start: held }));
  expect(short(lines).filter((line) => line.includes('notice'))).toEqual([]);
  expect(short(lines).some((line) => line.includes('spawned'))).toBe(true);
});
