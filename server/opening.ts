import { join } from 'node:path';
import { openDatabase, type Database } from './db/database.ts';
import { FolderGone, lockFolder, type FolderLock } from './folder/lock.ts';
import { lookInto, makeFolder, writeNote } from './folder/state.ts';
import { at } from './settings.ts';

/** The database that every new folder begins with, made when Dial is built: to make one takes PostgreSQL several seconds. */
export const TEMPLATE = at('./template');
/** What documents look like that this build writes, as it was worked out when it was built. */
export const DOCUMENTS = at('./documents.made-with');
const LOOK_EVERY_MILLISECONDS = 1000;

export interface OpenFolder {
  readonly lock: FolderLock;
  readonly database: Database;
  /** Whether the database was begun just now. */
  readonly fresh: boolean;
  /** Says that what a fresh database is to hold at first is in it. */
  begun(): void;
  close(): Promise<void>;
}

function end(message: string): never {
  console.error(message);
  process.exit(1);
}

/**
 * Takes a data folder and opens its database; a new folder begins with the
 * template, or with what a backup holds. Throws with a
 * sentence when that cannot be; what is in the folder is then as it was.
 */
export async function openFolder(folder: string, backup: string | null = null): Promise<OpenFolder> {
  makeFolder(folder);
  const lock = lockFolder(folder);
  try {
    const { fresh } = lookInto(folder);
    if (backup !== null && !fresh)
      throw new Error(`${folder} is not empty: a backup is restored into an empty folder only. Nothing was changed.`);
    writeNote(folder, fresh ? 'beginning' : 'ready');
    const stillOurs = (): void => {
      try {
        lock.stillOurs();
      } catch (error) {
        // Closing the database would write once more, to what may be another server's folder by now.
        if (error instanceof FolderGone) end(error.message);
        throw error;
      }
    };
    const database = await openDatabase(
      { folder, fresh, backup, template: TEMPLATE },
      {
        stillOurs,
        // Every save that was acknowledged is on disk; without its database the server must not answer any more.
        onCrash: (error) => end(`The database stopped: ${error.message}. Start Dial again; saved work is kept.`),
      },
    );
    const looking = setInterval(stillOurs, LOOK_EVERY_MILLISECONDS).unref();
    return {
      lock,
      database,
      fresh,
      begun: () => writeNote(folder, 'ready'),
      async close() {
        await database.close();
        clearInterval(looking);
        lock.release();
      },
    };
  } catch (error) {
    lock.release();
    throw error;
  }
}

export const backupsOf = (folder: string): string => join(folder, 'backups');
