import { readFileSync, writeFileSync } from 'node:fs';
import { parseLevelText } from '../level/index.ts';
import { EXAMPLES, exampleLevel } from '../testing/mistakes.ts';
import { findingsOf, mended, MISTAKES, openFindings, SEVERITIES, type Finding } from './index.ts';
import { docsOfFindings } from '../testing/findingDocs.ts';
import type { Level } from '../level/index.ts';

const mistakes = Object.values(MISTAKES).flat();
const rank = ({ severity }: Finding): number => SEVERITIES.indexOf(severity);
const of = (level: Level, code: string): Finding[] => findingsOf(level).filter((one) => one.code === code);

test.each(mistakes.map(({ code }) => code))('%s is found where it is, and not where it nearly is', (code) => {
  const { has, nearly } = EXAMPLES[code]!;
  const level = exampleLevel(has);
  const found = of(level, code);
  expect(found.map((one) => one.code)).toEqual([code]);
  expect(of(exampleLevel(nearly), code)).toEqual([]);
  const { mend, what, why, where } = found[0]!;
  expect([what.endsWith('.'), why.endsWith('.')]).toEqual([true, true]);
  for (const id of where.placements) expect(level.placements).toHaveProperty(id);
  if (mend === null) return;
  // A mend leaves a valid level without it, and with nothing graver that was not there before.
  const made = mended(level, mend);
  if (!made.ok) throw new Error(JSON.stringify(made.problems));
  expect(of(made.value, code)).toEqual([]);
  const before = new Set(findingsOf(level).map(({ id }) => id));
  const graver = findingsOf(made.value).filter((one) => !before.has(one.id) && rank(one) < rank(found[0]!));
  expect(graver).toEqual([]);
});

test('every sort of mistake has a name of its own, and an example', () => {
  expect(new Set(mistakes.map(({ code }) => code)).size).toBe(mistakes.length);
  expect(Object.keys(EXAMPLES).sort()).toEqual(mistakes.map(({ code }) => code).sort());
});

test('one that is set aside says why, and comes back when its cause changes', () => {
  const level = exampleLevel(EXAMPLES['one-touch-kills']!.has);
  const [found] = of(level, 'one-touch-kills');
  const meant = { [found!.key]: { finding: found!.id, cause: found!.cause, reason: 'the last door' } };
  const aside = exampleLevel({ ...EXAMPLES['one-touch-kills']!.has, meant });
  expect(of(aside, 'one-touch-kills')[0]!.meant).toBe('the last door');
  expect(openFindings(aside).map(({ code }) => code)).not.toContain('one-touch-kills');
  const changed = structuredClone(aside);
  const effect = changed.kinds['thing']!.rules['act']!.effects['effect']!;
  Object.assign(effect, { amount: 120 });
  expect(openFindings(changed).map(({ code }) => code)).toContain('one-touch-kills');
});

test.each(['night-firing', 'chimney-climb', 'proving-yard'])('%s has no finding but such as are set aside with a reason', (name) => {
  const parsed = parseLevelText(readFileSync(`demo/${name}/level.json`, 'utf8'));
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
  expect(openFindings(parsed.value).map(({ id, what }) => [id, what])).toEqual([]);
});

test('docs/findings.md says what the code finds', () => {
  const text = docsOfFindings();
  // `UPDATE_DOCS=1 npm run unit -- findings` writes it anew.
  if (process.env['UPDATE_DOCS'] !== undefined) writeFileSync('docs/findings.md', text);
  expect(readFileSync('docs/findings.md', 'utf8')).toBe(text);
});
