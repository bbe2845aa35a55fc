import { level } from '../../testing/levels.ts';
import { arriving, circle, kind } from '../../testing/scenes.ts';
import { parseLevel } from './parse.ts';

test('a kind has no more rules than it may, those of its tags included', () => {
  const rules = Object.fromEntries(Array.from({ length: 16 }, (_, at) => [`r${String(at)}`, arriving({})]));
  const pear = { ...kind(circle(1), {}), tags: ['harvest'], rules: { own: arriving({}) } };
  const tagged = { tag: 'harvest', rules };
  const parsed = parseLevel({ ...level({ kinds: { pear } }), tagRules: { a: tagged, b: tagged, c: tagged, d: tagged } });
  const problems = parsed.ok ? [] : parsed.problems;
  expect(problems).toEqual([{ path: '/kinds/pear', message: 'has 65 rules with those of its tags; at most 64' }]);
});
