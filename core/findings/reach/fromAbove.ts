import type { Box, Place } from '../../geometry/index.ts';
import type { Level } from '../../level/index.ts';
import { createMesh, type Mesh } from '../../players/navigation/index.ts';
import { hullOf, meets, wallsFor } from '../where.ts';

const HAIR = 1e-6;

/** Where the middle of a body may be, cut by solids; null: the level is smaller than the body. */
export function meshOf(level: Level): Mesh | null {
  const { x, y } = hullOf(level);
  const area = { left: x, right: level.size.width - x, bottom: y, top: level.size.height - y };
  if (area.left >= area.right || area.bottom >= area.top) return null;
  return createMesh(
    area,
    wallsFor(level).map(({ box }) => box),
    [],
  );
}

/** What hangs together with some places, as boxes; null where one of them is nowhere in it. */
export function roomAround({ cells, island }: Mesh, places: readonly Place[]): ((box: Box) => boolean) | null {
  const islands = new Set<number>();
  for (const { x, y } of places) {
    const own = cells.flatMap(({ left, right, bottom, top }, at) =>
      x < left - HAIR || x > right + HAIR || y < bottom - HAIR || y > top + HAIR ? [] : [island[at] as number],
    );
    if (own.length === 0) return null;
    own.forEach((one) => islands.add(one));
  }
  const room = cells.filter((_, at) => islands.has(island[at] as number));
  return (box) => room.some((cell) => meets(cell, box));
}
