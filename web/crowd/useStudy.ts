import { reasonOf } from '@dial/core/level';
import { useEffect, useState } from 'react';
import { api } from '../state/server/api.ts';
import { useAppSelector } from '../state/store.ts';
import { resultOf, type CrowdResult } from './result.ts';

/** While a study is played its sessions are fetched anew when so many more have come, as a share of all; of a large one only in the end. */
const FETCHED_EVERY = 0.2;
const LARGE = 2000;

export interface FetchedStudy {
  readonly result: CrowdResult | null;
  readonly trouble: string | null;
}

/** A study with all its sessions; while it is played, those that have come so far. */
export function useStudy(level: string, id: string | null): FetchedStudy {
  const progress = useAppSelector((state) => (id === null ? undefined : state.crowd.studies[id]));
  const [fetched, setFetched] = useState<FetchedStudy & { readonly id: string | null }>({ id: null, result: null, trouble: null });
  const sessions = fetched.id === id ? (fetched.result?.study.sessions ?? Infinity) : Infinity;
  const done = progress?.done ?? 0;
  // Fetched at first, at each fifth of the way, and when it ends.
  const stage =
    progress === undefined
      ? 'first'
      : progress.state !== 'running'
        ? progress.state
        : sessions > LARGE
          ? 'first'
          : Math.floor(done / (FETCHED_EVERY * sessions));
  useEffect(() => {
    if (id === null) return;
    let wanted = true;
    api.getStudy(level, id).then(
      (reply) => wanted && setFetched({ id, result: resultOf(reply), trouble: null }),
      (error: unknown) => wanted && setFetched({ id, result: null, trouble: `The crowd could not be fetched: ${reasonOf(error)}` }),
    );
    return () => {
      wanted = false;
    };
  }, [level, id, stage]);
  return fetched.id === id ? fetched : { result: null, trouble: null };
}
