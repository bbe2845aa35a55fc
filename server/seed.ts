import { readdir, readFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { askingOf, CrowdSettings, Summary } from '@dial/core/studies';
import { z } from 'zod';
import type { Checker } from './checking/checker.ts';
import type { Queries } from './db/queries.ts';

const VersionFile = z.object({ name: z.string(), document: z.unknown() });

/** A crowd as the command line saves it. */
const CrowdFile = z.object({ settings: CrowdSettings, summary: Summary });

/** The demo that a new user opens first. */
const FIRST = 'night-firing';

async function jsonFiles(folder: string): Promise<string[]> {
  const names = await readdir(folder).catch(() => []); // A demo need not have versions or runs.
  return names
    .filter((name) => name.endsWith('.json'))
    .sort()
    .map((name) => join(folder, name));
}

/** Loads the demo levels into an empty database: the files a user would export, each folder one level. */
export async function seedDemo(queries: Queries, checker: Checker, demo: string): Promise<void> {
  if (await queries.hasLevels()) return;
  // The newest comes first in the list: the one to begin with.
  const ids = (await readdir(demo)).sort();
  for (const id of [...ids.filter((one) => one !== FIRST), ...ids.filter((one) => one === FIRST)]) {
    const document = await checker.run('readLevel', await readFile(join(demo, id, 'level.json')));
    await queries.insertLevel(id, document, null, null);
    for (const file of await jsonFiles(join(demo, id, 'versions'))) {
      const { name, document: of } = VersionFile.parse(JSON.parse(await readFile(file, 'utf8')));
      await queries.addVersion(id, name, await checker.run('readLevel', Buffer.from(JSON.stringify(of))));
    }
    for (const file of await jsonFiles(join(demo, id, 'crowds'))) {
      const { settings, summary } = CrowdFile.parse(JSON.parse(await readFile(file, 'utf8')));
      const study = `${id}-${basename(file, '.json')}`;
      const sessions = summary.rows.length;
      const name = basename(file, '.json').replaceAll('-', ' ');
      const asking = askingOf(settings);
      await queries.insertStudy(id, { id: study, name, revision: 1, document, settings: JSON.stringify(settings), sessions, asking });
      await queries.insertShard(study, 0, sessions, new Uint8Array(gzipSync(JSON.stringify(summary))));
      await queries.setStudyState(study, 'done');
    }
    // The run that comes first by name is the newest: the one a level opens with.
    for (const file of (await jsonFiles(join(demo, id, 'runs'))).reverse()) {
      const run = await checker.run('readRun', await readFile(file));
      await queries.insertRun(id, `${id}-${run.name.replaceAll(/[^a-z0-9]+/g, '-')}`, run);
    }
  }
}
