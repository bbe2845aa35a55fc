import { readFileSync } from 'node:fs';
import { allKinds, fieldAt, inOrder, levelFields, parseLevel, pointer, rulePath, segmentsOf, valueAt, kindDials } from '@dial/core/level';
import { ruleSentence } from '@dial/core/formats';

describe.each(['night-firing', 'chimney-climb', 'proving-yard'])('the sentences of %s', (name) => {
  const parsed = parseLevel(JSON.parse(readFileSync(`demo/${name}/level.json`, 'utf8')) as unknown);
  const level = parsed.ok ? parsed.value : undefined!;
  const sentences = allKinds(level).flatMap(([kindId, kind]) =>
    inOrder(kind.rules).map(([ruleId, rule]) => {
      const at = rulePath(kindId, ruleId);
      return { kindId, rule, at: pointer(at), parts: ruleSentence(level, kind.name, rule, pointer(at)) };
    }),
  );

  test('every phrase leads to a part of its rule that can be edited', () => {
    for (const { rule, at, parts } of sentences) {
      for (const { phrase } of parts) {
        if (phrase === undefined) continue;
        const within = phrase.slice(at.length);
        expect([phrase, fieldAt(levelFields(), level, `/kinds/any/rules/any${within}`) === null]).toEqual([phrase, false]);
        expect(valueAt(rule, within)).toBeDefined();
      }
    }
  });

  test('every number leads to a dial that turns the same value', () => {
    for (const { kindId, parts } of sentences) {
      const dials = new Map(kindDials(level, { kind: kindId, placements: [] }).map(({ path, value }) => [path, value]));
      for (const { text, path } of parts) {
        if (path === undefined || path.endsWith('/count')) continue;
        expect([path, dials.has(path)]).toEqual([path, true]);
        expect(text).toContain(String(dials.get(path)).replace('-', '−').slice(0, 3));
        expect(segmentsOf(path)[0]).toMatch(/kinds|tagRules/);
      }
    }
  });
});
