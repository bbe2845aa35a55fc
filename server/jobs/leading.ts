import type { StudyProgress } from '@dial/core/api';
import type { CrowdSettings, Judging } from '@dial/core/studies';
import type { Piscina } from 'piscina';
import type { Queries } from '../db/queries.ts';
import { conducted } from './conducting.ts';
import type { Task } from './playing.ts';

/** Sessions of a crowd that are played and kept at a time: about a second. */
const SHARD = 25;

type Found = NonNullable<Awaited<ReturnType<Queries['openStudy']>>>;
type Open<Settings> = Omit<Found, 'settings'> & { readonly settings: Settings };

/** What a study is led with. */
interface Leading {
  readonly id: string;
  readonly queries: Queries;
  readonly players: Piscina<Task, Uint8Array>;
  readonly threads: number;
  /** Whether the server is being ended: then nothing is kept any more. */
  readonly isStopped: () => boolean;
  /** Whether it shall go on: it is not cancelled either. */
  readonly goesOn: () => boolean;
  /** Tells how far it has come: sessions of how many, and how many there were before it went on. */
  readonly say: (state: StudyProgress['state'], done: number, of: number, before: number) => void;
}

/** Plays what is missing of a crowd, a few parts at a time, so that two studies share the threads fairly. */
export async function playCrowd(
  { id, queries, players, threads, isStopped, goesOn, say }: Leading,
  study: Open<CrowdSettings>,
): Promise<void> {
  const { document, settings, sessions, done } = study;
  const missing = Array.from({ length: Math.ceil(sessions / SHARD) }, (_, at) => at * SHARD).filter((first) => !done.has(first));
  const before = [...done].reduce((sum, first) => sum + Math.min(SHARD, sessions - first), 0);
  let played = before;
  const one = async (): Promise<void> => {
    for (let from = missing.shift(); from !== undefined && goesOn(); from = missing.shift()) {
      const to = Math.min(sessions, from + SHARD);
      const summary = await players.run({ document, settings, from, to });
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
}

/** Leads a study of values to its end: parts that are there are not played again. */
export async function judge({ id, queries, players, threads, isStopped, goesOn, say }: Leading, study: Open<Judging>): Promise<void> {
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
      const summary = kept?.summary ?? (await players.run({ document, versions, ask }));
      if (isStopped()) return null;
      if (kept === undefined) await queries.insertShard(id, nth, count, summary);
      else before += count;
      played += count;
      say('running', played, of, before);
      return goesOn() ? summary : null;
    },
  });
  if (outcome !== 'stopped' && goesOn() && (await queries.endJudging(id, outcome))) say('done', played, played, before);
}
