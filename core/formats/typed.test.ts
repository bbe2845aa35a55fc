import { quantities } from '../level/index.ts';
import { readTyped, refusedWords } from './typed.ts';

const scale = { unitsPerPixel: 0.05, framesPerSecond: 60 };

test.each([
  ['6.5', 6.5],
  [' 6,5 s ', 6.5],
  ['390f', 6.5],
  ['0', 0],
])('a rest typed as "%s" is %d seconds', (text, value) => {
  expect(readTyped(text, quantities.rest, scale)).toEqual({ ok: true, value, doubt: null });
});

test.each([
  ['', /not a number/],
  ['soon', /not a number/],
  ['1e999', /./],
  ['-1', /at least 0/],
  ['−1', /at least 0/],
  ['4000', /at most 3600/],
  ['32px', /not a unit/],
])('a rest typed as "%s" is refused', (text, why) => {
  expect(readTyped(text, quantities.rest, scale)).toEqual({ ok: false, why: expect.stringMatching(why) as string });
});

test.each([
  ['−14', '−', 14],
  ['-14 /s', '−', 14],
  ['14', '−', 14],
  ['+20', '+', 20],
])('“%s” in a dial that writes “%s” is %d', (text, sign, value) => {
  expect(readTyped(text, quantities.ratePerSecond, scale, sign)).toEqual({ ok: true, value, doubt: null });
});

test('a length may be typed in pixels of the game', () => {
  expect(readTyped('32px', quantities.radius, scale)).toEqual({ ok: true, value: 1.6, doubt: null });
  expect(readTyped('0.4px', quantities.radius, scale)).toMatchObject({ value: 0.02, doubt: '0.4 px is 0.02 u, less than one' });
});

test('an emptied field says what it wants, any other what was wrong with what was typed', () => {
  expect(refusedWords(' ', 'not a number', 6.5)).toBe('A number is wanted here, such as 6.5. It stays at 6.5.');
  expect(refusedWords('soon', 'not a number', 6.5)).toBe('“soon” was refused: not a number. It stays at 6.5.');
});
