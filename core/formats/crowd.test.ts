import type { CrowdReport, Estimate, GroupReport, SessionRow } from '../studies/index.ts';
import { CrowdSettings } from '../studies/index.ts';
import { kind, level, circle, meterEffect } from '../testing/levels.ts';
import { crowdCsv, crowdSentence, crowdText, rangeText, touchFigures, writeNumbersWith } from './index.ts';

const pit = kind(circle(1), { setOffBy: { type: 'arriving' }, effects: meterEffect('health', 'take', 50) }, { name: 'slip pit' });
const document = level({
  kinds: { pit, tin: { ...pit, name: '=salve' } },
  placements: { a: { kind: 'pit', x: 3, y: 3 }, b: { kind: 'pit', x: 5, y: 3, order: 2 }, c: { kind: 'tin', x: 8, y: 3, order: 3 } },
});

const share = (value: number, sessions = 100): Estimate => ({
  value,
  low: Math.max(0, value - 0.05),
  high: Math.min(1, value + 0.05),
  sessions,
});
const group = (persona: string | null, finish: number, lose: number, diesAt: number | null = null): GroupReport => ({
  persona,
  sessions: 100,
  finishes: share(finish),
  losesALife: share(lose),
  diesAt,
  ended: { won: 90, 'gave up': 10 },
  alive: [],
  spreads: [
    {
      measure: 'final health',
      unit: '',
      mean: share(58),
      median: { value: 58.4, low: 56, high: 60, sessions: 100 },
      tenth: 31,
      ninetieth: 88,
    },
  ],
});
const thing = (placement: string, touched: number, deaths = 0): CrowdReport['things'][number] => ({
  thing: ['a', 'b', 'c', 'd'].indexOf(placement),
  placement,
  kind: 'pit',
  touched: share(touched),
  uses: touched,
  usesBy: [touched, touched],
  refused: touched > 0 ? [{ reason: 'resting', times: 0.25 }] : [],
  health: -50 * touched,
  wasted: 0,
  scored: 0,
  waitingSeconds: 0,
  firstUseSeconds: touched > 0 ? 12 : null,
  deaths,
});
const report = (parts: Partial<CrowdReport>): CrowdReport => ({
  asked: 200,
  sessions: 200,
  deaths: 40,
  all: group(null, 0.86, 0.2),
  personas: [group('steady', 0.97, 0.05), group('hasty', 0.75, 0.44, 0)],
  things: [thing('c', 0), thing('a', 0.9, 30), thing('b', 0.4, 10)],
  ...parts,
});
const said = (one: CrowdReport): string =>
  crowdSentence(document, one)
    .map(({ text }) => text)
    .join('');

test('a crowd is answered in a sentence: who finishes, with what, who loses lives at what, and what nobody touched', () => {
  expect(said(report({}))).toBe(
    '86 of 100 finish (81–91); half end with 58 health or more (56–60). Of all, hasty loses a life most often: in 44 of 100 (39–49), mostly at slip pit 1. Nobody ever touched =salve.',
  );
  expect(crowdSentence(document, report({})).find(({ as }) => as === 'thing')).toMatchObject({
    text: 'slip pit 1',
    placement: 'a',
    dies: 'hasty',
  });
  // Where no one thing has more than half of the deaths of those, none is named.
  expect(said(report({ personas: [group('steady', 0.97, 0.05, 0), group('hasty', 0.75, 0.44)] }))).not.toContain('mostly');
  expect(said(report({ personas: [], all: group(null, 1, 0), things: [] }))).toBe(
    '100 of 100 finish (95–100); half end with 58 health or more (56–60). Nobody loses a life.',
  );
  expect(said(report({ sessions: 0 }))).toBe('No session has been played yet.');
  const many = ['a', 'b', 'c', 'd'].map((id) => thing(id, 0));
  expect(said(report({ things: many }))).toContain('Nobody ever touched 4 things.');
});

test('for a terminal it says what is missing, and each thing in a line', () => {
  const text = crowdText(document, report({ sessions: 120 }));
  expect(text).toContain('120 sessions (of 200 asked for). 86 of 100 finish');
  expect(text).toContain(
    '  hasty, 100: finish 75 of 100 (70–80), lose a life 44 of 100 (39–49); final health 58.4 (31–88); won 90, gave up 10',
  );
  expect(text).toContain('  =salve: never touched');
  expect(text).toContain('  slip pit 1: touched by 90 %, used 0.9 a session, refused resting 0.25, health −45, 30 deaths');
  expect([rangeText(3, 3.04), rangeText(0.5, 1.25, 1)]).toEqual(['3', '0.5–1.3']);
});

test('a file of a crowd has a row a session, in signs that every program reads, and no formula', () => {
  const row = {
    index: 0,
    persona: 0,
    seed: 7,
    ended: 'won',
    seconds: 12.5,
    final: [70.25, 15],
    lowest: [40, 0],
    items: [],
    deaths: [],
    deathCount: 1,
    distance: 30.5,
    still: 0,
    changed: 2,
    inside: null,
    last: [],
    touched: [],
    track: null,
  } satisfies SessionRow;
  const settings = CrowdSettings.parse({ personas: [{ persona: 'steady', sessions: 1 }] });
  writeNumbersWith(',');
  const [heads, first] = crowdCsv(document, settings, [row]).split('\r\n');
  writeNumbersWith('.');
  expect(heads).toBe(
    'session,persona,seed,ended,seconds,finishes,loses a life,final health,lowest health,final score,lowest score,deaths,distance (u),standing still (s),changed movement (%),waiting (s)',
  );
  expect(first).toBe('0,steady,7,won,12.5,1,1,70.25,40,15,0,1,30.5,0,16,0');
});

test('what a crowd did at a thing is said in figures, with what they were in another version', () => {
  const said = (now: number, before: number | null): string[] =>
    touchFigures(thing('a', now), before === null ? null : thing('a', before, 30)).map(
      ({ name, figure, was }) => `${name} ${figure}${was === null ? '' : `, was ${was}`}`,
    );
  expect(said(0.4, null)).toEqual(['of 100 players touch it 40', 'times used, a player 0.4', 'times refused 0.25', 'health taken 20']);
  // What has come to nothing is still said, and what is the same has no other.
  expect(said(0, 0.4)).toEqual([
    'of 100 players touch it 0, was 40',
    'times used, a player 0, was 0.4',
    'times refused 0, was 0.25',
    'health taken 0, was 20',
    'deaths in 100 sessions 0, was 30',
  ]);
  expect(touchFigures(thing('a', 0.4), thing('a', 0.4)).every(({ was }) => was === null)).toBe(true);
});
