import { spawnedId } from '../../level/index.ts';
import type { Compiled } from '../compile/compile.ts';

/*
 * Lines call a thing by one number. For what is placed it is its place among the placements. The room of a spawned thing
 * is used again, so its number holds the room, the kind and a serial of the kind.
 */

interface ThingNames {
  readonly ids: Pick<Compiled['ids'], 'placements' | 'kinds'>;
}

/** The number of a spawned thing in a room. */
export function spawnedNumber({ ids }: ThingNames, room: number, kind: number, serial: number): number {
  return room + ids.placements.length * (kind + ids.kinds.length * serial);
}

/** The id of a thing by its number; null for none. */
export function thingId({ ids }: ThingNames, named: number): string | null {
  const { placements, kinds } = ids;
  if (named < placements.length) return placements[named] ?? null;
  const rest = Math.floor(named / placements.length);
  return spawnedId({ kind: kinds[rest % kinds.length] ?? '', serial: Math.floor(rest / kinds.length) });
}
