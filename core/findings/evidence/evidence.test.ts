import { REASONS } from '../../session/index.ts';
import { usualCrowd, type SensitivityResult, type SessionRow, type TouchRow } from '../../studies/index.ts';
import type { Run } from '../../players/index.ts';
import { basin, level, pressed, shard, vent } from '../../testing/levels.ts';
import { crowdFindings, EVIDENCE, runFindings, unfeltFindings } from '../index.ts';

/** Two shards, a basin and a vent: things nought to three. */
const works = level({
  kinds: { shard, basin, vent },
  placements: {
    near: { kind: 'shard', order: 0, x: 4, y: 10 },
    far: { kind: 'shard', order: 1, x: 50, y: 10 },
    basin: { kind: 'basin', order: 2, x: 10, y: 10 },
    vent: { kind: 'vent', order: 3, x: 30, y: 10 },
  },
});

const touch = (thing: number, given: Partial<TouchRow> = {}): TouchRow => ({
  thing,
  uses: 1,
  firstUseSeconds: 9,
  healed: 0,
  wasted: 0,
  hurt: 0,
  scored: 0,
  waitingSeconds: 0,
  refused: [],
  ...given,
});
const row = (index: number, given: Partial<SessionRow> = {}): SessionRow => ({
  index,
  persona: 0,
  seed: index + 1,
  ended: 'won',
  seconds: 30,
  final: [100, 0],
  lowest: [100, 0],
  items: [],
  deaths: [],
  deathCount: 0,
  distance: 60,
  still: 0,
  changed: 0,
  last: [30, 10],
  inside: null,
  touched: [touch(0), touch(1), touch(2), touch(3)],
  track: null,
  ...given,
});
/** Forty sessions, each made from its number. */
const crowd = (made: (index: number) => Partial<SessionRow>): SessionRow[] =>
  Array.from({ length: 40 }, (_, index) => row(index, made(index)));
const at = (x: number, y: number): SessionRow['deaths'][number] => ({ seconds: 5, player: 0, thing: 3, x, y });
const dies = (x: number): Partial<SessionRow> => ({ deaths: [at(x, 10)], deathCount: 1 });
const without = (thing: number): TouchRow[] => [0, 1, 2, 3].filter((one) => one !== thing).map((one) => touch(one));
const wasting =
  (wasted: number) =>
  (index: number): Partial<SessionRow> =>
    index < 8 ? { touched: [...without(2), touch(2, { healed: 30 - wasted, wasted })] } : {};
const lost = (index: number): Partial<SessionRow> => ({ ended: 'gave up', last: [9 * index, 10] });
const codes = (rows: readonly SessionRow[]): string[] => crowdFindings(works, rows).map(({ code }) => code);

test.each<[string, (index: number) => Partial<SessionRow>, (index: number) => Partial<SessionRow>]>([
  ['never-touched', () => ({ touched: without(1) }), (index) => (index === 7 ? {} : { touched: without(1) })],
  // In 36 of 40 within three seconds: 90 of 100.
  [
    'used-at-once',
    (index) => ({ touched: [...without(2), touch(2, { firstUseSeconds: index < 36 ? 3 : 8 })] }),
    (index) => ({ touched: [...without(2), touch(2, { firstUseSeconds: index < 35 ? 3 : 8 })] }),
  ],
  [
    'refused-often',
    () => ({ touched: [...without(2), touch(2, { refused: [[REASONS.indexOf('resting'), 6]] })] }),
    () => ({ touched: [...without(2), touch(2, { refused: [[REASONS.indexOf('resting'), 5]] })] }),
  ],
  [
    'waited-for',
    (index) => ({ touched: [...without(2), touch(2, { waitingSeconds: index % 4 === 0 ? 2 : 0 })] }),
    (index) => ({ touched: [...without(2), touch(2, { waitingSeconds: index % 4 === 0 ? 1.9 : 0 })] }),
  ],
  // In eight of forty sessions 12 of 30 are lost; and 11.
  ['healing-wasted', wasting(12), wasting(11)],
  // Eight die, four of them within 1.5 u of each other; of eight others three.
  [
    'deaths-at-one-spot',
    (index) => (index < 8 ? dies(index < 4 ? 30 : 3 * index) : {}),
    (index) => (index < 8 ? dies(index < 3 ? 30 : 3 * index) : {}),
  ],
  // Four of forty give up, two of them within 1.5 u of each other; of four others none.
  [
    'stuck-at-one-spot',
    (index) => (index < 4 ? { ended: 'gave up', last: [index < 2 ? 30 : 9 * index, 10] } : {}),
    (index) => (index < 4 ? { ended: 'gave up', last: [9 * index, 10] } : {}),
  ],
  ['gave-up', (index) => (index < 6 ? lost(index) : {}), (index) => (index < 5 ? lost(index) : {})],
])('%s is shown by sessions that have it, and not by such as nearly have it', (code, has, nearly) => {
  expect(codes(crowd(has))).toEqual([code]);
  expect(codes(crowd(nearly))).toEqual([]);
});

test('every sort is tried, says why with its numbers, and few sessions show nothing', () => {
  expect(EVIDENCE).toHaveLength(8);
  const [found] = crowdFindings(
    works,
    crowd(() => ({ touched: without(1) })),
  );
  expect(found).toMatchObject({
    what: 'thing: nobody touched 1 of 2.',
    where: { placements: ['far'] },
    why: expect.stringContaining('In 40 sessions') as string,
    meant: null,
  });
  expect(crowdFindings(works, crowd(() => ({ touched: without(1) })).slice(0, 19))).toEqual([]);
  const aside = { ...works, meant: { [found!.key]: { finding: found!.id, cause: found!.cause, reason: 'a secret' } } };
  expect(
    crowdFindings(
      aside,
      crowd(() => ({ touched: without(1) })),
    )[0]!.meant,
  ).toBe('a secret');
});

test('a dial is not felt whose double moves an outcome by less than sessions differ by themselves', () => {
  const path = '/kinds/vent/rules/act/effects/effect/amount';
  const settings = {
    dials: [{ paths: [path] }],
    share: 0.2,
    figure: { outcome: { type: 'final' as const, meter: 'health' }, statistic: { type: 'mean' as const } },
    crowd: usualCrowd(works),
    atATime: null,
  };
  // By a fifth down and a fifth up, so two and a half times as far for the double.
  const moved = (low: number, high: number, spread: number | null): SensitivityResult => {
    const effect = { dial: 0, down: 9.6, up: 14.4, atDown: null, atUp: null, problem: null };
    return { base: null, spread, effects: [{ ...effect, moves: { value: (low + high) / 2, low, high, sessions: 100 } }], interactions: [] };
  };
  const told = (result: SensitivityResult): string[] => unfeltFindings(works, settings, result).map(({ why }) => why);
  expect(told(moved(-3.9, -1, 10))).toEqual([expect.stringContaining('by 9.8 at most; by 10 sessions differ anyway')]);
  expect([told(moved(-4, -1, 10)), told(moved(-3.9, -1, null))]).toEqual([[], []]);
});

test('three runs of people show what nobody touches; two show nothing', () => {
  // Four seconds to the right: through the near shard at 4 u and onto the basin at 10 u.
  const runs = Array.from({ length: 3 }, () => pressed(60, [4, 1, 0]));
  const told = (some: readonly Run[]): string[] => runFindings(works, some).map(({ id }) => id);
  expect(told(runs)).toEqual(['never-touched shard', 'never-touched vent']);
  expect(told(runs.slice(1))).toEqual([]);
});
