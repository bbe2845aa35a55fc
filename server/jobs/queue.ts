import PgBoss from 'pg-boss';
import { z } from 'zod';
import type { Database } from '../db/database.ts';

/** A queue of jobs, each known by an id. This file alone knows the package behind it. */
export interface Queue {
  /** Puts a job into the queue, once however often it is asked for. */
  send(id: string): Promise<void>;
  /** Waits for no job that is under way: it is begun again at the next start. */
  stop(): Promise<void>;
}

const NAME = 'studies';
const SECONDS_BETWEEN_LOOKS = 1;
/** Jobs that are worked on at a time; they share the threads. */
const AT_A_TIME = 2;
/** A job that is not done after so long is taken for lost. Seconds. */
const LONGEST_SECONDS = 23 * 3600;

const Row = z.record(z.string(), z.unknown());

/**
 * Opens the queue, in the database itself. Jobs that were under way when the server last ended are forgotten by it: whoever owns them
 * sends them again. `fail` is told what goes wrong beside any job.
 */
export async function openQueue(database: Database, work: (id: string) => Promise<void>, fail: (error: unknown) => void): Promise<Queue> {
  const boss = new PgBoss({
    db: {
      // Scripts of several statements come without values.
      executeSql: async (text: string, values?: unknown[]) => ({
        rows: values === undefined || values.length === 0 ? await database.script(text) : await database.query(Row, text, values),
      }),
    },
    schedule: false,
    supervise: false,
  });
  boss.on('error', fail);
  await boss.start();
  await boss.createQueue(NAME, { name: NAME, policy: 'standard' });
  await boss.purgeQueue(NAME);
  await database.script("update pgboss.job set state = 'cancelled', completed_on = now() where state = 'active'");
  const workers: string[] = [];
  for (let nth = 0; nth < AT_A_TIME; nth += 1) {
    const worker = await boss.work<{ id: string }>(NAME, { pollingIntervalSeconds: SECONDS_BETWEEN_LOOKS, batchSize: 1 }, async ([job]) => {
      if (job !== undefined) await work(job.data.id);
    });
    workers.push(worker);
  }
  return {
    async send(id) {
      await boss.send(NAME, { id }, { singletonKey: id, retryLimit: 0, expireInSeconds: LONGEST_SECONDS });
      // Whoever is free looks at once.
      for (const worker of workers) boss.notifyWorker(worker);
    },
    stop: () => boss.stop({ graceful: false, wait: false }),
  };
}
