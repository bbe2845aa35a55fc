import { crowdFindings, isOpen, openFindings, runFindings, type Finding } from '@dial/core/findings';
import { checkJunit, checkSarif, failsCheck, targetText, verdictText } from '@dial/core/formats';
import { entry, inOrder, levelHash, type Level } from '@dial/core/level';
import type { Run } from '@dial/core/players';
import { SIMULATION_VERSION } from '@dial/core/session';
import { allMet, checkTargets } from '@dial/core/studies';
import { playAll, settingsOf } from './crowd.ts';
import { BadInput, readLevel, readRun, withTargets, write } from './reading.ts';
import { studied, threadsOf, type ThreadOptions } from './threads.ts';

/** Exit code of a check that was missed or could not be decided. */
const MISSED = 1;

export interface CheckOptions extends ThreadOptions {
  readonly against?: readonly string[];
  readonly junit?: string;
  readonly sarif?: string;
  readonly target?: readonly string[];
  readonly json?: true;
  readonly crowd?: true;
  readonly runs?: readonly string[];
}

/** `name=FILE`, each a version of the level. */
async function versionsIn(given: readonly string[]): Promise<Record<string, Level>> {
  const versions: Record<string, Level> = {};
  for (const one of given) {
    const cut = one.indexOf('=');
    if (cut < 1) throw new BadInput(`--against takes NAME=FILE, not “${one}”`);
    versions[one.slice(0, cut)] = await readLevel(one.slice(cut + 1));
  }
  return versions;
}

/** What the crowd that a level states shows to be wrong. */
async function shownBy(level: Level, options: CheckOptions): Promise<readonly Finding[]> {
  const { rows } = await playAll(level, settingsOf(level, {}), threadsOf(options));
  return crowdFindings(level, rows);
}

/** Judges the targets of a level, and finds mistakes: exit 0 when all are met and nothing is wrong, else 1. */
export async function check(file: string, options: CheckOptions): Promise<void> {
  const level = withTargets(await readLevel(file), options.target);
  const versions = await versionsIn(options.against ?? []);
  const targets = inOrder(level.targets);
  const runs: Run[] = [];
  for (const one of options.runs ?? []) runs.push(await readRun({ run: one }, level));
  const shown = [...(options.crowd === true ? await shownBy(level, options) : []), ...runFindings(level, runs)];
  const findings = [...openFindings(level), ...shown.filter(isOpen)];
  const study = checkTargets(level, targets, new Set(Object.keys(versions)));
  const verdicts = await studied({ level, versions }, study, threadsOf(options));
  if (options.junit !== undefined) await write(options.junit, checkJunit(level, verdicts, findings));
  if (options.sarif !== undefined) await write(options.sarif, checkSarif(level, verdicts, findings, file));
  if (options.json === true) {
    const rows = verdicts.map((verdict) => ({ ...verdict, stated: entry(level.targets, verdict.target) }));
    console.log(JSON.stringify({ level: levelHash(level), simulation: SIMULATION_VERSION, targets: rows, findings }));
  } else {
    if (targets.length === 0) console.log(`${level.name} states no targets: there is nothing to judge`);
    verdicts.forEach((verdict, at) => {
      const [, target] = targets[at] ?? [];
      console.log(
        `${verdict.state.toUpperCase().padEnd(10)} ${target === undefined ? '' : targetText(level, target)}\n           ${verdictText(verdict)}`,
      );
    });
    for (const { severity, id, what, why } of findings) console.log(`${severity.toUpperCase()}: ${id}\n           ${what} ${why}`);
    const aside = Object.keys(level.meant).length;
    if (findings.length === 0) console.log(`no finding${aside === 0 ? '' : `, ${String(aside)} set aside`}`);
  }
  if (!allMet(verdicts) || findings.some(failsCheck)) process.exitCode = MISSED;
}
