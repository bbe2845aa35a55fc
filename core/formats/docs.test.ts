import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { inOrder, parseLevelText } from '../level/index.ts';
import { simulate, walkRoute } from '../players/index.ts';
import { compile, readLines } from '../session/index.ts';
import { lineWords } from './index.ts';

const examples = [...readFileSync(join(process.cwd(), 'docs/rules.md'), 'utf8').matchAll(/```json\n([\s\S]*?)```/g)].map(
  ([, text]) => text ?? '',
);

test('every level in the rules is valid, runs, and says what it does', () => {
  expect(examples.length).toBeGreaterThan(0);
  for (const text of examples) {
    const parsed = parseLevelText(text);
    if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
    const compiled = compile(parsed.value);
    const walk = walkRoute(compiled, inOrder(parsed.value.routes)[0]![1]);
    expect(walk.stuckAt).toBeNull();
    const words = readLines(compiled, simulate(compiled, walk.run).lines).map((line) => lineWords(parsed.value, line));
    expect(words).toContain('cooling basin: health +18, 60 → 78');
  }
});
