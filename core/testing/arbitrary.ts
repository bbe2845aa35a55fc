import fc from 'fast-check';
import type { Level } from '../level/index.ts';
import type { Run } from '../players/index.ts';
import { kind, level, meterEffect, pressed } from './levels.ts';

/** Random levels and inputs: a few kinds with any rules, things that stand and travel, solids, any walking speed. */
/** Numbers of a thousandth's grain, a little off round ones so that things rarely just touch. */
const number = (min: number, max: number): fc.Arbitrary<number> =>
  fc.integer({ min: Math.ceil(min * 1000), max: Math.floor(max * 1000) - 1 }).map((value) => (value + 0.137) / 1000);

const place = fc.record({ x: number(0, 60), y: number(0, 20) });

const shape = fc.oneof(
  fc.record({ type: fc.constant('circle'), radius: number(0.1, 4) }),
  fc.record({
    type: fc.constant('box'),
    width: number(0.1, 8),
    height: number(0.1, 8),
    rotation: fc.integer({ min: -180, max: 180 }),
  }),
);

const rule = fc.record({
  setOffBy: fc.constantFrom({ type: 'arriving' }, { type: 'inside' }),
  who: fc.constantFrom({ any: ['player'], none: [] }, { any: [], none: [] }, { any: ['rover'], none: ['player'] }),
  provided: fc.constantFrom(
    {},
    { hurt: { type: 'below limit', meter: 'health' } },
    { low: { type: 'meter', meter: 'health', is: 'below', value: 50 } },
  ),
  effects: fc
    .record({
      meter: fc.constantFrom('health', 'score'),
      change: fc.constantFrom('add', 'take', 'set'),
      amount: number(0, 40),
    })
    .map(({ meter, change, amount }) => meterEffect(meter, change as 'add', amount)),
  becomes: fc.constantFrom({ type: 'stays' }, { type: 'spent' }, { type: 'rests', seconds: 1.3 }, { type: 'rests', seconds: 0 }),
});

export const anyLevel = fc
  .record({
    kinds: fc.array(fc.record({ shape, rules: fc.array(rule, { minLength: 1, maxLength: 3 }), tags: fc.constantFrom([], ['rover']) }), {
      minLength: 1,
      maxLength: 4,
    }),
    placements: fc.array(fc.record({ at: place, kind: fc.nat(3), moves: fc.boolean() }), { maxLength: 14 }),
    solids: fc.array(fc.record({ at: place, width: number(0.1, 9), height: number(0.1, 9) }), { maxLength: 4 }),
    speed: number(0, 400),
    stops: fc.array(place, { minLength: 2, maxLength: 5 }),
  })
  .map(({ kinds, placements, solids, speed, stops }): Level => {
    const named = <Value>(values: readonly Value[]): Record<string, Value> =>
      Object.fromEntries(values.map((value, index) => [`n${index}`, value]));
    return level({
      body: { radius: 0.5, speed, acceleration: 50, braking: 80 },
      kinds: named(kinds.map((one) => ({ ...kind({ body: one.shape }, {}), rules: named(one.rules), tags: one.tags }))),
      placements: named(
        placements.map(({ at, kind: index, moves }) => ({
          kind: `n${index % kinds.length}`,
          ...at,
          travel: moves ? { path: 'way', startOffset: at.x / 7 } : null,
        })),
      ),
      solids: named(solids.map(({ at, ...size }) => ({ ...at, ...size }))),
      paths: { way: { name: 'way', speed: 3, round: 'back and forth', wayPoints: [{ x: 1, y: 1, pause: 1 }, ...stops] } },
    });
  });

export const anyRun = fc
  .array(fc.tuple(number(0.05, 2), fc.integer({ min: -1, max: 1 }), fc.integer({ min: -1, max: 1 })), {
    minLength: 1,
    maxLength: 8,
  })
  .map((pieces): Run => pressed(60, ...pieces));
