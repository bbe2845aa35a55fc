import { differencesOf, same } from './differences.ts';
import { byId } from '../document/order.ts';
import { entry, segmentsOf } from '../document/pointers.ts';
import type { Level } from '../document/schema.ts';

/** Placements that came, went or stand elsewhere, and other solids, for drawing over the Plan. */
export interface PlanDifferences {
  readonly came: readonly { readonly x: number; readonly y: number }[];
  readonly gone: readonly { readonly x: number; readonly y: number }[];
  readonly moved: readonly {
    readonly from: { readonly x: number; readonly y: number };
    readonly to: { readonly x: number; readonly y: number };
  }[];
  /** Things that stay where they were and are otherwise: by own values, or as all of their kind. */
  readonly otherwise: readonly { readonly x: number; readonly y: number }[];
  /** Solids as they were, where they are no longer. */
  readonly solidsGone: Level['solids'][string][];
  readonly solidsCame: Level['solids'][string][];
}

/** What differs between two states of a level in places one can point at. */
export function planDifferences(was: Level, now: Level): PlanDifferences {
  const changedKinds = new Set(
    differencesOf({ kinds: was.kinds, variants: was.variants }, { kinds: now.kinds, variants: now.variants }).map(
      ({ path }) => segmentsOf(path)[1] ?? '',
    ),
  );
  const both = byId(now.placements).flatMap(([id, to]) => {
    const from = entry(was.placements, id);
    return from === undefined ? [] : [{ from, to }];
  });
  const otherSolids = (of: Level, than: Level): Level['solids'][string][] =>
    byId(of.solids).flatMap(([id, solid]) => (same(solid, entry(than.solids, id)) ? [] : [solid]));
  return {
    came: byId(now.placements).flatMap(([id, one]) => (entry(was.placements, id) === undefined ? [one] : [])),
    gone: byId(was.placements).flatMap(([id, one]) => (entry(now.placements, id) === undefined ? [one] : [])),
    moved: both.filter(({ from, to }) => from.x !== to.x || from.y !== to.y),
    otherwise: both
      .filter(({ from, to }) => from.x === to.x && from.y === to.y)
      .filter(({ from, to }) => changedKinds.has(to.kind) || !same({ ...from, order: 0 }, { ...to, order: 0 }))
      .map(({ to }) => to),
    solidsGone: otherSolids(was, now),
    solidsCame: otherSolids(now, was),
  };
}
