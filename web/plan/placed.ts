import { placementName, pairText } from '@dial/core/formats';
import { inOrder, kindOf, pointer, type Kind, type Level } from '@dial/core/level';
import type { Selection } from '../state/slices/view.ts';

/** One line of the list beside the Plan. */
export interface Placed {
  /** JSON Pointer; of a path or route, to its first way-point. */
  readonly path: string;
  readonly id: string;
  readonly sort: 'placement' | 'solid' | 'spot';
  readonly name: string;
  readonly where: string;
  readonly kind: Kind | null;
}

const at = ({ x, y }: { readonly x: number; readonly y: number }): string => pairText(x, y, 1);

/** Everything that is on the Plan: things, solids, the start, points, paths and routes. */
export function placedOn(level: Level): Placed[] {
  const things = inOrder(level.placements).map(([id, placement]): Placed => {
    const where = placement.travel === null ? at(placement) : `on ${level.paths[placement.travel.path]?.name ?? 'a path'}`;
    const kind = kindOf(level, placement.kind) ?? null;
    return { path: pointer(['placements', id]), id, sort: 'placement', name: placementName(level, id), where, kind };
  });
  const solids = inOrder(level.solids).map(([id, solid], index): Placed => {
    const name = `${solid.sides.length === 4 ? 'solid' : 'one-way platform'} ${String(index + 1)}`;
    return { path: pointer(['solids', id]), id, sort: 'solid', name, where: at(solid), kind: null };
  });
  const spot = (path: string, name: string, place: { readonly x: number; readonly y: number } | undefined): Placed[] =>
    place === undefined ? [] : [{ path, id: path, sort: 'spot', name, where: at(place), kind: null }];
  return [
    ...things,
    ...solids,
    ...spot('/start', 'start', level.start),
    ...inOrder(level.points).flatMap(([id, point]) => spot(pointer(['points', id]), point.name, point)),
    ...inOrder(level.paths).flatMap(([id, { name, wayPoints }]) => spot(pointer(['paths', id, 'wayPoints', 0]), name, wayPoints[0])),
    ...inOrder(level.routes).flatMap(([id, { name, wayPoints }]) => spot(pointer(['routes', id, 'wayPoints', 0]), name, wayPoints[0])),
  ];
}

export function isChosen({ sort, id, path }: Placed, { placements, solid, spot }: Selection): boolean {
  if (sort === 'placement') return placements.includes(id);
  return sort === 'solid' ? solid === id : spot === path || (path !== '/start' && spot?.startsWith(path.replace(/\d+$/, '')) === true);
}
