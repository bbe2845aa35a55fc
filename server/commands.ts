import { reasonOf } from '@dial/core/level';
import { existsSync } from 'node:fs';
import { readdir, writeFile } from 'node:fs/promises';
import { createChecker, UNHURRIED } from './checking/checker.ts';
import { createQueries } from './db/queries.ts';
import { FolderInUse } from './folder/lock.ts';
import { writeBackup } from './keeping.ts';
import { openFolder } from './opening.ts';
import type { Settings } from './settings.ts';

/** Patches of a log played in one go: far less than what the time for one check is enough for. */
const PATCHES_AT_ONCE = 200;

/** Asks a running server for a backup. */
async function fetchBackup(address: string, token: string | undefined): Promise<Uint8Array> {
  const headers = token === undefined ? {} : { authorization: `Bearer ${token}` };
  const response = await fetch(`${address}/api/backup`, { headers });
  if (response.status === 401)
    throw new Error('The running server wants its token: set DIAL_TOKEN as it was set there. No backup was made.');
  if (!response.ok) throw new Error(`The running server answered ${String(response.status)}. No backup was made.`);
  return new Uint8Array(await response.arrayBuffer());
}

/** Writes all that is kept into one file, whether or not the server is running. */
export async function backup({ folder, token }: Settings, file: string): Promise<string> {
  if (existsSync(file)) throw new Error(`${file} is there already. Nothing was written.`);
  if (!existsSync(folder)) throw new Error(`There is no data folder ${folder}. No backup was made.`);
  try {
    const open = await openFolder(folder);
    try {
      await writeBackup(open.database, file);
    } finally {
      await open.close();
    }
  } catch (error) {
    if (!(error instanceof FolderInUse) || error.holder?.address == null) throw error;
    await writeFile(file, await fetchBackup(error.holder.address, token), { flag: 'wx' });
  }
  return `Backed up to ${file}.`;
}

/** Puts a backup into an empty data folder, and checks it. */
export async function restore(settings: Settings, file: string): Promise<string> {
  const { folder } = settings;
  if (!existsSync(file)) throw new Error(`There is no file ${file}. Nothing was changed.`);
  const there = existsSync(folder) ? (await readdir(folder)).filter((name) => name !== 'dial.lock') : [];
  if (there.length > 0) throw new Error(`${folder} is not empty: a backup is restored into an empty folder only. Nothing was changed.`);
  const open = await openFolder(folder, file);
  open.begun();
  await open.close();
  return `Restored to ${folder}. ${await check(settings)}`;
}

/** Reads every page and index, and plays the log of each level over its base. Throws with what is wrong. */
export async function check({ folder }: Settings): Promise<string> {
  const open = await openFolder(folder);
  const checker = createChecker(UNHURRIED);
  try {
    const queries = createQueries(open.database);
    await open.database.maintain('reindex table levels; reindex table versions; reindex table runs; reindex table patches');
    let levels = 0;
    let logged = 0;
    for (let next = await queries.nextLogged(''); next !== undefined; next = await queries.nextLogged(next.id)) {
      const { id } = next;
      const log = await queries.loggedPatches(id);
      levels += 1;
      logged += log.length;
      if (log.length !== next.revision - next.baseRevision) {
        throw new Error(
          `The log of level ${id} has ${String(log.length)} changes where ${String(next.revision - next.baseRevision)} were made.`,
        );
      }
      let document = next.base;
      for (let from = 0; from < log.length; from += PATCHES_AT_ONCE) {
        const patches = log.slice(from, from + PATCHES_AT_ONCE);
        document = await checker.run('replay', { document, patches }).catch((error: unknown) => {
          throw new Error(`The log of level ${id} cannot be played: ${reasonOf(error)}`);
        });
      }
      if (!(await checker.run('sameDocument', [document, next.document]))) {
        throw new Error(`The log of level ${id} does not lead to the level as it is kept.`);
      }
    }
    return `Sound: ${String(levels)} levels, ${String(logged)} logged changes lead to what is kept, indexes made anew.`;
  } finally {
    await checker.close();
    await open.close();
  }
}
