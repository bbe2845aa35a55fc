import { level, play, pressed, runOf, shard } from '../../core/testing/levels.ts';
import { compile, lineNames } from '../../core/session/index.ts';
import type { Lane } from '../drawing/lanes/laneDrawing.ts';
import { shownOf, works } from '../testing/shown.ts';
import { eventStep, isEvent } from './events.ts';
import { changesInForce } from './inForce.ts';
import { arranged, FOLDED_HEIGHT, lanesOf } from './lanes.ts';
import { stripRows } from './rows.ts';
import { clampView, zoomed } from './timeView.ts';
import { ledgerOf } from '../state/simulation/lines.ts';

const shown = shownOf(works, 7);
const { lines } = play(works, pressed(60, [7, 1, 0]));
const palette = { role: { mend: 'm', score: 's', carry: 'c', movement: 'v' } } as never;

const ALONE = { ghost: null, crowd: null, crowdWas: null };

test('zooming keeps the moment it is about where it is, and the view inside the session', () => {
  const near = zoomed({ from: 0, to: 100 }, 25, 0.5);
  expect([near, (25 - near.from) / (near.to - near.from)]).toEqual([{ from: 12.5, to: 62.5 }, 0.25]);
  expect(clampView({ from: -5, to: 15 }, 100, 1)).toEqual({ from: 0, to: 20 });
  expect(clampView({ from: 95, to: 130 }, 100, 1)).toEqual({ from: 65, to: 100 });
  expect(clampView({ from: 50, to: 50.01 }, 100, 1)).toEqual({ from: 50, to: 51 });
});

test('from event to event: those of what is chosen, else what happened to a player', () => {
  const none = { kind: null, placements: [], solid: null, spot: null };
  const counts = (kind: string | null) => (line: (typeof lines)[number]) => isEvent(line, works, { ...none, kind });
  const first = eventStep(lines, 0, 1, counts('basin')) ?? 0;
  // The basin begins at 15, is touched at 14.5: (14.5 − 1) / 4 = 3.375 s, in step 203.
  expect(first).toBe(203);
  expect(eventStep(lines, first, -1, counts('basin'))).toBeNull();
  // The shard is met at 21, at the very end of the 300th step or the beginning of the next.
  expect([300, 301]).toContain(eventStep(lines, first, 1, counts('shard')));
  expect(eventStep(lines, first, -1, counts(null))).toBeLessThan(first);
});

test('lanes: what nobody carries is left out; chosen, ordered and folded as arranged', () => {
  const lanes = lanesOf(shown, ALONE, palette);
  const keys = (list: readonly Lane[]): string[] => list.map(({ key }) => key);
  expect(keys(lanes)).toEqual(['health', 'score', 'speed']);
  const made = arranged(lanes, { order: ['speed'], hidden: ['score'], folded: ['health'] });
  expect([keys(made), made[1]?.height]).toEqual([['speed', 'health'], FOLDED_HEIGHT]);
});

test('a lane has the ranges of its targets: for the end, or throughout', () => {
  const health = { type: 'lowest', meter: 'health' };
  const targets = {
    never: { order: 0, outcome: health, statistic: { type: 'share', from: 20, to: null }, least: 90 },
    end: { order: 1, outcome: { ...health, type: 'final' }, statistic: { type: 'mean' }, least: 40, most: 60 },
    score: { order: 2, outcome: { type: 'final', meter: 'score' }, statistic: { type: 'mean' }, least: 40 },
  };
  const held = level({ ...works, targets });
  const [lane] = lanesOf({ ...shown, level: held }, ALONE, palette);
  expect(lane?.wished).toEqual([
    { from: 20, to: Infinity, at: null, text: '' },
    { from: 40, to: 60, at: 7, text: '' },
  ]);
});

test('each player has lanes: a score that is shared is shown once, what one takes is not in the lanes of the other', () => {
  const pair = level({ ...works, players: { count: 2, sharedScore: true } });
  const { recording } = play(pair, runOf(60, 300, [[], [[1, 127, 0, 0]]]));
  const lanes = lanesOf({ ...recording, level: pair, names: lineNames(compile(pair)), walk: null, took: 1 }, ALONE, palette);
  expect(lanes.map(({ key }) => key)).toEqual(['health', 'score', 'speed', 'player 2 health', 'player 2 speed']);
  expect(lanes.map(({ toucher }) => toucher)).toEqual(['player 1', null, 'player 1', 'player 2', 'player 2']);
  // The second walks into the vent; the first stands.
  expect([0, 3].map((at) => (lanes[at]?.lines[0]?.values[300] ?? 0) < 100)).toEqual([false, true]);
});

test.each([
  // Entered at 4 and 6. From 2, at 8 u/s²: 0.5 s to 4 u/s and to 3, then 0.25 s; from there 4t + 4t² = 2, t = 0.37 s. Each change lasts 1 s.
  ['refresh', [[0.75, 2.12]]],
  [
    'stack',
    [
      [0.75, 1.75],
      [1.12, 2.12],
    ],
  ],
] as const)('a change of movement that comes again while it lasts: %s', (again, expected) => {
  const gust = { type: 'movement', of: 'speed', change: 'multiply', value: 2, lasts: { type: 'for', seconds: 1 }, again, most: 2 };
  const lane = {
    ...shard,
    name: 'lane',
    role: 'movement',
    rules: { gust: { setOffBy: { type: 'arriving' }, effects: { gust }, becomes: { type: 'stays' } } },
  };
  const lanes = level({ kinds: { lane }, placements: { one: { kind: 'lane', x: 5, y: 10 }, two: { kind: 'lane', x: 7, y: 10 } } });
  const bars = changesInForce(shownOf(lanes, 3), 'speed', 'player 1');
  expect(bars.map(({ from, to }) => [from, to])).toEqual(
    expected.map(([from, to]) => [expect.closeTo(from, 1) as number, expect.closeTo(to, 1) as number]),
  );
});

test('a thing that is drawn is seen from when it begins until it is taken, or to the end', () => {
  const pull = (speed: number) => ({ ...shard, magnet: { reach: 5, giveUp: 9, speed: [[0, speed]] } });
  const document = level({
    kinds: { near: { ...pull(9), name: 'near' }, slow: { ...pull(0), name: 'slow' } },
    placements: { near: { kind: 'near', x: 8, y: 10 }, slow: { kind: 'slow', x: 4, y: 14 } },
  });
  const run = shownOf(document, 2);
  const [near, slow] = stripRows(run, new Set()).map(({ drawn }) => drawn);
  const taken = ledgerOf(run).find(({ type }) => type === 'changed')!.seconds;
  expect(near).toEqual([{ from: expect.any(Number) as number, to: expect.closeTo(taken, 5) as number, placement: 'near' }]);
  expect(slow).toEqual([{ from: expect.any(Number) as number, to: 2, placement: 'slow' }]);
});
