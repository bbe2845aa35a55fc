import { allKinds, inOrder, type Level } from '../level/index.ts';

/** A thing by the number that rows call it by: placements in their order, then the spawned things of each kind. */
export interface NumberedThing {
  readonly thing: number;
  /** Of a placement its id, of spawned things null. */
  readonly placement: string | null;
  readonly kind: string;
}

/** Every thing of a level that rows may speak of, at the index of its number. */
export function numberedThings(level: Level): NumberedThing[] {
  const placed = inOrder(level.placements).map(([id, { kind }]) => ({ placement: id, kind }));
  const spawned = allKinds(level).map(([kind]) => ({ placement: null, kind }));
  return [...placed, ...spawned].map((one, thing) => ({ thing, ...one }));
}
