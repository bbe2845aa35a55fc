import { entry, pointer, type Level } from '../level/index.ts';
import type { Verdict } from '../studies/index.ts';
import { targetText, verdictText } from './targetWords.ts';
import { escaped } from './xml.ts';

/** What a verdict is about, as a sentence. */
function sentenceOf(level: Level, { target }: Verdict): string {
  const found = entry(level.targets, target);
  return found === undefined ? target : targetText(level, found);
}

/** How targets stand as JUnit XML, the format that build servers show as tests: a target is a test case. */
export function checkJunit(level: Level, verdicts: readonly Verdict[]): string {
  const count = (...states: readonly Verdict['state'][]): number => verdicts.filter(({ state }) => states.includes(state)).length;
  const testcase = verdicts.map((verdict) => {
    const [sentence, message] = [escaped(sentenceOf(level, verdict)), escaped(verdictText(verdict))];
    const said = `message="${message}" type="${verdict.state}">${sentence}\n${message}`;
    const failed = verdict.state === 'not judged' ? `<error ${said}</error>` : `<failure ${said}</failure>`;
    const came = verdict.state === 'met' ? `<system-out>${message}</system-out>` : failed;
    return `    <testcase classname="${escaped(level.name)}" name="${sentence}">${came}</testcase>\n`;
  });
  const counts = `tests="${String(verdicts.length)}" failures="${String(count('missed', 'undecided'))}" errors="${String(count('not judged'))}"`;
  const suite = `<testsuite name="targets of ${escaped(level.name)}" ${counts}>`;
  return `<?xml version="1.0" encoding="UTF-8"?>\n<testsuites>\n  ${suite}\n${testcase.join('')}  </testsuite>\n</testsuites>\n`;
}

const SARIF_LEVELS: Readonly<Record<Verdict['state'], 'error' | 'warning'>> = {
  met: 'warning',
  missed: 'error',
  undecided: 'warning',
  'not judged': 'error',
};

/** What is not met, as SARIF 2.1.0, the format of results of static analysis; `uri` is the file of the level. */
export function checkSarif(level: Level, verdicts: readonly Verdict[], uri: string): string {
  const states = ['missed', 'undecided', 'not judged'] as const;
  const results = verdicts
    .filter(({ state }) => state !== 'met')
    .map((verdict) => ({
      ruleId: `target/${verdict.state.replace(' ', '-')}`,
      level: SARIF_LEVELS[verdict.state],
      message: { text: `${sentenceOf(level, verdict)} ${verdictText(verdict)}` },
      locations: [
        {
          physicalLocation: { artifactLocation: { uri: encodeURI(uri.replaceAll('\\', '/')) } },
          logicalLocations: [{ fullyQualifiedName: pointer(['targets', verdict.target]) }],
        },
      ],
    }));
  const rules = states.map((state) => ({
    id: `target/${state.replace(' ', '-')}`,
    shortDescription: { text: `a target is ${state}` },
  }));
  const run = { tool: { driver: { name: 'Dial', version: '0.1.0', rules } }, results };
  return `${JSON.stringify({ $schema: 'https://json.schemastore.org/sarif-2.1.0.json', version: '2.1.0', runs: [run] }, null, 2)}\n`;
}
