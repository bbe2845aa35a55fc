import type { Condition } from '../../level/index.ts';
import { basin, kind, level, shard, vent, box, circle, meterEffect } from '../../testing/levels.ts';
import { viewOf } from '../view.ts';
import { settled } from './conditionHolds.ts';

type Parts = Record<string, unknown>;

const meters = {
  health: { name: 'health', lower: 0, upper: 100, start: 100 },
  score: { name: 'score', lower: 0, upper: null, start: 0, whole: true },
  heat: { name: 'heat', order: 2, lower: 0, upper: 60, start: 30 },
};
const items = {
  jar: { name: 'jar', most: 3 },
  boots: { name: 'boots', start: 1, holdable: true },
};
const gives = kind(circle(0.5), { setOffBy: { type: 'arriving' }, effects: { jar: { type: 'item', item: 'jar', count: 1 } } });
const placed = (kinds: Parts, more: Parts = {}) =>
  viewOf(
    level({
      meters,
      items,
      kinds,
      placements: Object.fromEntries(Object.keys(kinds).map((id, at) => [id, { kind: id, x: 5 + 8 * at, y: 10 }])),
      ...more,
    }),
  );

const still = placed({ shard });
const hurting = placed({ vent });
const giving = placed({ gives });
const timed = placed({ shard }, { ends: { timeLimit: 60 } });
const regenerating = placed({ shard }, { meters: { ...meters, heat: { ...meters.heat, regeneration: { perSecond: 1 } } } });
const setting = placed({ set: kind(box(2, 2), { setOffBy: { type: 'arriving' }, effects: meterEffect('heat', 'set', 10) }) });

const of = (given: Parts): Condition => ({ order: 0, ...given }) as unknown as Condition;

test.each([
  ['health is never lowered', still, { type: 'below limit', meter: 'health' }, false],
  ['health is lowered by a vent', hurting, { type: 'below limit', meter: 'health' }, null],
  ['a meter without a limit', still, { type: 'below limit', meter: 'score' }, null],
  ['score is had', still, { type: 'meter', meter: 'score', is: 'at least', value: 500 }, null],
  ['score is never lowered', still, { type: 'meter', meter: 'score', is: 'at least', value: 0 }, true],
  ['heat stays', still, { type: 'meter', meter: 'heat', is: 'above', value: 30 }, false],
  ['heat stays at', still, { type: 'meter', meter: 'heat', is: 'at most', value: 30 }, true],
  ['heat comes back by itself', regenerating, { type: 'meter', meter: 'heat', is: 'above', value: 30 }, null],
  ['but not beyond its limit', regenerating, { type: 'meter', meter: 'heat', is: 'above', value: 60 }, false],
  ['heat is set lower', setting, { type: 'meter', meter: 'heat', is: 'below', value: 20 }, null],
  ['and never higher', setting, { type: 'meter', meter: 'heat', is: 'above', value: 30 }, false],
  ['half of the heat', still, { type: 'share', meter: 'heat', is: 'at least', value: 0.5 }, true],
  ['nobody gives jars', still, { type: 'item', item: 'jar', is: 'at least', value: 1 }, false],
  ['jars are given', giving, { type: 'item', item: 'jar', is: 'at least', value: 3 }, null],
  ['no more than three', giving, { type: 'item', item: 'jar', is: 'above', value: 3 }, false],
  ['jars cannot be held', giving, { type: 'held', item: 'jar' }, false],
  ['boots can', still, { type: 'held', item: 'boots' }, null],
  ['boots are kept', still, { type: 'item', item: 'boots', is: 'at least', value: 1 }, true],
  ['nothing changes speed', still, { type: 'movement', of: 'speed', present: true }, false],
  ['nor its absence', still, { type: 'movement', of: 'speed', present: false }, true],
  ['seen from above', still, { type: 'ground' }, false],
  ['no chance', still, { type: 'chance', value: 0 }, false],
  ['every chance', still, { type: 'chance', value: 1 }, true],
  ['some chance', still, { type: 'chance', value: 0.5 }, null],
  ['time goes on', still, { type: 'time', is: 'above', value: 900 }, null],
  ['time is over', timed, { type: 'time', is: 'above', value: 60 }, false],
  ['within it', timed, { type: 'time', is: 'at most', value: 60 }, true],
  ['nothing posts it', still, { type: 'notice', notice: 'opened', posted: true }, false],
  ['so it is not posted', still, { type: 'notice', notice: 'opened', posted: false }, true],
  ['uses from nought', still, { type: 'times used', is: 'below', value: 0 }, false],
  ['a first use', still, { type: 'times used', is: 'at most', value: 0 }, null],
  ['how fast one goes', still, { type: 'speed', is: 'above', value: 1 }, null],
])('%s', (_, view, condition, holds) => {
  const found = settled(view, of(condition));
  expect(found?.holds ?? null).toBe(holds);
  if (found !== null) expect(found.why).not.toMatch(/undefined|Infinity|NaN/);
});

test('only what is placed, spawned or dropped is looked at: own values apart from the kind, spawned kinds without things', () => {
  const nest = kind(circle(1), {
    setOffBy: { type: 'every', seconds: 5 },
    effects: { spawn: { type: 'spawn', pool: { basin: 1 }, at: { type: 'here' }, most: 3 } },
  });
  const { forms, kinds, things } = viewOf(
    level({
      kinds: { nest, basin, shard, vent },
      placements: {
        nest: { kind: 'nest', x: 5, y: 10 },
        one: { kind: 'shard', x: 9, y: 10 },
        two: { kind: 'shard', x: 12, y: 10, own: { '/rules/act/effects/effect/amount': 40 } },
        three: { kind: 'shard', x: 15, y: 10, own: { '/rules/act/effects/effect/amount': 40 } },
      },
    }),
  );
  expect([...kinds].sort()).toEqual(['basin', 'nest', 'shard']);
  const told = forms.map(({ kindId, placements, own }) => [kindId, placements.length, own]);
  expect(told.sort((a, b) => String(a).localeCompare(String(b)))).toEqual([
    ['basin', 0, false],
    ['nest', 1, false],
    ['shard', 1, false],
    ['shard', 2, true],
  ]);
  expect(things.map(({ id, moves }) => [id, moves])).toEqual([
    ['nest', false],
    ['one', false],
    ['three', false],
    ['two', false],
  ]);
});
