import type { Level } from '@dial/core/level';
import { produce } from 'immer';
import { benchActions } from './bench.ts';
import { edit, setAt } from './changes.ts';
import type { AppStore } from './store.ts';

/** Changes a draft of the level. */
export type Recipe = (draft: Level) => void;

/** Shows the level as a change under way would make it, not yet an edit. */
export function preview(store: AppStore, recipe: Recipe): void {
  const { open } = store.getState().bench;
  if (open !== null) store.dispatch(benchActions.turned(produce(open.level, recipe)));
}

/** Makes an edit of the level. Answers why not, when it is refused; then nothing is changed. */
export function makeEdit(store: AppStore, label: string, recipe: Recipe): string | null {
  const { open } = store.getState().bench;
  if (open === null) return null;
  const edited = edit(open.level, label, recipe);
  if (!edited.ok || edited.change.forward.length === 0) store.dispatch(benchActions.turned(null));
  if (!edited.ok) return edited.problem.message;
  if (edited.change.forward.length > 0) {
    store.dispatch(benchActions.edited({ level: edited.level, change: edited.change, key: crypto.randomUUID() }));
  }
  return null;
}

/** Makes an edit whose refusal is shown above the Bench. Answers whether it was made. */
export function tryEdit(store: AppStore, label: string, recipe: Recipe): boolean {
  const refusal = makeEdit(store, label, recipe);
  if (refusal !== null) store.dispatch(benchActions.troubled(`Not done: ${refusal}. The level is as it was.`));
  return refusal === null;
}

/** Shows the level with one number changed while its dial is being turned. */
export function turnDial(store: AppStore, path: string, value: number): void {
  preview(store, (draft) => setAt(draft, path, value));
}

/** Makes one value of the level another. Answers why not, when it is refused. */
export function setDial(store: AppStore, path: string, label: string, value: number | string): string | null {
  return makeEdit(store, label, (draft) => setAt(draft, path, value));
}
