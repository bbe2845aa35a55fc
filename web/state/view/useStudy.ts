import { reasonOf } from '@dial/core/level';
import { useEffect, useRef, useState } from 'react';
import { api, type StudyReply } from '../server/api.ts';
import { useAppSelector } from '../store.ts';

/** While a study is played it is fetched anew at each stage of its sessions. */
type StageOf = (done: number, sessions: number) => number;

/** More sessions than this are fetched more and more seldom, and above `MOST_FETCHED` only in the end: a crowd has a row a session. */
const MANY = 2000;
const MOST_FETCHED = 16_000;

const ofACrowd: StageOf = (done, sessions) =>
  sessions <= MANY ? Math.floor((5 * done) / sessions) : Math.floor(Math.log2(1 + Math.min(done, MOST_FETCHED) / 500));
/** What is known of a study of values is little to fetch: often at first, then more and more seldom. */
export const ofValues: StageOf = (done) => Math.floor(Math.sqrt(done / 20));

export interface FetchedStudy<Result> {
  readonly result: Result | null;
  readonly trouble: string | null;
}

/** A study with all that came of it, as `read` puts it together; while it is played, what has come so far. */
export function useStudy<Result>(
  level: string,
  id: string | null,
  read: (reply: StudyReply) => Result | null,
  stageOf: StageOf = ofACrowd,
): FetchedStudy<Result> {
  const progress = useAppSelector((state) => (id === null ? undefined : state.crowd.studies[id]));
  const [fetched, setFetched] = useState<FetchedStudy<Result> & { readonly id: string | null; readonly sessions: number }>({
    id: null,
    result: null,
    trouble: null,
    sessions: Infinity,
  });
  const begun = useRef<{ readonly id: string; readonly document: StudyReply['document'] } | null>(null);
  const sessions = fetched.id === id ? fetched.sessions : Infinity;
  const done = progress?.done ?? 0;
  // Fetched at first, at each part of the way, and when it ends.
  const stage = progress === undefined ? 'first' : progress.state !== 'running' ? progress.state : stageOf(done, sessions);
  useEffect(() => {
    if (id === null) return;
    let wanted = true;
    api.getStudy(level, id).then(
      (reply) => {
        if (!wanted) return;
        // The level of a study stays the same: what was found out about it once holds on.
        if (begun.current?.id !== id) begun.current = { id, document: reply.document };
        setFetched({ id, result: read({ ...reply, document: begun.current.document }), trouble: null, sessions: reply.sessions });
      },
      (error: unknown) =>
        wanted && setFetched({ id, result: null, trouble: `The study could not be fetched: ${reasonOf(error)}`, sessions: Infinity }),
    );
    return () => {
      wanted = false;
    };
  }, [level, id, stage, read]);
  return fetched.id === id ? fetched : { result: null, trouble: null };
}
