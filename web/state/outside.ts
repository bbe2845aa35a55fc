import { withEvents, type Outside } from '@dial/core/players';
import { newId } from '../browser/ids.ts';
import { api, reasonOf } from './api.ts';
import { benchActions } from './bench.ts';
import { WALKED } from './opening.ts';
import type { AppStore } from './store.ts';

type Events = readonly Outside[];

/** What the events of runs were before each change made here, the last one last. */
const before: { readonly run: string; readonly events: Events }[] = [];

/** Shows the run on the Strip with other events, which are not kept yet: while one is moved. */
export function previewEvents(store: AppStore, events: Events): void {
  const { open } = store.getState().bench;
  if (open?.run == null) return;
  store.dispatch(benchActions.runChanged({ ...open.run, run: withEvents(open.run.run, events) }));
}

async function keep(store: AppStore, events: Events): Promise<string | null> {
  const { open } = store.getState().bench;
  if (open?.run == null) return null;
  const { id, run } = open.run;
  const changed = withEvents(run, events);
  if (id !== WALKED) {
    store.dispatch(benchActions.runChanged({ id, run: changed }));
    await api.changeRun(open.id, id, { events: [...changed.events] });
    return id;
  }
  // A walk is kept nowhere: with events of its own it becomes a run.
  const made = newId();
  const walk = store.getState().bench.simulated.now?.walk?.run ?? run;
  const kept = { ...withEvents(walk, events), name: `${walk.name}, with events` };
  await api.putRun(open.id, made, kept);
  store.dispatch(benchActions.runsListed(await api.listRuns(open.id)));
  store.dispatch(benchActions.runChanged({ id: made, run: kept }));
  return made;
}

/** Gives the run on the Strip other events from outside, and keeps them. `were` are those before a preview of them. */
export async function changeEvents(store: AppStore, events: Events, were?: Events): Promise<void> {
  const { open } = store.getState().bench;
  const had = were ?? open?.run?.run.events ?? [];
  try {
    const run = await keep(store, events);
    if (run !== null) before.push({ run, events: had });
  } catch (error) {
    previewEvents(store, had);
    store.dispatch(benchActions.troubled(`The events of this run are as they were: ${reasonOf(error)}`));
  }
}

/** Whether a change of a run's events can be taken back. */
export const canTakeBack = (run: string): boolean => before.some((one) => one.run === run);

/** Takes the last change of the events of the run on the Strip back. */
export async function takeBackEvents(store: AppStore): Promise<void> {
  const run = store.getState().bench.open?.run?.id;
  const at = before.findLastIndex((one) => one.run === run);
  const last = before[at];
  if (last === undefined) return;
  before.splice(at, 1);
  try {
    await keep(store, last.events);
  } catch (error) {
    store.dispatch(benchActions.troubled(`The events of this run are as they were: ${reasonOf(error)}`));
  }
}
