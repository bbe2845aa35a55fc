import { parseLevel, type Level, type Target } from '../level/index.ts';
import type { Estimate, SeekResult, SensitivityResult, SweepResult, TuneResult, Verdict } from '../studies/index.ts';
import { circle, kind, level, meterEffect } from '../testing/levels.ts';
import {
  changesText,
  checkJunit,
  checkSarif,
  dialName,
  movesPlaces,
  movesText,
  seekSentence,
  sensitivitySentence,
  shortTarget,
  sweepCsv,
  sweepSentence,
  targetSentence,
  targetText,
  tuneSentence,
  verdictText,
} from './index.ts';

const pit = kind(
  circle(1),
  { setOffBy: { type: 'arriving' }, effects: meterEffect('health', 'take', 50), becomes: { type: 'rests', seconds: 4 } },
  { name: 'slip pit' },
);
const base = level({
  kinds: { pit },
  placements: { a: { kind: 'pit', x: 3, y: 3 } },
  personas: { steady: { name: 'steady' }, hasty: { name: 'hasty', order: 2 } },
});
const SHARE = { type: 'share', from: null, to: null };
const FINISHES = { outcome: { type: 'finishes', within: null }, statistic: SHARE, least: 80 };

function held(given: object): { readonly document: Level; readonly target: Target } {
  const made = parseLevel({ ...base, targets: { one: { ...FINISHES, ...given } } });
  if (!made.ok) throw new Error(made.problems[0]!.message);
  return { document: made.value, target: made.value.targets['one']! };
}

test.each([
  [{}, 'Of 200 players, at least 80 of 100 finish (up to 120 s each, from seed 1).', '≥ 80 of 100 finish'],
  [
    { outcome: { type: 'finishes', within: 60 }, most: 95, personas: ['steady', 'hasty'] },
    'Of 200 steady and hasty players, 80 to 95 of 100 finish within 60 s (up to 120 s each, from seed 1).',
    'steady, hasty: 80–95 of 100 finish within 60 s',
  ],
  [
    { outcome: { type: 'loses a life' }, least: null, most: 10, sessions: 40, seconds: 30 },
    'Of 40 players, at most 10 of 100 lose a life (up to 30 s each, from seed 1).',
    '≤ 10 of 100 lose a life',
  ],
  [
    { outcome: { type: 'time' }, statistic: { type: 'quantile', below: 0.5 }, least: 12, most: 20, personas: ['hasty'] },
    'Of 200 hasty players, the median of time is 12 to 20 s (up to 120 s each, from seed 1).',
    'hasty: median time 12–20',
  ],
  [
    { outcome: { type: 'final', meter: 'health' }, statistic: { type: 'share', from: 60, to: null } },
    'Of 200 players, at least 80 of 100 have final health of at least 60 (up to 120 s each, from seed 1).',
    '≥ 80 of 100 final health ≥ 60',
  ],
  [
    { outcome: { type: 'uses', of: { type: 'kind', kind: 'pit' } }, statistic: { type: 'mean' }, least: -1, than: 'dusk' },
    'Of 200 players, the mean of uses of slip pit is at least −1 more than in “dusk” (up to 120 s each, from seed 1).',
    'mean uses of slip pit ≥ −1 more than in “dusk”',
  ],
])('the target %j is said in full and in short', (given, full, short) => {
  const { document, target } = held(given);
  expect([targetText(document, target), shortTarget(document, target)]).toEqual([full, short]);
  // Every number leads to a dial of the target.
  const paths = targetSentence(document, target, '/targets/one').flatMap(({ path }) => path ?? []);
  expect(paths.length).toBeGreaterThanOrEqual(4);
  expect(paths.every((path) => path.startsWith('/targets/one/'))).toBe(true);
});

const estimate = (value: number, low: number, high: number, sessions = 100): Estimate => ({ value, low, high, sessions });
const verdict = (state: Verdict['state'], given: Partial<Verdict> = {}): Verdict => {
  return { target: 'one', state, estimate: estimate(74, 65, 82), by: 0, wanted: null, why: null, ...given };
};

