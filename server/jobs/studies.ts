import { availableParallelism } from 'node:os';
import { reasonOf } from '@dial/core/level';
import type { StudyProgress } from '@dial/core/api';
import { Piscina } from 'piscina';
import type { Database } from '../db/database.ts';
import type { Queries } from '../db/queries.ts';
import { isDiskFull } from '../problems.ts';
import { judge, playCrowd } from './leading.ts';
import type { Task } from './playing.ts';
import { openQueue, type Queue } from './queue.ts';

const IDLE_MILLISECONDS = 5000;
/** A thread that has played is several times as quick as a new one: it is kept for whoever asks one thing after another. */
const THREADS_IDLE_MILLISECONDS = 600_000;

const NO_ROOM = 'there is no room left on the disk that Dial keeps its data on; what was played is kept, and it can go on once there is';

/** So often each new thread is given some sessions to warm it, and for so long. */
const WARMINGS = 75;
const WARM_MILLISECONDS = 6000;

/** Sessions after which the pace is known. */
const SAYS_SOMETHING = 60;

/** Long work on levels: what was begun is brought to its end, also over restarts, or cancelled. */
export interface Studies {
  /** Starts the threads, where none runs, and warms them by a level, until there is something to play. */
  ready(level: string): Promise<void>;
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
  let pool: Piscina<Task, Uint8Array> | null = null;
  const players = (): Piscina<Task, Uint8Array> =>
    (pool ??= new Piscina({
      filename: new URL('./playing.js', import.meta.url).href,
      minThreads: 0,
      maxThreads: threads,
      idleTimeout: THREADS_IDLE_MILLISECONDS,
      // Whoever waits for an answer of the server comes first.
      niceIncrement: 10,
    }));
  let stopped = false;
  const isStopped = (): boolean => stopped;
  const cancelled = new Set<string>();
  /** Studies in the queue, and those that are played. */
  const waiting = new Set<string>();
  const playing = new Set<string>();
  const again = new Set<string>();
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
    // Gone on with before it had come to its stop: it is begun anew once it has.
    if (playing.has(id)) {
      again.add(id);
      return;
    }
    playing.add(id);
    try {
      await play(id);
    } finally {
      playing.delete(id);
      if (again.delete(id) && !isStopped()) await begin(id);
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
      // The first parts are slower than those that follow: they say little.
      const pace = done - before > SAYS_SOMETHING ? (performance.now() - began) / 1000 / (done - before) : null;
      tell(levelId, { id, state, done, secondsLeft: pace === null ? null : Math.round(pace * Math.max(0, of - done)) });
    };
    try {
      const leading = { id, queries, players: players(), threads, isStopped, goesOn, say };
      if ('kind' in settings) await judge(leading, { ...study, settings });
      else await playCrowd(leading, { ...study, settings });
    } catch (error) {
      if (isStopped()) return;
      warn(`The study ${id} failed: ${reasonOf(error)}`);
      // Also where the disk is full: then the state cannot be kept either, and it is begun again at the next start.
      await queries.setStudyState(id, 'failed', isDiskFull(error) ? NO_ROOM : reasonOf(error));
      say('failed', 0, 0, 0);
    }
  };

  const begin = async (id: string): Promise<void> => {
    cancelled.delete(id);
    waiting.add(id);
    await (await queue()).send(id);
  };

  let warming = false;
  const warm = async (document: string): Promise<void> => {
    const until = performance.now() + WARM_MILLISECONDS;
    const isFree = (): boolean => !isStopped() && waiting.size === 0 && playing.size === 0 && performance.now() < until;
    for (let nth = 0; nth < WARMINGS && isFree(); nth += 1) await players().run({ document, warming: nth });
  };

  return {
    begin,
    async ready(level) {
      if (warming || isStopped() || players().threads.length > 0) return;
      warming = true;
      try {
        const found = await queries.findLevel(level);
        if (found !== undefined) await Promise.all(Array.from({ length: threads }, () => warm(found.document)));
      } catch (error) {
        if (!isStopped()) warn(`The threads that play could not be warmed: ${reasonOf(error)}`);
      } finally {
        warming = false;
      }
    },
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
