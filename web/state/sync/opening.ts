import type { DrawnRun, Walks } from '../slices/opening.ts';
import { inOrder, parseLevel, type Level } from '@dial/core/level';
import { api, type RunEntry } from '../server/api.ts';
import { fetchRuns } from './listing.ts';
import { readAside } from '../view/aside.ts';
import { documentActions } from '../slices/document.ts';
import { askedBy, simulatedActions, toBeWalked, walkAsked, WALKED, walkOf } from '../slices/simulated.ts';
import { viewActions } from '../slices/view.ts';
import { keptSteps, takeUnsent, withEdits } from './keeping.ts';
import { sendPlays } from './plays.ts';
import { whenAllSent } from './saving.ts';
import type { AppStore } from '../store.ts';

/** Whether the run that is drawn is the one asked for. Of a walk whose route is gone any other is as good. */
export function isShown({ level, run }: { readonly level: Level; readonly run: DrawnRun | null }, wanted: string): boolean {
  const walks = walkAsked(wanted);
  const sameSeed = walks?.seed === undefined || (walks.seed === run?.run.seed && walks.seconds === run.seconds);
  if ((walks === null ? wanted : walkOf(walks)) === askedBy(run)) return sameSeed;
  return wanted === WALKED || (walks !== null && !isThere(level, walks));
}

/** Whether a level has the route and the personas of a walk. */
function isThere(level: Level, { route, personas = [] }: Walks): boolean {
  return (route === undefined || Object.hasOwn(level.routes, route)) && personas.every((id) => Object.hasOwn(level.personas, id));
}

/**
 * The run to draw: the one asked for, else the last one, else the level's first route walked by the plain walker, else its first persona by
 * its own way.
 */
async function fetchRun(
  id: string,
  wanted: string | null,
  open: { readonly level: Level; readonly runs: readonly RunEntry[] },
): Promise<DrawnRun | null> {
  const { level, runs } = open;
  const asked = walkAsked(wanted ?? '');
  if (asked !== null && isThere(level, asked)) return toBeWalked(level, asked);
  const chosen = wanted === null || wanted === WALKED || asked !== null ? runs[0]?.id : wanted;
  if (chosen !== undefined) return { id: chosen, run: (await api.getRun(id, chosen)).run };
  const [route] = inOrder(level.routes)[0] ?? [];
  if (route !== undefined) return toBeWalked(level, { route });
  const [persona] = inOrder(level.personas)[0] ?? [];
  return persona === undefined ? null : toBeWalked(level, { personas: [persona] });
}

/** Opens a level on the Bench, once the edits of the one that is open are safe. A level that is open already stays as it is, edits and undo steps too; its run changes. */
export async function openLevel(store: AppStore, id: string, wantedRun: string | null): Promise<void> {
  const { open } = store.getState().document;
  if (open?.id === id) {
    const runs = await fetchRuns(store, id);
    if (wantedRun !== null && isShown({ level: open.level, run: store.getState().simulated.run }, wantedRun)) return;
    store.dispatch(simulatedActions.runChosen(await fetchRun(id, wantedRun, { level: open.level, runs })));
    return;
  }
  // A play that was just left, by a reload or a link, is among its runs.
  await Promise.all([whenAllSent(store), sendPlays()]);
  const [reply, versions, runs] = await Promise.all([api.getLevel(id), api.listVersions(id), fetchRuns(store, id)]);
  const newest = versions.at(-1);
  const [version, run] = await Promise.all([
    newest === undefined ? undefined : api.getVersion(id, newest.id),
    fetchRun(id, wantedRun, { level: reply.document, runs }),
  ]);
  // Edits that could not be sent when the level was last open here are made again, and go out now. They are taken over
  // last of all: nothing can go wrong between here and the store that holds them.
  const unsent = await takeUnsent(id);
  const mine = withEdits(reply.document, unsent);
  const fit = unsent.length === 0 || parseLevel(mine).ok;
  const level = fit ? mine : reply.document;
  const compared = version === undefined ? null : { id: version.id, name: version.name, level: version.document };
  store.dispatch(
    documentActions.opened({
      id,
      level,
      revision: reply.revision,
      compared,
      run,
      kept: { aside: readAside(id), unsent: fit ? unsent : [], ...keptSteps(id) },
    }),
  );
  if (fit) return;
  const places = unsent.flatMap(({ operations }) => operations.filter(({ op }) => op !== 'test').map(({ path }) => path));
  const which = [...new Set(places)].slice(0, 5).join(', ');
  store.dispatch(viewActions.troubled(`Edits made here while the server was away no longer fit the level and were left out: ${which}.`));
}
