import { reasonOf } from '@dial/core/level';
import { useEffect, useState } from 'react';
import { api, type StudyReply } from '../state/server/api.ts';
import { useAppSelector } from '../state/store.ts';

/** While a study is played its sessions are fetched anew when so many more have come, as a share of all; of a large one only in the end. */
const FETCHED_EVERY = 0.2;
const LARGE = 2000;

export interface FetchedStudy<Result> {
  readonly result: Result | null;
  readonly trouble: string | null;
}

/** A study with all that came of it, as `read` puts it together; while it is played, what has come so far. */
export function useStudy<Result>(
  level: string,
  id: string | null,
  read: (reply: StudyReply) => Result | null,
  every = FETCHED_EVERY,
): FetchedStudy<Result> {
  const progress = useAppSelector((state) => (id === null ? undefined : state.crowd.studies[id]));
  const [fetched, setFetched] = useState<FetchedStudy<Result> & { readonly id: string | null; readonly sessions: number }>({
    id: null,
    result: null,
    trouble: null,
    sessions: Infinity,
  });
  const sessions = fetched.id === id ? fetched.sessions : Infinity;
  const done = progress?.done ?? 0;
  // Fetched at first, at each part of the way, and when it ends.
  const stage =
    progress === undefined
      ? 'first'
      : progress.state !== 'running'
        ? progress.state
        : sessions > LARGE
          ? 'first'
          : Math.floor(done / (every * sessions));
  useEffect(() => {
    if (id === null) return;
    let wanted = true;
    api.getStudy(level, id).then(
      (reply) => wanted && setFetched({ id, result: read(reply), trouble: null, sessions: reply.sessions }),
      (error: unknown) =>
        wanted && setFetched({ id, result: null, trouble: `The study could not be fetched: ${reasonOf(error)}`, sessions: Infinity }),
    );
    return () => {
      wanted = false;
    };
  }, [level, id, stage, read]);
  return fetched.id === id ? fetched : { result: null, trouble: null };
}
