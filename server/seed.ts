import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { parseLevel, parseLevelText, type Level, type Parsed } from '@dial/core/level';
import { parseRunText } from '@dial/core/formats';
import { z } from 'zod';
import type { Queries } from './db/queries.ts';

const VersionFile = z.object({ name: z.string(), document: z.unknown() });

function valid<Value>(file: string, parsed: Parsed<Value>): Value {
  if (parsed.ok) return parsed.value;
  throw new Error(`${file}: ${parsed.problems.map(({ path, message }) => `${path} ${message}`).join('; ')}`);
}

async function jsonFiles(folder: string): Promise<string[]> {
  const names = await readdir(folder).catch(() => []); // A demo need not have versions or runs.
  return names
    .filter((name) => name.endsWith('.json'))
    .sort()
    .map((name) => join(folder, name));
}

/** Loads the demo levels into an empty database: the files a user would export, each folder one level. */
export async function seedDemo(queries: Queries, demo: string): Promise<void> {
  if ((await queries.countLevels()) > 0) return;
  for (const id of (await readdir(demo)).sort()) {
    const file = join(demo, id, 'level.json');
    const level: Level = valid(file, parseLevelText(await readFile(file, 'utf8')));
    await queries.insertLevel(id, level);
    for (const version of await jsonFiles(join(demo, id, 'versions'))) {
      const { name, document } = VersionFile.parse(JSON.parse(await readFile(version, 'utf8')));
      await queries.insertVersion(id, name, valid(version, parseLevel(document)));
    }
    // The run that comes first by name is the newest: the one a level opens with.
    for (const file of (await jsonFiles(join(demo, id, 'runs'))).reverse()) {
      const run = valid(file, parseRunText(await readFile(file, 'utf8')));
      await queries.insertRun(id, `${id}-${run.name.replaceAll(/[^a-z0-9]+/g, '-')}`, run);
    }
  }
}
