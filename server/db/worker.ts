import { reasonOf } from '@dial/core/level';
import { existsSync } from 'node:fs';
import { cp, mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import { PGlite } from '@electric-sql/pglite';
import { expose } from 'comlink';
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs';
import { z } from 'zod';

/**
 * The database, in a thread of its own so that a slow query does not stop the server. It owns the one PGlite handle.
 */
const Options = z.object({
  folder: z.string(),
  /** Whether there is none yet; one is then begun. */
  fresh: z.boolean(),
  /** What a fresh one begins with: a backup, gzipped tar; else a folder to be copied, where it is there. */
  backup: z.string().nullable(),
  template: z.string().nullable(),
});
export type DatabaseOptions = z.infer<typeof Options>;

export type Started = { readonly state: 'ready' } | { readonly state: 'unreadable'; readonly why: string };

const migrationsFolder = new URL('../../db/migrations/', import.meta.url);
/** Backups made before migrations, at most. */
const BACKUPS_KEPT = 3;

// One process writes and nothing is promised for power loss: a small write-ahead log, cleared whenever the server rests.
const SETTINGS = { min_wal_size: '32MB', max_wal_size: '64MB', wal_init_zero: 'off', wal_recycle: 'off', autovacuum: 'off' };

async function backUp(database: PGlite, folder: string, name: string): Promise<void> {
  const backups = join(folder, 'backups');
  await mkdir(backups, { recursive: true });
  const dump = await database.dumpDataDir('gzip');
  await writeFile(join(backups, `before-${name}.tar.gz`), Buffer.from(await dump.arrayBuffer()));
  const old = (await readdir(backups)).filter((file) => /^before-\d{4}_/.test(file)).sort();
  for (const file of old.slice(0, -BACKUPS_KEPT)) await rm(join(backups, file));
}

async function appliedMigrations(database: PGlite): Promise<ReadonlySet<string>> {
  await database.exec('create table if not exists migrations (name text primary key, applied_at timestamptz not null default now())');
  const { rows } = await database.query<{ name: string }>('select name from migrations');
  return new Set(rows.map(({ name }) => name));
}

/** Brings the database up to date, after one backup of what it was. */
async function migrate(database: PGlite, { folder, fresh }: DatabaseOptions): Promise<void> {
  const applied = await appliedMigrations(database);
  const names = (await readdir(migrationsFolder)).filter((name) => /^\d{4}_.*\.sql$/.test(name)).sort();
  const unknown = [...applied].find((name) => !names.includes(name));
  if (unknown !== undefined) throw new Error(`it was written by a newer Dial (it knows ${unknown}); start that one`);
  if (!fresh && applied.size === 0) throw new Error('it holds no levels of Dial');
  const missing = names.filter((name) => !applied.has(name));
  if (missing[0] !== undefined && !fresh) await backUp(database, folder, missing[0]);
  for (const name of missing) {
    const statements = await readFile(new URL(name, migrationsFolder), 'utf8');
    await database.transaction(async (transaction) => {
      await transaction.exec(statements);
      await transaction.query('insert into migrations (name) values ($1)', [name]);
    });
  }
}

async function open(options: DatabaseOptions): Promise<PGlite> {
  const { folder, fresh, backup, template } = options;
  const place = join(folder, 'database');
  if (fresh && backup === null && template !== null && existsSync(template)) await cp(template, place, { recursive: true });
  const dump = fresh && backup !== null ? { loadDataDir: new Blob([await readFile(backup)]) } : {};
  const database = await PGlite.create({ dataDir: place, ...dump });
  await migrate(database, options);
  for (const [name, value] of Object.entries(SETTINGS)) {
    const { rows } = await database.query<{ setting: string }>('select setting from pg_file_settings where name = $1', [name]);
    if (rows.length === 0) await database.exec(`alter system set ${name} = '${value}'`);
  }
  return database;
}

/** Rows, or what PostgreSQL refused a statement for: its code (SQLSTATE) and words. */
export type Answer =
  { readonly ok: true; readonly rows: Record<string, unknown>[] } | { readonly ok: false; readonly code: string; readonly message: string };

async function answered(ask: () => Promise<Record<string, unknown>[]>): Promise<Answer> {
  try {
    return { ok: true, rows: await ask() };
  } catch (error) {
    if (error instanceof Error && 'code' in error && typeof error.code === 'string')
      return { ok: false, code: error.code, message: error.message };
    throw error;
  }
}

function serve(database: PGlite) {
  return {
    /** Runs one statement; each statement is a transaction of its own. */
    query: (sql: string, params: unknown[]): Promise<Answer> =>
      answered(async () => (await database.query<Record<string, unknown>>(sql, params)).rows),
    /** Runs a script; the rows of the last statement that has any. */
    script: (sql: string): Promise<Answer> =>
      answered(async () => (await database.exec(sql)).findLast(({ rows }) => rows.length > 0)?.rows ?? []),
    async exec(sql: string): Promise<void> {
      for (const statement of sql.split(';')) if (statement.trim() !== '') await database.exec(statement);
    },
    async dump(): Promise<Uint8Array> {
      const dump = await database.dumpDataDir('gzip');
      return new Uint8Array(await dump.arrayBuffer());
    },
    async close(): Promise<void> {
      await database.exec('checkpoint');
      await database.close();
    },
  };
}
export type DatabaseApi = ReturnType<typeof serve>;

const port = parentPort;
if (port === null) throw new Error('the database worker runs in a worker thread');
try {
  expose(serve(await open(Options.parse(workerData))), nodeEndpoint(port));
  port.postMessage({ state: 'ready' } satisfies Started);
} catch (error) {
  port.postMessage({ state: 'unreadable', why: reasonOf(error) } satisfies Started);
}
