import fc from 'fast-check';
import { outlineDistance, type Corner } from '../geometry/index.ts';
import { whyWords } from '../formats/index.ts';
import { needGaps, whyNot } from '../session/index.ts';
import { compile } from '../session/index.ts';
import { basin, circle, kind, level, meterEffect, play, pressed, runOf, shard, vent } from '../testing/levels.ts';
import { nearestInRun } from './nearest.ts';
import { withEvents, type Outside } from './run.ts';
import { sessionAt } from './seek.ts';
import { simulate } from './simulate.ts';
import { spanSums } from './spanSums.ts';

/** From rest at x = 2: x(t) = 2 + 4·t − 1 for t ≥ ½ s. A vent from 5 to 11, a basin touched from 18.5, a shard off the way. */
const works = level({
  kinds: {
    vent,
    basin: { ...basin, name: 'basin' },
    shard: { ...shard, name: 'shard' },
    gate: {
      ...kind(circle(1), {
        setOffBy: { type: 'use', reach: 2 },
        who: { any: ['rover'], none: [] },
        effects: meterEffect('score', 'add', 5),
      }),
      name: 'gate',
    },
  },
  placements: {
    vent: { kind: 'vent', x: 8, y: 10 },
    basin: { kind: 'basin', x: 20, y: 10 },
    shard: { kind: 'shard', x: 20, y: 12.5 },
    gate: { kind: 'gate', x: 30, y: 10 },
  },
});
const run = pressed(60, [6, 1, 0]);
const compiled = compile(works);
const recording = simulate(compiled, run);
const { lines } = play(works, run);

const tell = (placement: string, seconds: number): string[] =>
  whyNot(sessionAt(compiled, run, recording, seconds * 60), 0, placement).flatMap((rule) =>
    whyWords(works, placement, rule).tests.map(({ asks, saw, passed }) => `${passed ? '+' : '-'} ${asks}: ${saw}`),
  );

test('why did this not work: every test with what it saw, also of what nobody touched', () => {
  // At 3 s the player is at 13; the basin begins at 19, the body reaches half a unit ahead.
  expect(tell('basin', 3)).toEqual([
    '- the player touches it: 5.5 u too far away',
    '+ who: tagged player: tagged player',
    '+ it is ready and sensing: ready',
    '+ health is below its limit: health 79',
  ]);
  // At 5 s it has healed 18 and rests since 4.375 s, when it was touched at 18.5; the player is in it.
  expect(tell('basin', 5)).toEqual([
    '+ the player touches it: yes',
    '+ who: tagged player: tagged player',
    '- it is ready and sensing: resting, 5.9 s left',
    '+ health is below its limit: health 97',
  ]);
  expect(tell('gate', 1)).toEqual([
    '- the player is within 2 u: 23 u too far away',
    '- who: tagged rover: tagged player',
    '+ it is ready and sensing: ready',
  ]);
  expect(() => whyNot(sessionAt(compiled, run, recording, 0), 0, 'nothing')).toThrow(RangeError);
});

test('why: what only hits whoever set it off hits nobody when the clock does; a strength hits those inside; a shape is meant by itself', () => {
  const shapes = { core: { type: 'circle', radius: 1 }, rim: { type: 'circle', radius: 3 } };
  const hurt = { hurt: { type: 'meter', meter: 'health', change: 'take', amount: 5 } };
  const clock = { setOffBy: { type: 'every', seconds: 1 }, effects: hurt };
  const rules = {
    clock: { ...clock, order: 1 },
    gong: { ...clock, hits: 'all inside', order: 2 },
    core: { setOffBy: { type: 'arriving' }, touching: 'core', effects: hurt, order: 3 },
  };
  const ring = level({
    kinds: { ring: { name: 'ring', role: 'harm', mark: 'ring', shapes, rules } },
    placements: { ring: { kind: 'ring', x: 20, y: 10 } },
  });
  const made = compile(ring);
  // The player stands at x = 2 at the start, and at 4.25 s at 18: 2 u from the middle, half a unit of it its own.
  const at = (seconds: number) => whyNot(sessionAt(made, run, simulate(made, run), seconds * 60), 0, 'ring').map((rule) => whyWords(ring, 'ring', rule).tests.filter(({ passed }) => !passed).map(({ saw }) => saw)); // prettier-ignore
  expect(at(0)).toEqual([
    ['nobody sets it off, and it hits only whoever does'],
    ['it hits those who are inside, and the player is not'],
    ['16.5 u too far away'],
  ]);
  expect(at(4.25)).toEqual([['nobody sets it off, and it hits only whoever does'], [], ['0.5 u too far away']]);
});

