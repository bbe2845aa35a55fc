import { reasonOf } from '@dial/core/level';
import { withEvents, type Outside, type Run } from '@dial/core/players';
import { newId } from '../../browser/ids.ts';
import { api } from '../server/api.ts';
import { listChanged } from './listing.ts';
import { WALKED, simulatedActions } from '../slices/simulated.ts';
import { viewActions } from '../slices/view.ts';
import type { AppStore } from '../store.ts';

type Events = readonly Outside[];

/** What the events of runs were before each change made here, the last one last. */
const before: { readonly run: string; readonly events: Events }[] = [];

/** Changes go to the server one after the other, so that the last one made is the last one there. */
let queue: Promise<unknown> = Promise.resolve();

function inTurn(act: () => Promise<unknown>): Promise<unknown> {
  const turn = queue.then(act);
  queue = turn.catch(() => undefined);
  return turn;
}

/** The run on the Strip, with the level it is of; null when there is none. */
function shownRun(store: AppStore): { readonly level: string; readonly id: string; readonly run: Run } | null {
  const { open } = store.getState().document;
  const { run } = store.getState().simulated;
  return open === null || run === null ? null : { level: open.id, ...run };
}

/** Shows the run on the Strip with other events, which are not kept yet: while one is moved. */
export function previewEvents(store: AppStore, events: Events): void {
  const shown = shownRun(store);
  if (shown !== null) store.dispatch(simulatedActions.runChanged({ id: shown.id, run: withEvents(shown.run, events) }));
}

/** A walk is kept nowhere: with events of its own it becomes a run. Answers its id. */
async function keepWalk(store: AppStore, level: string, events: Events): Promise<string> {
  const walk = store.getState().simulated.run?.walked;
  if (walk === undefined) throw new Error('its route is still being walked');
  const id = newId();
  const run = { ...withEvents(walk, events), name: `${walk.name}, with events` };
  return await putWalk(store, level, id, run);
}

/** Keeps a walk as a run of its own, which is then on the Strip. Answers its id. */
async function putWalk(store: AppStore, level: string, id: string, run: Run): Promise<string> {
  await api.putRun(level, id, run);
  const shown = shownRun(store);
  listChanged(store, 'runs');
  if (shown?.level === level && shown.id === WALKED) store.dispatch(simulatedActions.runChanged({ id, run }));
  return id;
}

/** Keeps the walk on the Strip as it is now: it is a run then, which no turned dial plays anew. Answers its id; null when it could not be kept. */
export async function keepShownWalk(store: AppStore): Promise<string | null> {
  const { open } = store.getState().document;
  const walk = store.getState().simulated.run?.walked;
  if (open === null || walk === undefined) return null;
  try {
    return await putWalk(store, open.id, newId(), walk);
  } catch (error) {
    store.dispatch(viewActions.troubled(`The run could not be kept: ${reasonOf(error)}`));
    return null;
  }
}

/** Gives the run on the Strip other events and keeps them; what they were is told when it cannot be done. Answers the run they are kept with, or null. */
async function keep(store: AppStore, events: Events, were: Events): Promise<string | null> {
  const shown = shownRun(store);
  if (shown === null) return null;
  const { level, id } = shown;
  try {
    if (id === WALKED) return await keepWalk(store, level, events);
    previewEvents(store, events);
    await inTurn(() => api.changeRun(level, id, { events: [...events] }));
    return id;
  } catch (error) {
    const now = shownRun(store);
    if (now?.level !== level || now.id !== id) return null;
    // Of a walk nothing was shown otherwise: it is still the route's.
    if (id !== WALKED) previewEvents(store, were);
    store.dispatch(viewActions.troubled(`The events of this run are as they were: ${reasonOf(error)}`));
    return null;
  }
}

/** The events with one more. Who is to join and is there already leaves with the first step: it comes late. */
export function withOneMore(events: Events, event: Outside): Events {
  const last = events.findLast(
    ({ what, player, step }) => (what === 'join' || what === 'leave') && player === event.player && step <= event.step,
  );
  const late = event.what === 'join' && last === undefined && event.step > 1;
  return [...(late ? [{ what: 'leave' as const, step: 1, player: event.player }] : []), ...events, event];
}

/** The last change that was begun: what takes it back waits until it is kept. */
let changing: Promise<void> = Promise.resolve();

/** Gives the run on the Strip other events from outside, and keeps them. `were` are those before a preview of them. */
export async function changeEvents(store: AppStore, events: Events, were?: Events): Promise<void> {
  const had = were ?? shownRun(store)?.run.events ?? [];
  changing = keep(store, events, had).then((run) => {
    if (run !== null) before.push({ run, events: had });
  });
  await changing;
}

/** Whether a change of a run's events can be taken back. */
export const canTakeBack = (run: string): boolean => before.some((one) => one.run === run);

/** Takes the last change of the events of the run on the Strip back. */
export async function takeBackEvents(store: AppStore): Promise<void> {
  await changing;
  const shown = shownRun(store);
  const at = before.findLastIndex((one) => one.run === shown?.id);
  const last = before[at];
  if (shown === null || last === undefined) return;
  before.splice(at, 1);
  if ((await keep(store, last.events, shown.run.events)) === null) before.push(last);
}
