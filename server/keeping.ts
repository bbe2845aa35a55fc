import { reasonOf } from '@dial/core/level';
import { mkdir, readdir, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Database } from './db/database.ts';
import { createQueries } from './db/queries.ts';
import { freeBytes, SCARCE_BYTES } from './routes/service.ts';

/** Days after which what was deleted is gone for good, and patches of a level that are kept in its log. */
const KEPT = { days: 30, patches: 2000 };
/** Saves after which the database is tidied even while it is busy, and rest after which it is tidied if there was any. */
const SAVES = 400;
const REST_MILLISECONDS = 3000;
const LOOK_EVERY_MILLISECONDS = 1000;
const CLEAR_EVERY_MILLISECONDS = 3_600_000;
const DAY_MILLISECONDS = 86_400_000;
const SOON_MILLISECONDS = 5 * 60_000;
const ROOM_EVERY_MILLISECONDS = 60_000;
const DAILY_BACKUPS = 7;
/** With less room than this the database is not tidied. */
const TIDY_BYTES = 32 * 1024 * 1024;

/** Writes a backup whole or not at all. */
export async function writeBackup(database: Database, file: string): Promise<void> {
  await writeFile(`${file}.part`, await database.dump());
  await rename(`${file}.part`, file);
}

/** A backup a day, into the folder's own `backups`, the newest of them kept. */
async function backUpDaily(database: Database, backups: string, now: Date): Promise<void> {
  await mkdir(backups, { recursive: true });
  const name = `daily-${now.toISOString().slice(0, 10)}.tar.gz`;
  const daily = (await readdir(backups)).filter((file) => /^daily-.*\.tar\.gz$/.test(file)).sort();
  if (daily.includes(name)) return;
  await writeBackup(database, join(backups, name));
  for (const old of [...daily, name].slice(0, -DAILY_BACKUPS)) await rm(join(backups, old));
}

export interface Keeping {
  /** Waits for what is under way, and ends. */
  stop(): Promise<void>;
}

export interface KeepingOptions {
  readonly database: Database;
  readonly folder: string;
  readonly backups: string;
  readonly warn: (message: string) => void;
  /** How much room there is beside a folder, in bytes. */
  readonly roomOf?: (folder: string) => Promise<number>;
}

/**
 * Keeps the database small and safe while the server runs: room of what was overwritten is given back, the write-ahead log
 * cleared, what was deleted long ago and old patches removed, a backup made each day, and a disk that fills up told of.
 */
export function startKeeping({
  database,
  folder,
  backups,
  warn,
  roomOf = freeBytes,
}: KeepingOptions): Keeping & { readonly database: Database } {
  const queries = createQueries(database);
  let written = 0;
  let lastWrite = 0;
  // Also of a server that is never up for long: the first time comes soon after its start.
  let cleared = Date.now() - CLEAR_EVERY_MILLISECONDS + SOON_MILLISECONDS;
  let backedUp = Date.now() - DAY_MILLISECONDS + SOON_MILLISECONDS;
  let warned = false;
  let lookedForRoom = 0;
  let busy: Promise<void> = Promise.resolve();
  let working = false;

  const tidy = async (): Promise<void> => {
    // To clear its log PostgreSQL writes first, and stops for good where it cannot.
    if ((await roomOf(folder)) < TIDY_BYTES) return;
    written = 0;
    await database.maintain('vacuum levels; vacuum patches; vacuum versions; vacuum runs; checkpoint');
    if (Date.now() - cleared > CLEAR_EVERY_MILLISECONDS) {
      cleared = Date.now();
      await queries.clear(KEPT);
    }
    if (Date.now() - backedUp > DAY_MILLISECONDS) {
      backedUp = Date.now();
      await backUpDaily(database, backups, new Date());
    }
  };
  const lookForRoom = async (): Promise<void> => {
    const scarce = (await roomOf(folder)) < SCARCE_BYTES;
    if (scarce && !warned) warn(`The disk that ${folder} is on is nearly full. Make room, or saving will soon fail.`);
    warned = scarce;
  };
  const look = (): void => {
    if (Date.now() - lookedForRoom > ROOM_EVERY_MILLISECONDS) {
      lookedForRoom = Date.now();
      lookForRoom().catch((error: unknown) => warn(`Whether there is room on the disk cannot be told: ${reasonOf(error)}`));
    }
    const rested = written > 0 && Date.now() - lastWrite > REST_MILLISECONDS;
    if (working || (written < SAVES && !rested)) return;
    working = true;
    busy = tidy()
      .catch((error: unknown) => warn(`The database could not be tidied: ${reasonOf(error)}`))
      .finally(() => {
        working = false;
      });
  };
  const timer = setInterval(look, LOOK_EVERY_MILLISECONDS).unref();
  return {
    database: {
      ...database,
      query: (schema, sql, params) => {
        if (/^\s*(with|insert|update|delete)\b/i.test(sql)) {
          written += 1;
          lastWrite = Date.now();
        }
        return database.query(schema, sql, params);
      },
    },
    stop: async () => {
      clearInterval(timer);
      await busy;
    },
  };
}