test('a verdict says its figure, how sure it is, and what would decide it', () => {
  expect(verdictText(verdict('met'))).toBe('met: 74 (65–82) from 100 sessions');
  expect(verdictText(verdict('missed', { by: 6 }))).toBe('missed by 6: 74 (65–82) from 100 sessions');
  expect(verdictText(verdict('undecided', { wanted: 640 }))).toContain('about 640 sessions would decide it');
  expect(verdictText(verdict('undecided'))).toContain('no number of sessions would decide it');
  expect(verdictText(verdict('not judged', { estimate: null, why: 'it is gone' }))).toBe('not judged: it is gone');
  expect(verdictText(verdict('met', { estimate: estimate(-3.1, -4.2, -2) }))).toBe('met: −3.1 (−4.2 to −2) from 100 sessions');
});

test('a check for build servers keeps signs that XML has for itself, and names the target by its pointer', () => {
  const { document } = held({ than: 'a < b & "c"' });
  const finding = {
    id: 'stacked-things one',
    code: 'stacked-things',
    title: 'two things',
    severity: 'probably not meant' as const,
    at: '/placements/one',
    what: 'Two < three.',
    why: 'So it is.',
  };
  const [junit, sarif] = [
    checkJunit(document, [verdict('missed')], [finding]),
    checkSarif(document, [verdict('missed'), verdict('met')], [finding], 'a level.json'),
  ];
  expect(junit).toContain('a &lt; b &amp; &quot;c&quot;');
  expect(junit).not.toContain('a < b');
  const { runs } = JSON.parse(sarif) as {
    runs: [{ results: { locations: [{ physicalLocation: { artifactLocation: { uri: string } } }] }[] }];
  };
  expect(runs[0].results.map(({ locations }) => locations[0].physicalLocation.artifactLocation.uri)).toEqual([
    'a%20level.json',
    'a%20level.json',
  ]);
  expect(junit).toContain('name="stacked-things one"><failure message="Two &lt; three. So it is." type="probably not meant">');
  expect(sarif).toContain('"ruleId": "finding/stacked-things",\n          "level": "warning"');
});

const REST = { paths: [Object.keys(base.kinds['pit']!.rules).map((id) => `/kinds/pit/rules/${id}/becomes/seconds`)[0]!] };
const crowd = { personas: [{ persona: 'steady', sessions: 40 }], seconds: 60, seed: 1, start: null };
const median = { outcome: { type: 'final' as const, meter: 'health' }, statistic: { type: 'quantile' as const, below: 0.5 } };

test('dials are called by what they are of; a sweep is said from its least to its most', () => {
  expect(dialName(base, REST)).toBe('slip pit: rests for');
  expect(dialName(base, { paths: ['/body/speed'] })).toBe('player: walk speed');
  expect(dialName(base, { paths: ['/personas/hasty/haste'] })).toBe('hasty: haste');
  const settings = { dials: [{ ...REST, values: [2, 4] }], figures: [median], crowd };
  const cell = (at: number, estimates: Estimate[], problem: string | null = null) => ({
    at: [at],
    estimates,
    lying: [],
    typical: 0,
    problem,
  });
  const result: SweepResult = {
    cells: [cell(0, [estimate(62, 58, 66)]), cell(1, [estimate(48, 45, 52.5)])],
    done: 2,
    apart: estimate(14, 2, 26),
  };
  expect(sweepSentence(base, settings, result)).toBe(
    'Median final health is 48 (45–52.5) at the least, with slip pit: rests for at 4 s, and 62 (58–66) at the most, at 2 s.',
  );
  expect(sweepSentence(base, settings, { ...result, apart: estimate(14, -1, 29) })).toMatch(/at 2 s\. That may be chance: /);
  const same: SweepResult = { cells: [cell(0, [estimate(62, 58, 66)]), cell(1, [], 'too long')], done: 2, apart: null };
  expect(sweepSentence(base, settings, same)).toBe('Median final health is 62 (58–66) whatever slip pit: rests for is.');
  expect(sweepSentence(base, settings, { cells: [cell(0, [])], done: 0, apart: null })).toBe('Nothing has been played yet.');
  expect(sweepCsv(base, settings, same).split('\r\n').slice(0, 3)).toEqual([
    'slip pit: rests for,median final health,low (95 %),high (95 %),sessions,problem',
    '2,62,58,66,100,',
    '4,,,,0,too long',
  ]);
});

