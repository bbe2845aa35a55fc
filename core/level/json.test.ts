import fc from 'fast-check';
import { nameTwice, parseJson, parseLevelText } from './index.ts';

test.each([
  ['{"a":1,"b":{"a":2},"a":3}', '/a'],
  ['[{"x":1},{"x":{"y/z":1,"y/z":2}}]', '/1/x/y~1z'],
  ['{"a":"\\"a\\":","\\u0061":1}', '/a'],
  ['{"a":["a","a"],"b":"a"}', undefined],
])('%s states twice: %s', (text, place) => {
  expect(nameTwice(text)).toBe(place);
  expect(parseJson(text).ok).toBe(place === undefined);
});

test('JSON that was written by a program states nothing twice', () => {
  fc.assert(fc.property(fc.json(), (text) => parseJson(text).ok));
});

test('a level file of fifty million characters is refused before it is read', () => {
  const refused = parseLevelText('['.repeat(50_000_000));
  expect(refused).toEqual({ ok: false, problems: [{ path: '', message: 'the file is larger than 8 MB (it has 48)' }] });
});
