import { existsSync, readFileSync } from 'node:fs';

const rows = readFileSync('docs/glossary.md', 'utf8')
  .split('\n')
  .flatMap((line) => {
    const [, word, , type, file] = /^\| ([^|]+) \| ([^|]+) \| `(\w+)` \| `([^`]+)` \|$/.exec(line) ?? [];
    return word === undefined || type === undefined || file === undefined ? [] : [{ word, type, file }];
  });

test('every word of the glossary is where it says, and stands there once', () => {
  expect(rows.length).toBeGreaterThan(40);
  const missing = rows.filter(({ type, file }) => {
    const text = existsSync(file) ? readFileSync(file, 'utf8') : '';
    return !new RegExp(`\\b(const|type|interface|function) ${type}\\b`).test(text);
  });
  expect(missing).toEqual([]);
  expect(new Set(rows.map(({ word }) => word)).size).toBe(rows.length);
});
