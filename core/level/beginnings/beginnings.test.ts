import { openFindings, type Finding } from '../../findings/index.ts';
import { ruleSentence } from '../../formats/index.ts';
import { play, runOf, short } from '../../testing/levels.ts';
import { keys } from '../../testing/scenes.ts';
import { addPlacement, newLevel } from './begin.ts';
import { addKind, kindBeginnings } from './beginnings.ts';
import { parseLevel } from '../reading/parse.ts';
import type { Level } from '../document/schema.ts';
import { Placement } from '../document/things.ts';

const yard = (view: Level['view']): Level =>
  newLevel({ name: 'yard', view, width: 20, height: 10, unitsPerPixel: 0.05, framesPerSecond: 60 });
const walked = (level: Level, seconds: number, x: number) =>
  play(structuredClone(level), runOf(60, seconds * 60, [keys(60, [seconds, x])]));
const place = (level: Level, kind: string, x: number, y: number): void => {
  level.placements[kind] = Placement.parse({ kind, order: 9, x, y });
};

describe.each(['top', 'side'] as const)('seen from the %s', (view) => {
  test.each(kindBeginnings(yard(view)).map(({ beginning }) => beginning))('“%s” is complete, wants nothing, and is a sentence', (id) => {
    const level = yard(view);
    const kind = addKind(level, id);
    if (Object.keys(level.placements).length === 0) place(level, kind, 10, view === 'top' ? 5 : 1);
    const parsed = parseLevel(level);
    // What it is to be used with comes later: nothing harms yet, and nobody gives the key.
    const isWrong = ({ severity, code }: Finding): boolean =>
      severity !== 'worth a look' && !['never-holds', 'cure-not-needed'].includes(code);
    expect(parsed.ok ? openFindings(parsed.value).filter(isWrong) : parsed.problems).toEqual([]);
    const { name, rules } = level.kinds[kind]!;
    const said = Object.values(rules).map((rule) => ruleSentence(level, name, rule, '').map(({ text }) => text).join('')); // prettier-ignore
    expect(said.join()).not.toMatch(/undefined|NaN/);
    expect(walked(level, 5, 1).recording.lines.count).toBeGreaterThan(0);
  });
});

test('several of one role bear marks unlike each other and all there are', () => {
  const level = yard('top');
  for (const id of ['score', 'score', 'harm', 'score', 'blank'] as const) addKind(level, id);
  expect(new Set(Object.values(level.kinds).map(({ mark }) => mark)).size).toBe(5);
});

test('amounts fit the meters there are: on a heart of three pips a pad gives one, on 1,000 points 200', () => {
  const amount = (lower: number, upper: number, whole: boolean, as: 'pips' | 'bar' = 'bar'): unknown => {
    const level = yard('top');
    level.readouts = { heart: { type: 'meter', order: 1, meter: 'health', as, digits: 0 } };
    level.meters['health'] = { ...level.meters['health']!, lower, upper, start: upper, whole };
    return level.kinds[addKind(level, 'mend')]!.rules['act']!.effects['heal'];
  };
  expect([amount(0, 3, true), amount(0, 3, false, 'pips'), amount(0, 1000, false), amount(0, 1, false)]).toMatchObject([
    { amount: 1 },
    { amount: 1 },
    { amount: 200 },
    { amount: 0.2 },
  ]);
});

test('a carried thing gives the item there is; a door takes its key, and only then lets one by', () => {
  const level = yard('top');
  level.items['jar'] = { name: 'jar', order: 1, start: 0, most: 3, holdable: false, dropsAs: null, rules: {} };
  level.items['boots'] = { ...level.items['jar'], name: 'felt boots', order: 2 };
  expect(kindBeginnings(level).flatMap(({ beginning, item }) => (beginning === 'carry' ? [item] : []))).toEqual(['jar', 'boots']);
  const boots = level.kinds[addKind(level, 'carry', 'boots')]!;
  expect([boots.name, boots.rules['act']!.effects['take']]).toEqual(['felt boots', expect.objectContaining({ item: 'boots' })]);
  expect(level.kinds[addKind(level, 'carry')]!.rules['act']!.effects['take']).toMatchObject({ item: 'jar' });
  const door = addKind(level, 'door');
  place(level, door, 6, 5);
  const walk = () => short(walked(level, 4, 1).lines).filter((line) => line.includes('door'));
  expect(walk()).toEqual([expect.stringContaining('refused player 1 door condition')]);
  level.items['key']!.start = 1;
  expect(walk().map((line) => line.replace(/^\d+ /, ''))).toEqual(['item door key -1/-1 → 0', 'phase door spent']);
});

test('a yielding platform is stood on, gives way, is fallen through, and comes back', () => {
  const level = yard('side');
  const platform = addKind(level, 'platform');
  place(level, platform, 10, 4);
  // The body is 1.3 high: it stands with its place 0.65 above the upper face at 4.2.
  level.start = { x: 10, y: 6 };
  const { lines } = walked(level, 5, 0);
  expect(short(lines).map((line) => line.replace(/^\d+ /, ''))).toEqual([
    'phase yielding-platform winding up',
    'phase yielding-platform resting',
    'phase yielding-platform ready',
    'ended running',
  ]);
});

test('a chaser and a patrol come to whoever stands still', () => {
  const level = yard('top');
  place(level, addKind(level, 'chaser'), 6, 5);
  expect(short(walked(level, 5, 0).lines).some((line) => line.includes('chaser health'))).toBe(true);
  addKind(level, 'patrol');
  level.start = { x: 10, y: 5 };
  expect(short(walked(level, 5, 0).lines).some((line) => line.includes('patrol health'))).toBe(true);
});

test('another patrol has a way of its own like that of the last, mirrored where it would leave the level', () => {
  const level = yard('top');
  const kind = addKind(level, 'patrol');
  const wayOf = (id: string): [number, number][] => {
    const { travel } = level.placements[id]!;
    return level.paths[travel!.path]!.wayPoints.map(({ x, y }) => [x, y]);
  };
  const [first] = Object.keys(level.placements);
  const [from, to] = wayOf(first!);
  const long = to![0] - from![0];
  const near = addPlacement(level, kind, 1, 2);
  const far = addPlacement(level, kind, level.size.width - 1, 2);
  expect([wayOf(near), wayOf(far), wayOf(first!)]).toEqual([
    [
      [1, 2],
      [1 + long, 2],
    ],
    [
      [level.size.width - 1, 2],
      [level.size.width - 1 - long, 2],
    ],
    [from, to],
  ]);
  // Once one of them stands still, another does.
  level.placements[near]!.travel = null;
  expect(level.placements[addPlacement(level, kind, 3, 3)]!.travel).toBeNull();
});
