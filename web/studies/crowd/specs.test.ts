import { parseLevel, parseLevelText } from '../../../core/level/index.ts';
import { SIMULATION_VERSION } from '../../../core/session/index.ts';
import { CrowdSettings, playShard } from '../../../core/studies/index.ts';
import { readFileSync } from 'node:fs';
import { tableOf } from '../../charts/spec.ts';
import { sessionOf, toBeWalked, walkAsked, walkOf } from '../../state/slices/simulated.ts';
import { isShown } from '../../state/sync/opening.ts';
import { resultOf } from './result.ts';
import { aliveSpec, dotsSpec, endingAt, rowsOf } from './specs.ts';

const parsed = parseLevelText(readFileSync('demo/chimney-climb/level.json', 'utf8'));
if (!parsed.ok) throw new Error('the demo is not valid');
const level = parsed.value;
const settings = CrowdSettings.parse({
  personas: [
    { persona: 'hasty', sessions: 4 },
    { persona: 'newcomer', sessions: 3 },
  ],
  seconds: 30,
});
const part = (from: number, to: number) => playShard(level, settings, { from, to });
const study = {
  id: 's',
  name: 's',
  revision: 1,
  settings,
  sessions: 7,
  done: 7,
  state: 'done',
  why: null,
  outcome: null,
  simulation: SIMULATION_VERSION,
  asking: 1,
  createdAt: '',
  endedAt: null,
} as const;

const empty = { document: level, versions: {}, answers: [] };

test('a crowd is drawn the same in whatever parts it came, and read as a table', () => {
  const result = resultOf({ ...study, ...empty, parts: [part(3, 7), part(0, 3)] })!;
  expect(result).toEqual(resultOf({ ...study, ...empty, parts: [part(0, 7)] }));
  const alive = aliveSpec(result);
  for (const { points } of alive.panels[0]!.lines) {
    expect(points[0]).toEqual([0, 100]);
    // It only falls, and goes from side to side.
    expect(points.every(([x, y], at) => at === 0 || (x >= points[at - 1]![0] && y <= points[at - 1]![1]))).toBe(true);
    expect(points.at(-1)![0]).toBe(alive.x.high);
  }
  const dots = dotsSpec(result, 'time')!;
  expect(dots.rows.map(({ name, values }) => [name, values.length])).toEqual([
    ['hasty', 4],
    ['newcomer', 3],
  ]);
  // A dot is known by its number among those of its persona.
  expect(dots.rows[1]!.values[2]).toBe(rowsOf(result, 1)[2]!.seconds);
  expect(Math.max(...dots.rows.flatMap(({ values }) => values))).toBeLessThanOrEqual(dots.x.high);
  expect(tableOf(dots).rows.map(([name, count]) => [name, count])).toEqual([
    ['hasty', '4'],
    ['newcomer', '3'],
  ]);
  expect(dotsSpec(result, 'no such measure')).toBeNull();
  // The range of a target is drawn with those it speaks of: where its share counts, else where its middle has to lie.
  const held = parseLevel({
    ...level,
    targets: {
      slow: { order: 0, outcome: { type: 'time' }, statistic: { type: 'share', from: null, to: 25 }, least: 80, personas: ['hasty'] },
      all: { order: 1, outcome: { type: 'time' }, statistic: { type: 'mean' }, least: 5, most: 30 },
      versions: { order: 2, outcome: { type: 'time' }, statistic: { type: 'mean' }, least: 0, than: 'as it was' },
    },
  });
  if (!held.ok) throw new Error(held.problems[0]?.message);
  const ranges = dotsSpec({ ...result, level: held.value }, 'time')!;
  expect(ranges.rows.map(({ wished }) => wished)).toEqual([
    [
      { from: -Infinity, to: 25 },
      { from: 5, to: 30 },
    ],
    [{ from: 5, to: 30 }],
  ]);
  expect(tableOf(ranges).rows[0]!.at(-1)).toBe('≤ 25, 5–30');
});

test('a compared crowd lies over it, persona by persona; a line that is pressed leads to the death that is nearest', () => {
  const now = resultOf({ ...study, ...empty, parts: [part(0, 7)] })!;
  const others = CrowdSettings.parse({ personas: [{ persona: 'newcomer', sessions: 2 }], seconds: 30 });
  const parts = [playShard(level, others, { from: 0, to: 2 })];
  const was = resultOf({ ...study, settings: others, ...empty, parts })!;
  const lines = aliveSpec(now, was).panels[0]!.lines.map(({ name, was: compared = false }) => [name, compared]);
  expect(lines).toEqual([
    ['hasty', false],
    ['newcomer', false],
    ['newcomer', true],
  ]);
  expect(tableOf(aliveSpec(now, was)).heads).toContain('alive: newcomer, compared');
  const dots = dotsSpec(now, 'time', was)!;
  expect(dots.rows.map((row) => row.was?.values.length ?? 0)).toEqual([0, 2]);
  expect(tableOf(dots).rows.map(([name]) => name)).toEqual(['hasty', 'newcomer', 'newcomer, compared']);
  // Of those who die the first death counts; where nobody dies, the end.
  const dying = (deaths: readonly (readonly number[])[]) => ({
    ...now,
    summary: {
      ...now.summary,
      rows: rowsOf(now, 0).map((row, nth) => ({
        ...row,
        seconds: 10 * nth,
        deaths: (deaths[nth] ?? []).map((seconds) => ({ seconds, player: 0, thing: null, x: 0, y: 0 })),
      })),
    },
  });
  const found = (deaths: readonly (readonly number[])[], at: number) => {
    const ending = endingAt(dying(deaths), 0, at);
    return [ending?.row.index, ending?.at];
  };
  const [first, second, third] = rowsOf(now, 0).map(({ index }) => index);
  expect(found([[4, 20], [11], []], 19)).toEqual([second, 11]);
  expect(found([[4, 20], [11], []], 5)).toEqual([first, 4]);
  expect(found([], 19)).toEqual([third, 20]);
});

test('a session of a crowd is asked for by persona, seed and how long it goes on, and told from others', () => {
  const asked = sessionOf('wary', 17, 120);
  expect(walkAsked(asked)).toEqual({ personas: ['wary'], route: undefined, seed: 17, seconds: 120 });
  const run = toBeWalked(level, walkAsked(asked)!);
  expect([run.run.seed, run.seconds, walkOf(run)]).toEqual([17, 120, 'persona:wary']);
  expect(isShown({ level, run }, asked)).toBe(true);
  expect(isShown({ level, run }, sessionOf('wary', 18, 120))).toBe(false);
  // Asked for without a seed, whatever seed it has is as good.
  expect(isShown({ level, run }, 'persona:wary')).toBe(true);
  expect(isShown({ level, run }, 'persona:hasty')).toBe(false);
  expect(walkAsked('persona:wary,hasty/round')).toMatchObject({ personas: ['wary', 'hasty'], route: 'round', seed: undefined });
  expect(walkAsked('persona:wary:no:way')).toMatchObject({ seed: undefined, seconds: undefined });
  expect(walkAsked('walk:round')).toEqual({ route: 'round' });
  expect(walkAsked('some-run')).toBeNull();
});