test('never touched: how near somebody came, and when', () => {
  // The way passes 2.5 u below the centre of the shard: half a unit is its radius, half the body's. It is passed at 4.75 s.
  expect(nearestInRun(compiled, run, 'shard')).toEqual({ distance: 1.5, seconds: 4.75, step: 285, player: 0 });
  expect(nearestInRun(compiled, run, 'basin')).toMatchObject({ distance: 0 });
  expect(nearestInRun(compiled, run, 'nothing')).toBeNull();
});

test('what a stretch comes to: a rate by the share that lies within it; the whole is the change of each meter', () => {
  // In the vent from (5 − 0.5 − 1) / 4 s to (11 + 0.5 − 1) / 4 s: 0.875 s to 2.625 s, 12 a second.
  const lanes = { lines, lanes: recording, rate: 60 };
  const within = spanSums(works, lanes, 1, 2);
  // The line of a rate counts whole steps, so its share is told to a step of it.
  expect(within.damage['vent']).toBeCloseTo(12, 0);
  expect(within.distance).toBeCloseTo(4, 5);
  const whole = spanSums(works, lanes, 0, 6);
  expect([whole.damage['vent'], whole.healed, whole.meters['health']].map((sum) => sum?.toFixed(6))).toEqual([
    '21.000000',
    '18.000000',
    '-3.000000',
  ]);
  expect(whole.uses).toBe(1 + lines.filter(({ type }) => type === 'rate').length);
  const final = recording.outcome.players[0]!;
  expect(100 + whole.meters['health']!).toBeCloseTo(final.meters['health']!, 6);
  expect(whole.distance).toBeCloseTo(final.distance, 3);
});

test('how long a thing was back when it was next needed', () => {
  const twice = level({
    kinds: {
      basin: { ...basin, rules: { cool: { ...(basin['rules'] as { act: object }).act, becomes: { type: 'rests', seconds: 1 } } } },
      vent,
    },
    placements: { first: { kind: 'vent', x: 8, y: 10 }, basin: { kind: 'basin', x: 14, y: 10 }, second: { kind: 'vent', x: 24, y: 10 } },
  });
  // Used at (13 − 0.5 − 1) / 4 = 2.875 s, back at 3.875 s; the second vent begins at 21 and is met at (21 − 0.5 − 1) / 4 = 4.875 s.
  const [gap] = needGaps(twice, 'basin', play(twice, run).lines);
  expect([gap?.placement, gap?.meter, gap?.gap.toFixed(1)]).toEqual(['basin', 'health', '1.0']);
  expect(needGaps(twice, 'vent', play(twice, run).lines)).toEqual([]);
});

test('distance of outlines: as the nearest points of fine grids on them tell it', () => {
  const corner = fc.tuple(fc.integer({ min: -8, max: 8 }), fc.integer({ min: -8, max: 8 }));
  const upright = fc
    .tuple(corner, fc.integer({ min: 0, max: 5 }), fc.integer({ min: 0, max: 5 }))
    .map(([[x, y], width, height]): Corner[] =>
      width === 0 || height === 0
        ? [[x, y]]
        : [
            [x, y],
            [x + width, y],
            [x + width, y + height],
            [x, y + height],
          ],
    );
  const gap = (a: readonly Corner[], b: readonly Corner[], axis: 0 | 1): number => {
    const [lowA, highA] = [Math.min(...a.map((one) => one[axis])), Math.max(...a.map((one) => one[axis]))];
    const [lowB, highB] = [Math.min(...b.map((one) => one[axis])), Math.max(...b.map((one) => one[axis]))];
    return Math.max(0, lowB - highA, lowA - highB);
  };
  fc.assert(
    fc.property(upright, upright, fc.integer({ min: 0, max: 7 }), (a, b, eighth) => {
      // Turned together, upright boxes stay as far apart as they were.
      const [cos, sin] = [Math.cos((eighth * Math.PI) / 4), Math.sin((eighth * Math.PI) / 4)];
      const turned = (corners: readonly Corner[]): Corner[] => corners.map(([x, y]) => [x * cos - y * sin, x * sin + y * cos]);
      const [dx, dy] = [gap(a, b, 0), gap(a, b, 1)];
      expect(outlineDistance(turned(a), turned(b))).toBeCloseTo(Math.sqrt(dx * dx + dy * dy), 6);
    }),
  );
});

test('of a run with other events the marks before the first that differs still hold', () => {
  const loss = (step: number): Outside => ({ what: 'meter', step, player: 1, meter: 'health', by: -1 });
  const marks = ['a', 'b', 'c', 'd'];
  const run = { ...runOf(60, 240, [[]]), marks, events: [loss(10), loss(100)] };
  expect(withEvents(run, [loss(100), loss(10)])).toEqual(run);
  expect(withEvents(run, [loss(10), loss(181)]).marks).toEqual(['a']);
  expect(withEvents(run, [loss(10)])).toMatchObject({ marks: ['a'], events: [loss(10)] });
  expect(withEvents(run, [loss(10), loss(100), loss(181)]).marks).toEqual(['a', 'b', 'c']);
});