test('seek says one value, several, a jump, or that there is none and how near it comes', () => {
  const settings = { dial: REST, from: 2, to: 12, figure: median, wish: 60, crowd };
  const points = [
    { value: 2, estimate: estimate(41, 38, 44) },
    { value: 12, estimate: estimate(48, 45, 52) },
  ];
  const said = (found: SeekResult['found'], done = true): string => seekSentence(base, settings, { points, found, sessions: 80, done });
  expect(said([])).toBe('None: from 2 to 12 s, median final health goes no higher than 48 (45–52), at 12 s; 60 is not reached.');
  expect(said([], false)).toBe('Not found so far: from 2 to 12 s, median final health is 41–48 where it was looked at.');
  const one = { value: 3.1, low: 2.8, high: 3.4, jump: false };
  expect(said([one])).toBe('Slip pit: rests for at 3.1 s (2.8–3.4) gives median final health 60.');
  expect(said([one, { value: 8.4, low: 8, high: 9, jump: true }])).toBe(
    '2 values: slip pit: rests for at 3.1 s (2.8–3.4) and at 8.4 s, where it jumps over it gives median final health 60.',
  );
});

test('what matters names the first two; tuning says what it found, and which targets contradict each other', () => {
  const settings = { dials: [REST, { paths: ['/body/speed'] }], share: 0.2, figure: median, crowd, atATime: null };
  const effect = (dial: number, moves: Estimate | null) => ({ dial, down: 1, up: 2, moves, atDown: null, atUp: null, problem: null });
  const effects = [effect(1, estimate(9, 7, 11)), effect(0, estimate(-3, -5, -1))];
  const result: SensitivityResult = { base: estimate(60, 58, 62), effects, interactions: [] };
  expect(sensitivitySentence(base, settings, result)).toBe('Player: walk speed moves median final health most, then slip pit: rests for.');
  const unseen = { ...result, effects: [effect(0, estimate(1, -2, 4))] };
  expect(sensitivitySentence(base, settings, unseen)).toContain('No effect of any of these dials');
  // While some are to come, nothing is said of all.
  const part = (known: (typeof effects)[number]) => sensitivitySentence(base, settings, { ...result, effects: [known, effect(1, null)] });
  expect(part(effect(0, estimate(1, -2, 4)))).toBe('No effect on median final health has been seen yet: 1 of 2 dials have been nudged.');
  expect(part(effect(0, estimate(-3, -5, -1)))).toBe('Slip pit: rests for moves median final health most so far.');

  const { document } = held({});
  const tuned = { dials: [{ ...REST, from: 2, to: 9, step: null, weight: 1 }], targets: [], sessions: 1000, seed: 1 };
  const candidate = { name: 'smallest change' as const, values: [5.5], verdicts: [verdict('met')], fresh: true };
  expect(changesText(document, tuned, candidate)).toBe('slip pit: rests for 4 → 5.5 s');
  expect(changesText(document, tuned, { ...candidate, values: [4] })).toBe('nothing changed');
  const found: TuneResult = { candidates: [candidate], contradict: [], unmet: [], tradeOff: null, sessions: 900, tried: 30 };
  expect(tuneSentence(document, found)).toBe(
    'One setting meets all targets: 30 settings tried with 900 sessions; judged by fresh sessions.',
  );
  const none = { ...found, candidates: [{ ...candidate, verdicts: [verdict('missed')] }], contradict: ['one', 'two'] };
  expect(tuneSentence(document, none)).toContain(
    'they contradict each other: each of “≥ 80 of 100 finish” and “two” is met alone, never all together',
  );
  expect(tuneSentence(document, { ...found, candidates: [{ ...candidate, verdicts: [verdict('undecided')] }] })).toContain(
    'though one misses none for sure',
  );
  expect(tuneSentence(document, { ...found, candidates: none.candidates, unmet: ['two'] })).toContain(
    'come nearest: 30 settings tried with 900 sessions; judged by fresh sessions. Nothing that was tried meets “two”.',
  );
});

test('small moves are told in two figures of the longest, large ones in tenths', () => {
  const moved = (value: number, low: number, high: number) => ({
    dial: 0,
    down: 1,
    up: 2,
    atDown: null,
    atUp: null,
    problem: null,
    moves: { value, low, high, sessions: 200 },
  });
  const told = (...effects: ReturnType<typeof moved>[]) => effects.map(({ moves }) => movesText(moves, movesPlaces(effects)));
  expect(told(moved(0.118, 0.064, 0.172), moved(-0.031, -0.06, -0.002))).toEqual(['+0.12 (0.06–0.17)', '−0.03 (−0.06 to 0)']);
  expect(told(moved(12.34, 10.26, 14.4))).toEqual(['+12.3 (10.3–14.4)']);
});
