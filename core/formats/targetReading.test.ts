import { readFileSync } from 'node:fs';
import { parseLevelText } from '../level/index.ts';
import { allOutcomes, measureOf, usualFigure } from '../studies/index.ts';
import { readTarget, targetsIn, targetText } from './index.ts';

const made = parseLevelText(readFileSync('demo/night-firing/level.json', 'utf8'));
if (!made.ok) throw new Error('the demo cannot be read');
const level = { ...made.value, tries: { late: { ...Object.values(made.value.tries)[0]!, name: 'at the kiln' } } };

const read = (words: string) => {
  const reading = readTarget(level, words);
  if (!reading.ok) throw new Error(reading.why);
  return reading.target;
};

test('what a target is shown as is read as that target: of every outcome, by each figure', () => {
  const limits = [
    [40, null],
    [null, 60.5],
    [-5, 60],
  ] as const;
  const who = [[], ['steady'], ['wary', 'steady', 'newcomer']];
  let nth = 0;
  const named = new Map(
    allOutcomes(level)
      .toReversed()
      .map((outcome) => [measureOf(level, outcome).name, outcome]),
  );
  expect(named.size).toBeGreaterThan(100);
  for (const outcome of named.values()) {
    const usual = usualFigure(outcome).statistic;
    const numbers = [
      { type: 'mean' },
      { type: 'quantile', below: 0.1 },
      { type: 'share', from: 2, to: null },
      { type: 'share', from: 1.5, to: 7 },
    ] as const;
    const statistics = measureOf(level, outcome).asked === 'yes or no' ? [usual] : [usual, ...numbers];
    for (const statistic of statistics) {
      const [least, most] = limits[nth % 3]!;
      const others = {
        personas: who[nth % 3]!,
        sessions: 100 + nth,
        seconds: 90,
        seed: 7,
        start: nth % 2 === 0 ? null : 'late',
        than: statistic.type !== 'quantile' && nth % 5 === 0 ? 'First fair pass' : null,
      };
      const target = { ...others, outcome, statistic, least, most, order: 0 };
      expect([targetText(level, target), read(targetText(level, target))]).toEqual([targetText(level, target), target]);
      nth += 1;
    }
  }
  const within = { ...read('at least 80 % finish'), outcome: { type: 'finishes', within: 60.5 } as const };
  expect(read(targetText(level, within))).toEqual(within);
});

test.each([
  ['30–50 % of hasty players lose a life', 'Of 200 hasty players, 30 to 50 of 100 lose a life'],
  ['At least 90 percent of wary players must finish in 60 seconds.', 'Of 200 wary players, at least 90 of 100 finish within 60 s'],
  ['steady: median final health 60-80', 'Of 200 steady players, the median of final health is 60 to 80'],
  ['500 newcomers: mean deaths ≤ 1.5', 'Of 500 newcomer players, the mean of deaths is at most 1.5'],
  ['health is at least 60 and at most 80', 'Of 200 players, the median of final health is 60 to 80'],
  ['80 to 100 % of hasty have final health of at least 20', 'Of 200 hasty players, 80 to 100 of 100 have final health of at least 20'],
  [
    'hasty: final health no worse than “first fair pass” by more than 5',
    'Of 200 hasty players, the mean of final health is at least −5 more than in “first fair pass”',
  ],
  ['finish no worse than "First" by more than 2.5 %', 'Of 200 players, at least −2.5 of 100 more than in “First” finish'],
  ['deaths of wary players are no worse than “First”', 'Of 200 wary players, the mean of deaths is at most 0 more than in “First”'],
  ['uses of cooling basin 1 between 2 and 4', 'Of 200 players, the mean of uses of cooling basin 1 is 2 to 4'],
])('%s', (words, shown) => {
  expect(targetText(level, read(words))).toContain(shown);
});

test.each([
  ['hasty players lose a life', 'say how many'],
  ['at least 90 wary players lose a life', 'of 100'],
  ['at least 80 % have final health', 'say between what final health lies'],
  ['at least 80 % of jumpy players finish', '“jumpy” is not understood'],
  ['at least 80 % enjoy it', 'say what is asked'],
  ['50 to 30 % lose a life', 'contradicts itself'],
  ['mean time of at most 30 s in at least 20 % and at most 40 u', 'more limits'],
  ['at least 20 % finish and at least 10 % lose a life', 'is not understood'],
  ['median of time at most 5 more than in “first fair pass”', 'against a version the mean'],
  ['time no worse than “First” by more than 3', 'say which way time is worse'],
  ['median final health no worse than “First”', 'against a version the mean'],
  ['at least 5 deaths no worse than “First”', 'more limits'],
  ['final score at least 1,000', 'could be read two ways'],
  ['no hasty players lose a life', '“no” is not understood'],
  ['', 'say what is asked'],
])('“%s” is refused in words', (words, why) => {
  expect(readTarget(level, words)).toEqual({ ok: false, why: expect.stringContaining(why) as string });
});

test('several are parted by semicolons, lines and full stops, not by decimal points', () => {
  const both =
    'Of 200 hasty players, 30 to 50.5 of 100 lose a life (up to 120 s each, from seed 1). at least 90 % of wary finish; mean score ≥ 2.5\n';
  expect(targetsIn(both).map((one) => readTarget(level, one).ok)).toEqual([true, true, true]);
  expect(targetsIn(' ;\n')).toEqual([]);
});
