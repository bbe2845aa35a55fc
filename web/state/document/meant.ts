import type { Finding } from '@dial/core/findings';
import { whyMeant } from '@dial/core/level';
import { useAppSelector, useAppStore, type AppStore } from '../store.ts';
import { tryEdit } from './edits.ts';

/** Sets a finding aside, with a reason that is kept in the level: one undoable edit. Answers whether it was made. */
export function setAside(store: AppStore, { key, id, cause, what }: Finding, reason: string): boolean {
  return tryEdit(store, `set aside: ${what}`, (draft) => {
    draft.meant[key] = { finding: id, cause, reason };
  });
}

/** What was found, without what the level as it is now sets aside; and what sets one aside. */
export function useNotAside(found: readonly Finding[]): {
  readonly findings: readonly Finding[];
  readonly onMeant: (finding: Finding, reason: string) => boolean;
} {
  const store = useAppStore();
  const meant = useAppSelector((state) => state.document.open?.level.meant);
  return {
    findings: found.filter((finding) => whyMeant(meant ?? {}, finding) === null),
    onMeant: (finding, reason) => setAside(store, finding, reason),
  };
}
