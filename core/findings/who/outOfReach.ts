import { createMesh } from '../../players/navigation/index.ts';
import { pointer } from '../../level/index.ts';
import type { Mistake } from '../finding.ts';
import { grownBy, hullOf, landings, meets, wallsFor } from '../where.ts';
import { isTouched, takesPlayer, type LevelView, type Thing } from '../view.ts';

/** How far off a thing may be for a player to set it off; null: by no player at all. */
function reachOf(view: LevelView, { form: { kind } }: Thing): number | null {
  const own = Object.values(kind.rules).filter((rule) => takesPlayer(view, rule));
  const reaches = own.flatMap((rule) =>
    rule.setOffBy.type === 'use' ? [rule.setOffBy.reach] : isTouched(rule) ? [hullOf(view.level).x] : [],
  );
  return reaches.length === 0 ? null : Math.max(...reaches, kind.magnet?.reach ?? 0);
}

export const outOfReach: Mistake = {
  code: 'out-of-reach',
  title: 'a thing that no way leads to, seen from above',
  severity: 'breaks it',
  find: (view) => {
    const { level, things, effects } = view;
    // Whoever may be put anywhere may come anywhere; and things that carry go their own ways.
    const anywhere =
      effects.some(({ effect }) => (effect.type === 'move' && effect.to.type === 'clear') || effect.type === 'launch') ||
      level.death.returnTo.type === 'clear' ||
      things.some(({ form }) => form.kind.carries);
    if (level.view !== 'top' || anywhere) return [];
    const { x: half } = hullOf(level);
    const area = { left: half, right: level.size.width - half, bottom: half, top: level.size.height - half };
    if (area.left >= area.right || area.bottom >= area.top) return [];
    const mesh = createMesh(
      area,
      wallsFor(level).map(({ box }) => box),
      [],
    );
    const islands = new Set<number>();
    for (const { x, y } of landings(view))
      mesh.cells.forEach((cell, at) => {
        if (x >= cell.left - 1e-6 && x <= cell.right + 1e-6 && y >= cell.bottom - 1e-6 && y <= cell.top + 1e-6)
          islands.add(mesh.island[at] as number);
      });
    if (islands.size === 0) return [];
    const reached = mesh.cells.filter((_, at) => islands.has(mesh.island[at] as number));
    return things.flatMap((thing) => {
      const reach = reachOf(view, thing);
      if (reach === null || thing.box === null || thing.moves) return [];
      const around = grownBy(thing.box, reach + 1e-3);
      if (reached.some((cell) => meets(cell, around))) return [];
      return [
        {
          subject: thing.id,
          at: pointer(['placements', thing.id]),
          where: { placements: [thing.id] },
          what: `No way leads to ${thing.form.kind.name}.`,
          why: 'Solids shut it off from wherever players start, come back or are put: nobody will ever touch it.',
          cause: [thing.box, reach],
        },
      ];
    });
  },
};
