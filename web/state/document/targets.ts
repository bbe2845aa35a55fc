import isEqual from 'fast-deep-equal';
import { freeId, inOrder, lastOrder, type Target } from '@dial/core/level';
import { makeEdit } from './edits.ts';
import type { AppStore } from '../store.ts';

/** Adds targets to the level, as one edit; one that it states already is that one. Answers their ids, or why they are refused. */
export function addTargets(
  store: AppStore,
  targets: readonly Target[],
): { readonly ok: true; readonly ids: readonly string[] } | { readonly ok: false; readonly why: string } {
  let ids: string[] = [];
  const why = makeEdit(store, targets.length === 1 ? 'new target' : 'new targets', (draft) => {
    ids = [];
    for (const target of targets) {
      const same = inOrder(draft.targets).find(([, stated]) => isEqual({ ...stated, order: target.order }, target))?.[0];
      const id = same ?? freeId(draft.targets, 'target');
      if (same === undefined) draft.targets[id] = { ...target, order: lastOrder(draft.targets) };
      ids.push(id);
    }
  });
  return why === null ? { ok: true, ids } : { ok: false, why };
}
