import { level } from '../../testing/levels.ts';
import { arriving, circle, kind, meter, movement, scene } from '../../testing/scenes.ts';
import { parseLevel } from './parse.ts';
import { remarksOf } from './remarks.ts';

const said = (document: ReturnType<typeof level>): string[] => remarksOf(document).map(({ path, message }) => `${path} ${message}`);

test('what is hardly meant is said with what comes of it, once, where it is stated', () => {
  const health = { name: 'health', lower: 0, upper: 100, start: 0 };
  const score = { name: 'score', lower: 0, upper: null, start: 0, whole: true };
  const shard = kind(circle(1), arriving({ gain: meter('score', 'add', 7.5) }), { magnet: { reach: 5, giveUp: 2, speed: [[0, 1]] } });
  const mud = arriving({ slow: movement('speed', 'multiply', -0.5, 2) });
  const drip = { setOffBy: { type: 'inside' }, effects: { gain: meter('score', 'add', 0.5) } };
  const document = scene(
    { shard, mud, drip },
    {
      meters: { health, score },
      death: { returns: 'always', health: 0 },
      variants: { bright: { name: 'bright', basedOn: 'shard', changes: { '/rules/act/effects/gain/amount': 9.5 } } },
      placements: { wall: { kind: 'shard', x: 30, y: 5, own: { '/solid': { width: 4, height: 4 } } } },
      readouts: Object.fromEntries(['health', 'score'].map((id, order) => [id, { type: 'meter', order, meter: id, as: 'pips' }])),
      points: { p: { name: 'p', x: -1, y: 3 }, q: { name: 'q', x: 31, y: 6 }, r: { name: 'r', x: 32.5, y: 5 } },
      players: { count: 3, starts: ['p', 'q', 'r'] },
    },
  );
  expect(said(document)).toEqual([
    '/meters/health/start is the lower limit: every player is dead from the start',
    '/death/health is the lower limit: whoever comes back is dead at once',
    '/points/p lies outside the level: whoever starts here is put inside',
    '/points/q lies in a solid: whoever starts here is put beside it',
    '/readouts/health/as 100 are too many for pips, of which 24 are the most: it is shown as a bar',
    '/readouts/score/as has no upper limit, so no pips: it is shown as a number',
    '/kinds/shard/rules/act/effects/gain/amount score is whole: 7 at first, what is over is kept for the next time',
    '/kinds/shard/magnet/giveUp lies within the reach of 5 u: farther off than 2 u it is drawn and gives up at once',
    '/kinds/mud/rules/act/effects/slow/value a movement value is never below 0: this comes out as 0',
    '/variants/bright/rules/act/effects/gain/amount score is whole: 9 at first, what is over is kept for the next time',
    '/placements/wall/solid covers all its sensing shapes: whoever comes against it does not touch it',
  ]);
  expect(said(scene({ mud: arriving({ slow: movement('speed', 'add', -2, 2) }) }))).toEqual([]);
});

test('a kind has no more rules than it may, those of its tags included', () => {
  const rules = Object.fromEntries(Array.from({ length: 16 }, (_, at) => [`r${String(at)}`, arriving({})]));
  const pear = { ...kind(circle(1), {}), tags: ['harvest'], rules: { own: arriving({}) } };
  const tagged = { tag: 'harvest', rules };
  const parsed = parseLevel({ ...level({ kinds: { pear } }), tagRules: { a: tagged, b: tagged, c: tagged, d: tagged } });
  const problems = parsed.ok ? [] : parsed.problems;
  expect(problems).toEqual([{ path: '/kinds/pear', message: 'has 65 rules with those of its tags; at most 64' }]);
});
