import type { Level } from '@dial/core/level';
import { produce } from 'immer';
import { benchActions } from './bench.ts';
import { edit, setAt } from './changes.ts';
import type { AppStore } from './store.ts';

/** Shows the level with one number changed while its dial is being turned. */
export function turnDial(store: AppStore, path: string, value: number): void {
  const { open } = store.getState().bench;
  if (open === null) return;
  store.dispatch(benchActions.turned(produce(open.level, (draft: Level) => setAt(draft, path, value))));
}

/** Makes one number of the level another, as an edit. Answers why not, when it is refused. */
export function setDial(store: AppStore, path: string, label: string, value: number): string | null {
  const { open } = store.getState().bench;
  if (open === null) return null;
  const edited = edit(open.level, label, (draft) => {
    setAt(draft, path, value);
  });
  if (!edited.ok) {
    store.dispatch(benchActions.turned(null));
    return edited.problem.message;
  }
  if (edited.change.forward.length === 0) store.dispatch(benchActions.turned(null));
  else store.dispatch(benchActions.edited({ level: edited.level, change: edited.change, key: crypto.randomUUID() }));
  return null;
}
