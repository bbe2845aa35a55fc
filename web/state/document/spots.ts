import { entry, freeId, freeName, lastOrder, type Level, pointer, segmentsOf } from '@dial/core/level';
import { routeFromRun } from '@dial/core/players';
import { simulatedActions, toBeWalked } from '../slices/simulated.ts';
import { viewActions } from '../slices/view.ts';
import { tryEdit } from './edits.ts';
import type { AppStore } from '../store.ts';

/** A place on the Plan. Units. */
export interface PlanSpot {
  x: number;
  y: number;
}

/** The maps of ways: paths that things follow, routes that simulated players follow. */
export type Ways = 'paths' | 'routes';

/** What a spot is part of: the start, a point, or way-point so-and-so of a path or a route. */
export interface SpotPlace {
  readonly map: 'start' | 'points' | Ways;
  readonly id: string;
  readonly index: number;
}

export function placeOfSpot(spot: string): SpotPlace {
  const [map, id = '', , index = '0'] = segmentsOf(spot);
  return { map: map as SpotPlace['map'], id, index: Number(index) };
}

export function spotName(level: Level | undefined, spot: string): string {
  const { map, id, index } = placeOfSpot(spot);
  if (map === 'start' || level === undefined) return 'the start';
  const name = entry<{ readonly name: string }>(level[map], id)?.name ?? id;
  return map === 'points' ? name : `way-point ${String(index + 1)} of ${name}`;
}

export const wayPointPath = (map: Ways, id: string, index: number): string => pointer([map, id, 'wayPoints', index]);

export function addPoint(store: AppStore, { x, y }: PlanSpot): void {
  let id = '';
  const made = tryEdit(store, 'place a point', (draft) => {
    const name = freeName(draft.points, 'point');
    id = freeId(draft.points, name);
    draft.points[id] = { name, order: lastOrder(draft.points), x, y };
  });
  if (made) store.dispatch(viewActions.selected({ spot: pointer(['points', id]) }));
}

/** Draws a path, which the chosen things then follow; or a route, which is walked at once. */
export function addWay(store: AppStore, map: Ways, spots: readonly PlanSpot[]): void {
  const { selection } = store.getState().view;
  const wayPoints = spots.map(({ x, y }) => ({ x, y, pause: 0 }));
  let id = '';
  const made = tryEdit(store, map === 'paths' ? 'draw a path' : 'draw a route', (draft) => {
    const name = freeName(draft[map], map === 'paths' ? 'path' : 'route');
    id = freeId(draft[map], name);
    const order = lastOrder(draft[map]);
    if (map === 'routes') draft.routes[id] = { name, order, wayPoints: wayPoints.map((point) => ({ ...point, until: null })) };
    else {
      draft.paths[id] = { name, order, speed: 2, round: 'back and forth', wayPoints };
      for (const one of selection.placements) {
        const placement = entry(draft.placements, one);
        if (placement !== undefined) placement.travel = { path: id, startOffset: 0 };
      }
    }
  });
  if (!made) return;
  if (map === 'routes') walk(store, id);
  if (selection.placements.length === 0) store.dispatch(viewActions.selected({ spot: wayPointPath(map, id, 0) }));
}

/** Lets the plain walker follow a route on the level as it is; what comes of it is the run that is shown. */
export function walk(store: AppStore, id: string): void {
  const { open } = store.getState().document;
  if (open === null || entry(open.level.routes, id) === undefined) return;
  store.dispatch(simulatedActions.runChosen(toBeWalked(open.level, { route: id })));
}

/** Makes a route that goes where the run on the Strip went, and walks it. */
export function makeRoute(store: AppStore): void {
  const { shown, run } = store.getState().simulated;
  const { now } = shown;
  if (now === null) return;
  let id = '';
  const made = tryEdit(store, 'a route from the run', (draft) => {
    const name = freeName(draft.routes, `way of ${run?.run.name ?? 'the run'}`.slice(0, 70));
    id = freeId(draft.routes, name);
    draft.routes[id] = { name, order: lastOrder(draft.routes), wayPoints: routeFromRun(now, now.rate) };
  });
  if (!made) return;
  walk(store, id);
  store.dispatch(viewActions.selected({ spot: wayPointPath('routes', id, 0) }));
}

/** Adds a way-point after another: half-way to the next, or a little further on. */
export function addWayPoint(store: AppStore, map: Ways, id: string, index: number): void {
  const added = tryEdit(store, 'add a way-point', (draft) => {
    const way = entry<{ wayPoints: readonly (PlanSpot & { readonly pause: number })[] }>(draft[map], id);
    const here = way?.wayPoints[index];
    if (way === undefined || here === undefined) return;
    const next = way.wayPoints[index + 1] ?? { x: here.x + 2, y: here.y };
    const between = { x: (here.x + next.x) / 2, y: (here.y + next.y) / 2, pause: 0, ...(map === 'routes' ? { until: null } : {}) };
    way.wayPoints = [...way.wayPoints.slice(0, index + 1), between, ...way.wayPoints.slice(index + 1)];
  });
  if (added) store.dispatch(viewActions.selected({ spot: wayPointPath(map, id, index + 1) }));
}

/** Deletes a path or a route; things that followed it stay where it began. */
export function removeWay(store: AppStore, map: Ways, id: string): void {
  const removed = tryEdit(store, map === 'paths' ? 'delete a path' : 'delete a route', (draft) => {
    const begin = entry<{ readonly wayPoints: readonly PlanSpot[] }>(draft[map], id)?.wayPoints[0];
    Reflect.deleteProperty(draft[map], id);
    if (map === 'routes' || begin === undefined) return;
    for (const placement of Object.values(draft.placements)) {
      if (placement.travel?.path === id) Object.assign(placement, { travel: null, x: begin.x, y: begin.y });
    }
  });
  if (removed) store.dispatch(viewActions.selected({}));
}

/** Deletes a point, or a way-point; with the last but one way-point the path goes too. The start stays. */
export function removeSpot(store: AppStore, spot: string): void {
  const { map, id, index } = placeOfSpot(spot);
  const level = store.getState().document.open?.level;
  if (map === 'start') {
    store.dispatch(viewActions.troubled('The start cannot be deleted, only moved: every level has one.'));
    return;
  }
  const least = map === 'paths' ? 2 : 1;
  if (map !== 'points' && (level?.[map][id]?.wayPoints.length ?? 0) <= least) {
    removeWay(store, map, id);
    return;
  }
  const removed = tryEdit(store, `delete ${spotName(level, spot)}`, (draft) => {
    if (map === 'points') {
      Reflect.deleteProperty(draft.points, id);
      return;
    }
    const way = entry<{ wayPoints: readonly (PlanSpot & { readonly pause: number })[] }>(draft[map], id);
    if (way !== undefined) way.wayPoints = way.wayPoints.filter((_, at) => at !== index);
  });
  if (removed) store.dispatch(viewActions.selected({}));
}
