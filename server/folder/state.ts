import { reasonOf } from '@dial/core/level';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** The version of PostgreSQL's files that this Dial reads. */
const FILES_VERSION = '18';
const RESTORE = 'Nothing was changed. To bring a backup back: dial-server restore FILE, into an empty folder (see docs/keeping-data.md).';

/** The data folder is there, but cannot be used as it is. */
export class Unreadable extends Error {
  constructor(folder: string, why: string) {
    super(`The database in ${folder} cannot be used: ${why}. ${RESTORE}`);
    this.name = 'Unreadable';
  }
}

/** A note in the folder: whether its database has been begun to the end. */
const NOTE = 'dial.json';

function readNote(folder: string): 'none' | 'beginning' | 'ready' {
  const file = join(folder, NOTE);
  if (!existsSync(file)) return 'none';
  return /"state"\s*:\s*"beginning"/.test(readFileSync(file, 'utf8')) ? 'beginning' : 'ready';
}

export function writeNote(folder: string, state: 'beginning' | 'ready'): void {
  writeFileSync(join(folder, NOTE), JSON.stringify({ dial: 1, state }) + '\n');
}

/**
 * Looks at a data folder, which must be locked, before anything is opened in it. Answers whether a database is to be begun
 * in it. One that was begun and never finished held nothing yet: it is begun anew. Throws `Unreadable` for all that is
 * there and is no whole database; it is then left as it is.
 */
export function lookInto(folder: string): { readonly fresh: boolean } {
  const place = join(folder, 'database');
  const note = readNote(folder);
  if (note === 'beginning') {
    rmSync(place, { recursive: true, force: true });
    return { fresh: true };
  }
  if (!existsSync(place)) {
    if (note === 'ready') throw new Unreadable(folder, 'the folder “database” is missing');
    if (existsSync(join(folder, 'backups'))) throw new Unreadable(folder, 'there are backups, but the folder “database” is missing');
    return { fresh: true };
  }
  const files = readdirSync(place);
  if (files.length === 0 && note === 'none') return { fresh: true };
  for (const wanted of ['PG_VERSION', 'base', 'global', 'pg_wal', 'pg_xact']) {
    if (!files.includes(wanted)) throw new Unreadable(folder, `“database/${wanted}” is missing`);
  }
  const version = readFileSync(join(place, 'PG_VERSION'), 'utf8').trim();
  if (version !== FILES_VERSION) {
    throw new Unreadable(folder, `its files are of version ${version.slice(0, 20)}, and this Dial reads version ${FILES_VERSION}`);
  }
  if (!existsSync(join(place, 'global', 'pg_control'))) throw new Unreadable(folder, '“database/global/pg_control” is missing');
  return { fresh: false };
}

/** Makes the data folder; throws with a sentence when it cannot be written. */
export function makeFolder(folder: string): void {
  try {
    mkdirSync(folder, { recursive: true });
    const probe = join(folder, `.write-${String(process.pid)}`);
    writeFileSync(probe, '');
    rmSync(probe);
  } catch (error) {
    const why = reasonOf(error);
    throw new Error(`Dial cannot write to its data folder ${folder}: ${why}. Name another with DIAL_DATA, or give it room and rights.`, {
      cause: error,
    });
  }
}
