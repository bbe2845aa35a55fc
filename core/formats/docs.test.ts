import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { inOrder, parseLevelText } from '../level/index.ts';
import { simulate, walkRoute } from '../players/index.ts';
import { compile, readLines } from '../session/index.ts';
import { lineWords } from './index.ts';

type Document = Record<string, Record<string, unknown>>;

const fences = [...readFileSync(join(process.cwd(), 'docs/rules.md'), 'utf8').matchAll(/```json( level)?\n([\s\S]*?)```/g)];
const examples = fences.map(([, level, text]) => ({ whole: level !== undefined, document: JSON.parse(text ?? '') as Document }));
const base = examples.find(({ whole }) => whole)!.document;

/** A part put over the whole level, entry by entry. */
function over(part: Document): Document {
  return { ...base, ...Object.fromEntries(Object.entries(part).map(([key, value]) => [key, { ...base[key], ...value }])) };
}

test('every example in the rules is a valid level, runs, and says what it does', () => {
  expect(examples.filter(({ whole }) => !whole).length).toBeGreaterThan(3);
  for (const { whole, document } of examples) {
    const parsed = parseLevelText(JSON.stringify(whole ? document : over(document)));
    if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
    const compiled = compile(parsed.value);
    const walk = walkRoute(compiled, inOrder(parsed.value.routes)[0]![1]);
    expect(walk.stuckAt).toBeNull();
    const words = readLines(compiled, simulate(compiled, walk.run).lines).map((line) => lineWords(parsed.value, line));
    expect(words).toContain(
      'cooling basin' + (words.some((line) => line.includes('cooling basin 1')) ? ' 1' : '') + ': health +18, 60 → 78',
    );
  }
});
