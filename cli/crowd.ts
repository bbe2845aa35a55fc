import { crowdCsv, crowdText } from '@dial/core/formats';
import { levelHash, inOrder, parseWith, type Level } from '@dial/core/level';
import { playPersonas, withMarks } from '@dial/core/players';
import { compile, SIMULATION_VERSION } from '@dial/core/session';
import {
  crowdOf,
  crowdProblems,
  crowdReport,
  CrowdSettings,
  mergeSummaries,
  sessionAt,
  sessionCount,
  usualCrowd,
  type Summary,
} from '@dial/core/studies';
import { Piscina } from 'piscina';
import { accepted, BadInput, problemWords, readLevel, wholeNumber, write } from './reading.ts';
import type { ShardTask } from './shardWorker.ts';
import { progressBar, threadsOf, type ThreadOptions } from './threads.ts';

/** Options that say who plays. */
export interface WhoPlays {
  readonly personas?: string;
  readonly seconds?: string;
  readonly seed?: string;
  readonly fromState?: string;
}

export interface CrowdOptions extends WhoPlays, ThreadOptions {
  readonly session?: string;
  readonly saveRun?: string;
  readonly json?: true;
  readonly csv?: true;
  readonly save?: string;
}

/** Sessions a thread plays at a time: about a second. */
const SHARD = 50;

/** `wary=200,hasty=200`, by names or ids; without a number a hundred. */
function personasIn(level: Level, given: string): CrowdSettings['personas'] {
  return given.split(',').map((one) => {
    const [name = '', count] = one.split('=').map((part) => part.trim());
    const id = inOrder(level.personas).find(([known, persona]) => known === name || persona.name === name)?.[0];
    if (id === undefined) {
      const known = inOrder(level.personas).map((entry) => entry[1].name);
      throw new BadInput(`no persona “${name}”; the level has: ${known.join(', ') || 'none'}`);
    }
    return { persona: id, sessions: count === undefined ? 100 : wholeNumber('--personas', count, 1, 1e9) };
  });
}

/** Who plays: as asked for, else as the level states, else a hundred of each persona; `usual` says how a command would have it. */
export function settingsOf(level: Level, options: WhoPlays, usual: (level: Level) => CrowdSettings = usualCrowd): CrowdSettings {
  if (Object.keys(level.personas).length === 0) throw new BadInput('the level has no persona to play it');
  const start = options.fromState;
  const stated = usual(level);
  const settings = accepted(
    'crowd',
    parseWith(CrowdSettings, {
      personas: options.personas === undefined ? stated.personas : personasIn(level, options.personas),
      seconds: options.seconds === undefined ? stated.seconds : Number(options.seconds),
      seed: options.seed === undefined ? stated.seed : wholeNumber('--seed', options.seed, 0, 0xffffffff),
      start:
        start === undefined ? stated.start : (inOrder(level.tries).find(([id, { name }]) => id === start || name === start)?.[0] ?? start),
    }),
  );
  const problems = crowdProblems(level, settings);
  if (problems.length > 0) throw new BadInput(problemWords('crowd', problems));
  return settings;
}

/** Plays all sessions of a crowd in threads, with a bar on a terminal. */
export async function playAll(level: Level, settings: CrowdSettings, threads: number): Promise<Summary> {
  const pool = new Piscina<ShardTask, Summary>({
    filename: new URL('./shardWorker.js', import.meta.url).href,
    maxThreads: threads,
    minThreads: threads,
  });
  const sessions = sessionCount(settings);
  const bar = progressBar();
  let done = 0;
  bar.show(done, sessions);
  try {
    const parts = await Promise.all(
      Array.from({ length: Math.ceil(sessions / SHARD) }, async (_, at) => {
        const range = { from: at * SHARD, to: Math.min(sessions, (at + 1) * SHARD) };
        const part = await pool.run({ level, settings, range });
        done += range.to - range.from;
        bar.show(done, sessions);
        return part;
      }),
    );
    return mergeSummaries(level, parts);
  } finally {
    bar.stop();
    await pool.destroy();
  }
}

/** Brings one session of a crowd out as a run. */
async function saveSession(level: Level, settings: CrowdSettings, options: CrowdOptions): Promise<void> {
  const last = sessionCount(settings) - 1;
  const { persona, seed } = sessionAt(settings, wholeNumber('--session', options.session ?? '', 0, last));
  if (options.saveRun === undefined) throw new BadInput('--session wants --save-run FILE, too: where its run is written');
  const compiled = compile(level);
  const { personas, start } = crowdOf(level, settings);
  const played = personas[persona];
  if (played === undefined) throw new BadInput('there is no such session');
  const { run } = playPersonas(compiled, [played], { seed, start, seconds: settings.seconds });
  await write(options.saveRun, JSON.stringify(withMarks(compiled, run)) + '\n');
}

/** Lets a crowd play a level, and prints what it came to. */
export async function crowd(file: string, options: CrowdOptions): Promise<void> {
  const level = await readLevel(file);
  const settings = settingsOf(level, options);
  if (options.session !== undefined) {
    await saveSession(level, settings, options);
    return;
  }
  const summary = await playAll(level, settings, threadsOf(options));
  const { rows } = summary;
  if (options.save !== undefined) await write(options.save, JSON.stringify({ settings, summary }) + '\n');
  if (options.csv === true) process.stdout.write(crowdCsv(level, settings, rows));
  else {
    const report = crowdReport(level, settings, rows);
    const found = { level: levelHash(level), simulation: SIMULATION_VERSION, settings, report };
    console.log(options.json === true ? JSON.stringify(found) : crowdText(level, report));
  }
}
