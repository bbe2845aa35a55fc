import { EVIDENCE, findingsOf, MISTAKES, type Mistake } from '../findings/index.ts';
import { EXAMPLES, exampleLevel } from './mistakes.ts';

function entryOf({ code, title, severity }: Mistake): string {
  const example = EXAMPLES[code];
  if (example === undefined) throw new Error(`${code} has no example`);
  const found = findingsOf(exampleLevel(example.has)).find((one) => one.code === code);
  if (found === undefined) throw new Error(`the example of ${code} does not have it`);
  const mend = found.mend === null ? '' : ` Mend: ${found.mend.words}.`;
  return [
    `### ${code}`,
    '',
    `${title[0]?.toUpperCase() ?? ''}${title.slice(1)} (${severity}). For example:`,
    '',
    `> **${found.what}** ${found.why}${mend}`,
    '',
    '<details><summary>the level</summary>',
    '',
    '```json',
    JSON.stringify(example.has),
    '```',
    '',
    '</details>',
    '',
  ].join('\n');
}

/** What shows only when it is played, a line each. */
const played = [
  '## From evidence',
  '',
  'What shows only when it is played: by the crowd beside the run, on the page *Crowd*, and in `dial check --crowd`.',
  '',
  ...EVIDENCE.map(({ code, title, severity }) => `- **${code}** ${title} (${severity})`),
  '- **not-felt** a value that may be doubled, and nobody feels it (worth a look): where dials are nudged to see what matters',
  '',
];

/** The page docs/findings.md, made from the code and its examples. */
export function docsOfFindings(): string {
  const parts = Object.entries(MISTAKES).map(
    ([about, list]) => `## ${about[0]?.toUpperCase() ?? ''}${about.slice(1)}\n\n${list.map(entryOf).join('\n')}`,
  );
  return [
    '# Findings',
    '',
    'Made from `core/findings` and its examples by `UPDATE_DOCS=1 npm run unit -- findings`: what is found without anybody playing, each with a level that has it (put over the small level of `core/testing/levels.ts`). The gravest come first; any can be set aside in the level, with a reason, and comes back when what it rests on changes.',
    '',
    ...parts,
    ...played,
  ].join('\n');
}
