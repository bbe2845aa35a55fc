import { readdir, readFile, mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import { PGlite } from '@electric-sql/pglite';
import { expose } from 'comlink';
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs';
import { z } from 'zod';

/**
 * The database, in a thread of its own so that a slow query does not stop the server. It owns the one PGlite handle.
 */
const { folder } = z.object({ folder: z.string() }).parse(workerData);
const migrationsFolder = new URL('../../db/migrations/', import.meta.url);

async function migrate(database: PGlite): Promise<void> {
  await database.exec('create table if not exists migrations (name text primary key, applied_at timestamptz not null default now())');
  const done = await database.query<{ name: string }>('select name from migrations');
  const applied = new Set(done.rows.map(({ name }) => name));
  const names = (await readdir(migrationsFolder)).filter((name) => /^\d{4}_.*\.sql$/.test(name)).sort();
  for (const name of names) {
    if (applied.has(name)) continue;
    if (applied.size > 0) {
      const backups = join(folder, 'backups');
      await mkdir(backups, { recursive: true });
      const dump = await database.dumpDataDir('gzip');
      await writeFile(join(backups, `before-${name}.tar.gz`), Buffer.from(await dump.arrayBuffer()));
    }
    const statements = await readFile(new URL(name, migrationsFolder), 'utf8');
    await database.transaction(async (transaction) => {
      await transaction.exec(statements);
      await transaction.query('insert into migrations (name) values ($1)', [name]);
    });
    applied.add(name);
  }
}

const database = await PGlite.create(join(folder, 'database'));
await migrate(database);

const api = {
  /** Runs one statement; each statement is a transaction of its own. */
  async query(sql: string, params: unknown[]): Promise<Record<string, unknown>[]> {
    return (await database.query<Record<string, unknown>>(sql, params)).rows;
  },
  async close(): Promise<void> {
    await database.close();
  },
};
export type DatabaseApi = typeof api;

if (parentPort === null) throw new Error('the database worker runs in a worker thread');
expose(api, nodeEndpoint(parentPort));
parentPort.postMessage('ready');
