import { readFileSync } from 'node:fs';
import { parseLevelText } from '../../../core/level/index.ts';
import {
  answer,
  conduct,
  judging,
  metStretches,
  type Judging,
  type JudgingResult,
  type SeekResult,
  type SweepResult,
} from '../../../core/studies/index.ts';
import { contourAt, roundLevels } from '../../charts/contours.ts';
import { tableOf } from '../../charts/spec.ts';
import { asked, costText, firstQuestion, nudgeGroups, questionOf, studyName, type Question, type Stretch } from './question.ts';
import { balancesAlong, curveSpec, mapSpec, seekSpec, tradeOffSpec } from './specs.ts';

const parsed = parseLevelText(readFileSync('demo/night-firing/level.json', 'utf8'));
if (!parsed.ok) throw new Error('the demo is not valid');
const level = parsed.value;
const SPEED = ['/body/speed'];
const over = (paths: readonly string[], from: number, to: number, step: number): Stretch => ({ paths, from, to, step, weight: 1 });

/** A question that is asked of few short sessions. */
const quick = (kind: Question['kind'], pressed: readonly (readonly string[])[], given: Partial<Question> = {}): Question => {
  const first = firstQuestion(level, kind, pressed);
  return { ...first, crowd: { ...first.crowd, personas: [{ persona: 'hasty', sessions: 4 }], seconds: 5 }, ...given };
};

async function result(wished: Judging): Promise<JudgingResult['result']> {
  const levels = { level, versions: {} };
  const made = await conduct(judging(levels, wished), { play: (ask) => Promise.resolve(answer(levels, ask)) });
  if (made === null) throw new Error('it was stopped');
  return made;
}

function ready(question: Question): Judging {
  const made = asked(level, question);
  if (!made.ok) throw new Error(made.why);
  return made.judging;
}

test('what is asked goes to the server and comes back as the same form; its cost is said first', () => {
  const one = quick('one', [SPEED], { dials: [over(SPEED, 2, 6, 2)] });
  const made = asked(level, one);
  expect(made).toMatchObject({ ok: true, sessions: 12 });
  expect(costText(one, 12)).toBe('3 values × 4 sessions');
  expect(studyName(level, one)).toBe('player: walk speed, final health');
  expect(questionOf(level, ready(one))).toMatchObject({ kind: 'one', dials: one.dials, figures: one.figures, crowd: one.crowd });
  // Round steps about where a dial stands, 4.5 and 12, so that it is one of the values; what is searched is all of its range, but for a nought that is not valid.
  const BURN = ['/kinds/ember-vent/rules/burn/effects/health/amount'];
  expect(firstQuestion(level, 'two', [SPEED, BURN]).dials.slice(0, 2)).toEqual([over(SPEED, 0.5, 9.5, 1), over(BURN, 2, 22, 2)]);
  const [searched] = firstQuestion(level, 'seek', [BURN]).dials;
  expect(searched).toMatchObject({ from: 0.5, to: 100 });
  const sought = quick('seek', [SPEED], { wish: 77 });
  expect(questionOf(level, ready(sought))).toMatchObject({ kind: 'seek', wish: 77, crowd: sought.crowd });
});

test('tuning is asked of dials in steps of their own, some more gladly moved, and of chosen targets', () => {
  const BURN = ['/kinds/ember-vent/rules/burn/effects/health/amount'];
  const first = firstQuestion(level, 'tune', [SPEED, BURN]);
  expect(first).toMatchObject({ held: null, moving: [{ paths: SPEED, step: 0.1 }, { paths: BURN }] });
  expect(ready(first)).toMatchObject({ of: { targets: [] } });
  // So it is, too, where a sweep was asked before, in steps around where the dials stand.
  expect(questionOf(level, ready(firstQuestion(level, 'two', [SPEED, BURN])))!.moving).toEqual(first.moving);
  const moving = first.moving.map((one, at) => ({ ...one, weight: at === 0 ? 5 : 1 }));
  const chosen = { ...first, moving, held: ['tested', 'gone by now'] };
  expect(questionOf(level, ready(chosen))).toMatchObject({ kind: 'tune', moving, held: ['tested'], budget: first.budget });
  expect(asked(level, { ...first, held: ['gone by now'] })).toMatchObject({
    ok: false,
    why: expect.stringContaining('choose a target') as string,
  });
});

test('what matters is asked of all dials, of those of one kind, or of chosen ones', () => {
  const all = ready(quick('matters', []));
  expect(questionOf(level, all)).toMatchObject({ kind: 'matters', nudged: [] });
  const [, cart] = nudgeGroups(level).find(([name]) => name === 'cart')!;
  const some = ready(quick('matters', [], { nudged: cart }));
  if (some.kind !== 'sensitivity' || all.kind !== 'sensitivity') throw new Error('these ask what matters');
  expect(some.of.dials.map(({ paths }) => paths.join(' '))).toEqual(cart);
  expect(all.of.dials.length).toBeGreaterThan(cart.length);
  expect(questionOf(level, some)).toMatchObject({ nudged: cart });
});

