import fc from 'fast-check';
import { parseJson, parseLevel, parseLevelText } from '../index.ts';

test.each([
  ['{"a":1,"b":{"a":2},"a":3}', '/a', 'stands twice'],
  ['[{"x":1},{"x":{"y/z":1,"y/z":2}}]', '/1/x/y~1z', 'stands twice'],
  ['{"a":"\\"a\\":","\\u0061":1}', '/a', 'stands twice'],
  ['{"a\\\\":1,"b":{"a\\\\":1,"a\\\\":2}}', '/b/a\\', 'stands twice'],
  ['{"kinds":{"__proto__":{}}}', '/kinds/__proto__', 'cannot be used'],
  ['{"name":"\\ud83d"}', '/name', 'lone surrogate'],
  ['["a","\\u0000"]', '/1', 'zero character'],
  [`${'['.repeat(65)}${']'.repeat(65)}`, '', '64 deep'],
  [`{"a":${'{"a":'.repeat(100_000)}1${'}'.repeat(100_000)}}`, '', '64 deep'],
  [`{${Array.from({ length: 20_001 }, (_, at) => `"k${String(at)}":1`).join(',')}}`, '', '20000 names'],
])('JSON whose form cannot be kept is refused, case %#', (text, path, message) => {
  expect(parseJson(text)).toEqual({ ok: false, problems: [{ path, message: expect.stringContaining(message) as string }] });
});

test('a byte-order mark, whole emoji and the same word in several places are read', () => {
  expect(parseJson('\ufeff{"a":["a","a","\\ud83d\\ude00"],"b":"a"}')).toEqual({ ok: true, value: { a: ['a', 'a', '😀'], b: 'a' } });
});

test('JSON that was written by a program states nothing twice', () => {
  fc.assert(fc.property(fc.json(), (text) => parseJson(text).ok));
});

test('a level file of fifty million characters is refused before it is read', () => {
  const refused = parseLevelText('['.repeat(50_000_000));
  expect(refused).toEqual({ ok: false, problems: [{ path: '', message: 'the file is larger than 8 MB (it has 48)' }] });
});

test('what is wrong in a level is said in words, with its place', () => {
  const body = { radius: 0.3, speed: 'fast', acceleration: 40, braking: 40, spedd: 4 };
  const shape = { body: { type: 'blob', radius: -1 } };
  const kinds = { vent: { name: '', role: 'warm', mark: 'bar', shapes: shape, rules: {} } };
  const parsed = parseLevel({ format: 1, name: 'Broken', view: 'top', size: { width: 0, height: 9 }, body, kinds });
  const said = Object.fromEntries(parsed.ok ? [] : parsed.problems.map(({ path, message }) => [path, message]));
  expect(said).toMatchObject({
    '/start': 'is missing: a group of fields',
    '/body/speed': 'must be a number, not a text',
    '/body': 'has “spedd”, which is not known here',
    '/kinds/vent/role': expect.stringMatching(/^must be one of “mend”, “harm”, /) as string,
    '/kinds/vent/shapes/body/type': 'must be one of “circle”, “box”, “polygon”',
    '/kinds/vent/name': 'must have at least 1 character',
  });
});
