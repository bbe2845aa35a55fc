import { once } from 'node:events';
import { Worker } from 'node:worker_threads';
import { wrap, type Remote } from 'comlink';
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs';
import type { z } from 'zod';
import type { DatabaseApi } from './worker.ts';

/** The one way to the database: SQL and parameters in, rows out, each checked against a schema. */
export interface Database {
  query<Row>(schema: z.ZodType<Row>, sql: string, params?: unknown[]): Promise<Row[]>;
  close(): Promise<void>;
}

/** Opens the database in `folder`, which must already be locked. `onCrash` is told when its thread ends unasked. */
export async function openDatabase(folder: string, onCrash: (error: Error) => void): Promise<Database> {
  const worker = new Worker(new URL('./worker.js', import.meta.url), { workerData: { folder } });
  let closing = false;
  const started = once(worker, 'message');
  const failed = once(worker, 'exit').then(() => {
    throw new Error('the database did not start');
  });
  worker.on('error', (error) => {
    onCrash(error instanceof Error ? error : new Error(String(error)));
  });
  worker.on('exit', () => {
    if (!closing) onCrash(new Error('the database thread ended'));
  });
  await Promise.race([started, failed]);
  failed.catch(() => undefined); // After the start, an exit is reported through onCrash.
  const api: Remote<DatabaseApi> = wrap<DatabaseApi>(nodeEndpoint(worker));
  return {
    async query(schema, sql, params = []) {
      return (await api.query(sql, params)).map((row) => schema.parse(row));
    },
    async close() {
      closing = true;
      await api.close();
      await worker.terminate();
    },
  };
}
