import { play, runOf } from '../testing/levels.ts';
import { arriving, circle, kind, meter, scene } from '../testing/scenes.ts';
import { axisTime, clockTime, dialText, forFile, lineWords, pairText, plainNumber, readTyped, signed, writeNumbersWith } from './index.ts';

test('with several players each line that is about one names it; what is left by being moved says so', () => {
  const points = { away: { name: 'away', x: 40, y: 10 } };
  const gate = arriving({ a: meter('health', 'take', 5), b: { type: 'move', order: 1, to: { type: 'point', point: 'away' } } });
  const take = arriving({ a: { type: 'item', item: 'jar', count: -1 }, b: { type: 'notice', order: 1, notice: 'taken' } });
  const left = { setOffBy: { type: 'leaving' }, effects: { a: meter('score', 'add', 1) } };
  const pool = { ...kind(circle(1), {}, { name: 'pool' }), rules: { take, left } };
  const words = (count: number): string[] => {
    const document = scene({ pool, gate }, { items: { jar: { name: 'jar', start: 2 } }, points, players: { count } });
    return play(
      document,
      runOf(
        60,
        1,
        Array.from({ length: count }, () => []),
      ),
    )
      .lines.slice(0, 5)
      .map((line) => lineWords(document, line));
  };
  expect(words(1)).toEqual([
    'pool: jar −1, 2 → 1',
    'pool posts taken',
    'thing: health −5, 100 → 95',
    'thing puts player 1 at 40, 10',
    'pool: score +1, 0 → 1, left by being moved',
  ]);
  expect(words(2)).toEqual([
    'pool: player 1’s jar −1, 2 → 1',
    'pool posts taken, by player 1',
    'thing: player 1’s health −5, 100 → 95',
    'thing puts player 1 at 40, 10',
    'pool: player 1’s score +1, 0 → 1, left by being moved',
  ]);
});

test('no two labels of an axis read the same, however near they are', () => {
  for (const every of [0.05, 0.1, 0.2, 0.5, 1, 5]) {
    const labels = Array.from({ length: 40 }, (_, at) => axisTime(at * every, every));
    expect(new Set(labels).size).toBe(40);
  }
  expect([axisTime(61.5, 0.5), axisTime(61.15, 0.05), axisTime(65, 5)]).toEqual(['1:01.5', '1:01.15', '1:05']);
});

test('where decimals have a comma, numbers are written with it and read back, and pairs are told apart', () => {
  writeNumbersWith(',');
  try {
    const range = { unit: 's', min: 0, max: 100 };
    expect([plainNumber(-6.5), dialText(0.125), signed(18.25), clockTime(38.34)]).toEqual(['−6,5', '0,125', '+18,25', '0:38,3']);
    expect([pairText(3.5, 7), axisTime(1.25, 0.05)]).toEqual(['3,5; 7', '0:01,25']);
    expect(forFile(() => plainNumber(6.5))).toBe('6.5');
    expect(readTyped(dialText(6.25), range, null)).toMatchObject({ ok: true, value: 6.25 });
  } finally {
    writeNumbersWith('.');
  }
  expect(pairText(3.5, 7)).toBe('3.5, 7');
});
