import { reasonOf } from '@dial/core/level';
import { useEffect, useState } from 'react';
import { api, type StudyReply } from '../server/api.ts';
import { useAppSelector } from '../store.ts';

/** While a study is played it is fetched anew each time so large a part of it has been played; one of more sessions only in the end. */
interface Fetching {
  readonly every: number;
  readonly large: number;
}

/** A crowd has a row a session. */
const OF_A_CROWD: Fetching = { every: 0.2, large: 2000 };
/** What is known of a study of values is little to fetch. */
export const OF_VALUES: Fetching = { every: 0.05, large: Infinity };

export interface FetchedStudy<Result> {
  readonly result: Result | null;
  readonly trouble: string | null;
}

/** A study with all that came of it, as `read` puts it together; while it is played, what has come so far. */
export function useStudy<Result>(
  level: string,
  id: string | null,
  read: (reply: StudyReply) => Result | null,
  { every, large }: Fetching = OF_A_CROWD,
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
        : sessions > large
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