test.each([
  ['an empty range', { dials: [over(SPEED, 6, 2, 1)] }, 'the range is empty'],
  ['a step of nought', { dials: [over(SPEED, 2, 6, 0)] }, 'the step must be more than nought'],
  ['a field left empty', { dials: [over(SPEED, NaN, 6, 1)] }, 'a range wants numbers'],
  [
    'too many values',
    { dials: [over(SPEED, 0, 6, 0.001)] },
    'a step of 0.001 makes 6001 values, and at most 200 are asked about: a step of about 0.032 does',
  ],
  ['a dial that vanished', { dials: [over(['/kinds/gone/cycle/on'], 2, 6, 1)] }, 'the level has no dial “kind gone: cycle on” any more'],
  ['nobody', { crowd: { personas: [], seconds: 5, seed: 1, start: null } }, 'nobody plays'],
])('%s is refused in words', (_, given, words) => {
  const made = asked(level, quick('one', [SPEED], given));
  expect(made.ok ? '' : made.why).toContain(words);
});

test('two dials that are one, and a million sessions, are refused', () => {
  const stretch = over(SPEED, 1, 100, 1);
  const twice = asked(level, quick('two', [], { dials: [stretch, stretch] }));
  expect(twice).toEqual({ ok: false, why: 'choose two different dials' });
  const crowd = { personas: [{ persona: 'hasty', sessions: 1000 }], seconds: 60, seed: 1, start: null };
  const many = asked(level, quick('two', [], { dials: [stretch, { ...stretch, paths: ['/body/braking'] }], crowd }));
  expect(many.ok ? '' : many.why).toContain('10000 settings of the dials × 1000 sessions are 10000000 sessions');
});

test('a sweep is drawn over its dial, where it stands now and stood marked; the same as a table', async () => {
  const wished = ready(quick('one', [SPEED], { dials: [over(SPEED, 2, 6, 2)] }));
  if (wished.kind !== 'sweep') throw new Error('this is no sweep');
  const swept = (await result(wished)) as SweepResult;
  const compared = { ...level, body: { ...level.body, speed: 3 } };
  const spec = curveSpec(level, wished.of, swept, { now: level, compared })!;
  expect(spec.curves[0]!.points.map(({ x }) => x)).toEqual([2, 4, 6]);
  expect(spec.marks).toEqual([
    { x: level.body.speed, name: `now ${String(level.body.speed)}`, now: true },
    { x: 3, name: 'was 3', now: false },
  ]);
  expect(tableOf(spec).rows.map(([value]) => value)).toEqual(['2', '4', '6']);
  expect(spec.y.low).toBeLessThanOrEqual(Math.min(...spec.curves[0]!.points.map(({ low }) => low)));
});

test('two dials are a map with a cell for each pair; what a seek played is a curve with the wish across it', async () => {
  const dials = [over(SPEED, 2, 6, 2), over(['/body/acceleration'], 20, 40, 20)];
  const wished = ready(quick('two', [], { dials }));
  if (wished.kind !== 'sweep') throw new Error('this is no sweep');
  const spec = mapSpec(level, wished.of, (await result(wished)) as SweepResult, { now: level, compared: null })!;
  expect([spec.cells.length, spec.x.values, spec.y.values]).toEqual([6, [2, 4, 6], [20, 40]]);
  expect(tableOf(spec).rows).toHaveLength(2);
  const sought = ready(quick('seek', [SPEED], { wish: 40 }));
  if (sought.kind !== 'seek') throw new Error('this is no seek');
  const curve = seekSpec(level, sought.of, (await result(sought)) as SeekResult, { now: level, compared: null })!;
  expect(curve.wished).toMatchObject({ from: 40, to: 40 });
});

test('what gives way to what: one target over the other, both ranges marked', () => {
  const [one, other] = Object.keys(level.targets) as [string, string];
  const estimate = (value: number) => ({ value, low: value - 1, high: value + 1, sessions: 60 });
  const balances = [80, 60, 95].map((value) => ({ values: [value], figures: [estimate(value), estimate(200 - value)] as const }));
  const spec = tradeOffSpec(level, { targets: [one, other], balances })!;
  expect(spec.curves[0]!.points.map(({ x, value }) => [x, value])).toEqual([
    [60, 140],
    [80, 120],
    [95, 105],
  ]);
  expect(balancesAlong({ targets: [one, other], balances }).map(({ values }) => values)).toEqual([[60], [80], [95]]);
  expect(tradeOffSpec(level, { targets: [one, 'gone'], balances })).toBeNull();
});

test('a target is met where both edges of the interval lie inside, straight between the points', () => {
  const points = [
    { x: 0, low: 90, high: 110 },
    { x: 10, low: 50, high: 70 },
    { x: 20, low: 10, high: 30 },
  ];
  // High falls to 80 at 7.5, low to 40 at 12.5.
  expect(metStretches(points, { from: 40, to: 80 })).toEqual([[7.5, 12.5]]);
  expect(metStretches(points, { from: 200, to: 300 })).toEqual([]);
  expect(metStretches(points, { from: -Infinity, to: Infinity })).toEqual([[0, 20]]);
});

test('contours cross the edges of squares where the level lies, a saddle has two, and unknown corners none', () => {
  expect(contourAt([0, 10, 0, 10], 2, 5)).toEqual([[0.5, 0, 0.5, 1]]);
  expect(contourAt([0, 10, 10, 0], 2, 5)).toHaveLength(2);
  expect(contourAt([0, null, 0, 10], 2, 5)).toEqual([]);
  expect(contourAt([1, 1, 1, 1], 2, 5)).toEqual([]);
  expect(roundLevels(3, 47, 4)).toEqual([20, 40]);
  expect(roundLevels(5, 5, 4)).toEqual([]);
});
