import { entry, pointer, type Level } from '../level/index.ts';
import type { Verdict } from '../studies/index.ts';
import { targetText, verdictText } from './targetWords.ts';
import { escaped } from './xml.ts';

/** What a verdict is about, as a sentence. */
function sentenceOf(level: Level, { target }: Verdict): string {
  const found = entry(level.targets, target);
  return found === undefined ? target : targetText(level, found);
}

/** A finding as reports tell of it. */
export interface ReportedFinding {
  /** Its sort, and what it is on. */
  readonly id: string;
  readonly code: string;
  readonly title: string;
  readonly severity: 'breaks it' | 'probably not meant' | 'worth a look';
  /** Pointer to what is at fault. */
  readonly at: string;
  readonly what: string;
  readonly why: string;
}

/** Whether a check fails by a finding; what is worth a look is only told of. */
export const failsCheck = ({ severity }: Pick<ReportedFinding, 'severity'>): boolean => severity !== 'worth a look';

const textOf = ({ what, why }: ReportedFinding): string => `${what} ${why}`;

/** How targets stand, and what is found, as JUnit XML, the format that build servers show as tests: a test case each. */
export function checkJunit(level: Level, verdicts: readonly Verdict[], findings: readonly ReportedFinding[]): string {
  const count = (...states: readonly Verdict['state'][]): number => verdicts.filter(({ state }) => states.includes(state)).length;
  const ofTargets = verdicts.map((verdict) => {
    const [sentence, message] = [escaped(sentenceOf(level, verdict)), escaped(verdictText(verdict))];
    const said = `message="${message}" type="${verdict.state}">${sentence}\n${message}`;
    const failed = verdict.state === 'not judged' ? `<error ${said}</error>` : `<failure ${said}</failure>`;
    const came = verdict.state === 'met' ? `<system-out>${message}</system-out>` : failed;
    return `    <testcase classname="${escaped(level.name)}" name="${sentence}">${came}</testcase>\n`;
  });
  const ofFindings = findings.map((finding) => {
    const message = escaped(textOf(finding));
    const failed = `<failure message="${message}" type="${finding.severity}">${message}</failure>`;
    const came = failsCheck(finding) ? failed : `<system-out>${message}</system-out>`;
    return `    <testcase classname="${escaped(level.name)}" name="${escaped(finding.id)}">${came}</testcase>\n`;
  });
  const suite = (name: string, cases: readonly string[], failures: number, errors: number): string => {
    const counts = `tests="${String(cases.length)}" failures="${String(failures)}" errors="${String(errors)}"`;
    return `  <testsuite name="${name} ${escaped(level.name)}" ${counts}>\n${cases.join('')}  </testsuite>\n`;
  };
  const suites = [
    suite('targets of', ofTargets, count('missed', 'undecided'), count('not judged')),
    suite('findings in', ofFindings, findings.filter(failsCheck).length, 0),
  ];
  return `<?xml version="1.0" encoding="UTF-8"?>\n<testsuites>\n${suites.join('')}</testsuites>\n`;
}

const SARIF_LEVELS = {
  met: 'warning',
  missed: 'error',
  undecided: 'warning',
  'not judged': 'error',
  'breaks it': 'error',
  'probably not meant': 'warning',
  'worth a look': 'note',
} as const satisfies Readonly<Record<Verdict['state'] | ReportedFinding['severity'], string>>;

/** What is not met, and what is found, as SARIF 2.1.0, the format of results of static analysis; `uri` is the file of the level. */
export function checkSarif(level: Level, verdicts: readonly Verdict[], findings: readonly ReportedFinding[], uri: string): string {
  const states = ['missed', 'undecided', 'not judged'] as const;
  const at = (path: string): object[] => [
    {
      physicalLocation: { artifactLocation: { uri: encodeURI(uri.replaceAll('\\', '/')) } },
      logicalLocations: [{ fullyQualifiedName: path }],
    },
  ];
  const ofTargets = verdicts
    .filter(({ state }) => state !== 'met')
    .map((verdict) => ({
      ruleId: `target/${verdict.state.replace(' ', '-')}`,
      level: SARIF_LEVELS[verdict.state],
      message: { text: `${sentenceOf(level, verdict)} ${verdictText(verdict)}` },
      locations: at(pointer(['targets', verdict.target])),
    }));
  const ofFindings = findings.map((finding) => ({
    ruleId: `finding/${finding.code}`,
    level: SARIF_LEVELS[finding.severity],
    message: { text: textOf(finding) },
    locations: at(finding.at),
  }));
  const sorts = new Map(findings.map(({ code, title }) => [code, title]));
  const rules = [
    ...states.map((state) => ({ id: `target/${state.replace(' ', '-')}`, shortDescription: { text: `a target is ${state}` } })),
    ...[...sorts].map(([code, title]) => ({ id: `finding/${code}`, shortDescription: { text: title } })),
  ];
  const run = { tool: { driver: { name: 'Dial', version: '0.1.0', rules } }, results: [...ofTargets, ...ofFindings] };
  return `${JSON.stringify({ $schema: 'https://json.schemastore.org/sarif-2.1.0.json', version: '2.1.0', runs: [run] }, null, 2)}\n`;
}
