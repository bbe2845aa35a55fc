import { reasonOf } from '@dial/core/level';
import { useEffect } from 'react';
import { findingsActions } from '../slices/findings.ts';
import { viewActions } from '../slices/view.ts';
import { useAppSelector, useAppStore } from '../store.ts';
import { findingsIn } from './simulation.ts';

/** Edits that follow each other as quickly as this are looked through once. */
const SETTLE_MILLISECONDS = 60;

/** Keeps what is found true while the level that is open is edited. */
export function useFindings(): void {
  const store = useAppStore();
  const level = useAppSelector((state) => state.document.open?.level ?? null);
  useEffect(() => {
    if (level === null || store.getState().findings.found?.level === level) return;
    let wanted = true;
    const timer = setTimeout(() => {
      findingsIn(level).then(
        (findings) => wanted && store.dispatch(findingsActions.came({ level, findings })),
        (why: unknown) => wanted && store.dispatch(viewActions.troubled(`Mistakes could not be looked for: ${reasonOf(why)}`)),
      );
    }, SETTLE_MILLISECONDS);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [store, level]);
}
