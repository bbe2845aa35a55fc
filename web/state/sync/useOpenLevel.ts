import { reasonOf } from '@dial/core/level';
import { useEffect, useState } from 'react';
import type { OpenLevel } from '../slices/document.ts';
import { isShown, openLevel } from './opening.ts';
import { useAppSelector, useAppStore } from '../store.ts';

/** The open level, fetched when it is not the one asked for; or what went wrong. */
export function useOpenLevel(id: string, run: string | null): { readonly open: OpenLevel | null; readonly trouble: string | null } {
  const store = useAppStore();
  const open = useAppSelector((state) => state.document.open);
  const drawn = useAppSelector((state) => state.simulated.run);
  const [failed, setFailed] = useState<{ readonly wanted: string; readonly why: string } | null>(null);
  const wanted = `${id} ${run ?? ''}`;
  const isOpen = open?.id === id && (run === null || isShown({ level: open.level, run: drawn }, run));
  useEffect(() => {
    if (isOpen) return;
    openLevel(store, id, run).catch((error: unknown) => {
      setFailed({ wanted, why: `This level cannot be opened. ${reasonOf(error)}` });
    });
  }, [store, id, run, isOpen, wanted]);
  return { open: isOpen ? open : null, trouble: !isOpen && failed?.wanted === wanted ? failed.why : null };
}
