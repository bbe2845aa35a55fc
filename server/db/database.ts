import { reasonOf } from '@dial/core/level';
import { once } from 'node:events';
import { Worker } from 'node:worker_threads';
import { createBreakage } from '@dial/core/api';
import { wrap, type Remote } from 'comlink';
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs';
import type { z } from 'zod';
import { within } from './deadline.ts';
import { Unreadable } from '../folder/state.ts';
import type { Answer, DatabaseApi, DatabaseOptions, Started } from './worker.ts';

/** Longest wait for one statement, in milliseconds. */
const DEADLINE = 20_000;

/** The one way to the database: SQL and parameters in, rows out, each checked against a schema. */
export interface Database {
  query<Row>(schema: z.ZodType<Row>, sql: string, params?: unknown[]): Promise<Row[]>;
  /** Runs a script of several statements without parameters. Answers the rows of the last one that has any. */
  script(sql: string): Promise<Record<string, unknown>[]>;
  /** Runs statements that cannot stand in a transaction, such as `vacuum`. */
  maintain(sql: string): Promise<void>;
  /** The whole of the database as a gzipped tar of its files. */
  dump(): Promise<Uint8Array>;
  close(): Promise<void>;
}

export interface Watch {
  /** Called when the thread of the database ends unasked. */
  readonly onCrash: (error: Error) => void;
  /** Called before each statement; throws when the folder is no longer this server's. */
  readonly stillOurs: () => void;
}

/** Opens the database in a folder, which must already be locked. Throws `Unreadable` when it cannot be read; it is then as it was. */
export async function openDatabase(options: DatabaseOptions, { onCrash, stillOurs }: Watch): Promise<Database> {
  const worker = new Worker(new URL('./worker.js', import.meta.url), { workerData: options });
  let state: 'starting' | 'up' | 'closing' = 'starting';
  const breakage = createBreakage();
  const ended = (error: Error): void => {
    breakage.happen(error);
    if (state === 'up') onCrash(error);
  };
  worker.on('error', (error) => ended(error instanceof Error ? error : new Error(String(error))));
  worker.on('exit', () => ended(new Error('the database thread ended')));
  const [started] = (await breakage.orElse(once(worker, 'message')).catch((error: unknown) => {
    throw new Unreadable(options.folder, reasonOf(error));
  })) as [Started];
  if (started.state === 'unreadable') {
    await worker.terminate();
    throw new Unreadable(options.folder, started.why);
  }
  state = 'up';
  const api: Remote<DatabaseApi> = wrap<DatabaseApi>(nodeEndpoint(worker));
  const asked = <Value>(answer: () => Promise<Value>, milliseconds: number): Promise<Value> => {
    stillOurs();
    return within(breakage.orElse(answer()), milliseconds);
  };
  return {
    async query(schema, sql, params = []) {
      const answer = await asked<Answer>(async () => api.query(sql, params), DEADLINE);
      if (!answer.ok) throw Object.assign(new Error(answer.message), { code: answer.code });
      return answer.rows.map((row) => schema.parse(row));
    },
    async script(sql) {
      const answer = await asked<Answer>(async () => api.script(sql), DEADLINE);
      if (!answer.ok) throw Object.assign(new Error(answer.message), { code: answer.code });
      return answer.rows;
    },
    async maintain(sql) {
      try {
        await asked(() => api.exec(sql), 10 * DEADLINE);
      } catch (error) {
        // Where PostgreSQL cannot clear its log, it may be past answering: then nothing may wait for it.
        await within<Answer>(Promise.resolve(api.query('select 1', [])), DEADLINE).catch(() => ended(new Error(reasonOf(error))));
        throw error;
      }
    },
    dump: () => asked(() => api.dump(), 10 * DEADLINE),
    async close() {
      state = 'closing';
      await within(api.close(), DEADLINE).catch(() => undefined);
      await worker.terminate();
    },
  };
}
