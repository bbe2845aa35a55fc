import { availableParallelism } from 'node:os';
import { reasonOf } from '@dial/core/level';
import type { StudyProgress } from '@dial/core/api';
import type { CrowdSettings, Judging } from '@dial/core/studies';
import { Piscina } from 'piscina';
import type { Database } from '../db/database.ts';
import type { Queries } from '../db/queries.ts';
import { conducted } from './conducting.ts';
import type { PartTask, ShardTask } from './playing.ts';
import { openQueue, type Queue } from './queue.ts';

/** Sessions that are played and kept at a time: about a second. */
const SHARD = 25;

const IDLE_MILLISECONDS = 5000;

/** Long work on levels: what was begun is brought to its end, also over restarts, or cancelled. */
export interface Studies {
  /** Sees to it that a study that is kept as waiting is played. */
  begin(id: string): Promise<void>;
  /** Stops a study; what has been played of it stays. Answers whether it was under way. */
  cancel(id: string): Promise<boolean>;
  /** Goes on with what was under way when the server last ended. */
  resume(): Promise<void>;
  stop(): Promise<void>;
}

export interface StudiesOptions {
  readonly database: Database;
  readonly queries: Queries;
  /** Told of each step of each study. */
  readonly tell: (level: string, progress: StudyProgress) => void;
  readonly warn: (message: string) => void;
}

export function createStudies({ database, queries, tell, warn }: StudiesOptions): Studies {
  const threads = availableParallelism();
  let pool: Piscina<ShardTask | PartTask, Uint8Array> | null = null;
  const players = (): Piscina<ShardTask | PartTask, Uint8Array> =>
    (pool ??= new Piscina({
      filename: new URL('./playing.js', import.meta.url).href,
      minThreads: 0,
      maxThreads: threads,
      idleTimeout: 30_000,
      // Whoever waits for an answer of the server comes first.
      niceIncrement: 10,
    }));
  let stopped = false;
  const isStopped = (): boolean => stopped;
  const cancelled = new Set<string>();
  /** Studies in the queue, and those that are played. */
  const waiting = new Set<string>();
  const playing = new Set<string>();
  let opening: Promise<Queue> | null = null;

  const queue = (): Promise<Queue> => {
    opening ??= openQueue(database, work, (error) => warn(`The queue of studies: ${reasonOf(error)}`));
    // One that could not be opened is tried anew.
    opening.catch(() => (opening = null));
    return opening;
  };

  /** A queue in which nothing is left is closed: an idle one would keep the database from its rest. */
  const closeIdle = (): void => {
    setTimeout(() => {
      if (waiting.size > 0 || playing.size > 0 || isStopped() || opening === null) return;
      const idle = opening;
      opening = null;
      idle.then((one) => one.stop()).catch((error: unknown) => warn(`The queue of studies: ${reasonOf(error)}`));
    }, IDLE_MILLISECONDS).unref();
  };

  /** One at a time of each study, however often it stands in the queue. */
  const work = async (id: string): Promise<void> => {
    waiting.delete(id);
    if (playing.has(id)) return;
    playing.add(id);
    try {
      await play(id);
    } finally {
      playing.delete(id);
      closeIdle();
    }
  };

  const play = async (id: string): Promise<void> => {
    const study = await queries.openStudy(id);
    if (study === undefined || isStopped()) return;
    const { settings, levelId } = study;
    await queries.setStudyState(id, 'running');
    const began = performance.now();
    const goesOn = (): boolean => !isStopped() && !cancelled.has(id);
    const say = (state: StudyProgress['state'], done: number, of: number, before: number): void => {
      const pace = done > before ? (performance.now() - began) / 1000 / (done - before) : null;
      tell(levelId, { id, state, done, secondsLeft: pace === null ? null : Math.round(pace * Math.max(0, of - done)) });
    };
    try {
      if ('kind' in settings) await judge(id, { ...study, settings }, goesOn, say);
      else await playCrowd(id, { ...study, settings }, goesOn, say);
    } catch (error) {
      if (isStopped()) return;
      warn(`The study ${id} failed: ${reasonOf(error)}`);
      // Also where the disk is full: then the state cannot be kept either, and it is begun again at the next start.
      await queries.setStudyState(id, 'failed', reasonOf(error));
      say('failed', 0, 0, 0);
    }
  };

  type Open = NonNullable<Awaited<ReturnType<Queries['openStudy']>>>;
  type Say = (state: StudyProgress['state'], done: number, of: number, before: number) => void;

  /** Plays what is missing of a crowd, a few parts at a time, so that two studies share the threads fairly. */
  const playCrowd = async (
    id: string,
    study: Open & { readonly settings: CrowdSettings },
    goesOn: () => boolean,
    say: Say,
  ): Promise<void> => {
    const { document, settings, sessions, done } = study;
    const missing = Array.from({ length: Math.ceil(sessions / SHARD) }, (_, at) => at * SHARD).filter((first) => !done.has(first));
    const before = [...done].reduce((sum, first) => sum + Math.min(SHARD, sessions - first), 0);
    let played = before;
    const one = async (): Promise<void> => {
      for (let from = missing.shift(); from !== undefined && goesOn(); from = missing.shift()) {
        const to = Math.min(sessions, from + SHARD);
        const summary = await players().run({ document, settings, from, to });
        if (isStopped()) return;
        await queries.insertShard(id, from, to - from, summary);
        played += to - from;
        say('running', played, sessions, before);
      }
    };
    try {
      await Promise.all(Array.from({ length: threads }, one));
    } finally {
      missing.length = 0;
    }
    if (goesOn() && (await queries.setStudyState(id, 'done'))) say('done', played, sessions, before);
  };

  /** Leads a study of values to its end: parts that are there are not played again. */
  const judge = async (id: string, study: Open & { readonly settings: Judging }, goesOn: () => boolean, say: Say): Promise<void> => {
    const { document, versions, settings, done, sessions } = study;
    let [played, before, of] = [0, 0, sessions];
    const outcome = await conducted({
      data: { document, versions, asked: settings },
      threads,
      wanted: goesOn,
      onOf: (all) => (of = all),
      play: async (nth, ask) => {
        const count = ask.to - ask.from;
        const kept = done.has(nth) ? await queries.shardOf(id, nth) : undefined;
        const summary = kept?.summary ?? (await players().run({ document, versions, ask }));
        if (!goesOn()) return null;
        if (kept === undefined) await queries.insertShard(id, nth, count, summary);
        else before += count;
        played += count;
        say('running', played, of, before);
        return summary;
      },
    });
    if (outcome !== 'stopped' && goesOn() && (await queries.endJudging(id, outcome))) say('done', played, played, before);
  };

  const begin = async (id: string): Promise<void> => {
    waiting.add(id);
    await (await queue()).send(id);
  };

  return {
    begin,
    async cancel(id) {
      cancelled.add(id);
      return queries.setStudyState(id, 'cancelled');
    },
    async resume() {
      const open = await queries.openStudies();
      for (const { id } of open) await begin(id);
    },
    async stop() {
      stopped = true;
      const opened = await opening?.catch(() => null);
      await opened?.stop();
      await pool?.close({ force: true }).catch(() => undefined);
    },
  };
}
