import type { Found, Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { meets } from '../where.ts';
import type { LevelView } from '../view.ts';

/** Things that set a movement while one is inside. */
const settersIn = ({ things }: LevelView) =>
  things.flatMap((thing) =>
    thing.box === null || thing.moves
      ? []
      : Object.values(thing.form.kind.rules).flatMap(({ effects }) =>
          Object.values(effects).flatMap((effect) =>
            effect.type === 'movement' && effect.change === 'set' && effect.lasts.type === 'while'
              ? [{ thing, box: thing.box as NonNullable<typeof thing.box>, of: effect.of, value: effect.value }]
              : [],
          ),
        ),
  );

export const setTwice: Mistake = {
  code: 'set-twice',
  title: 'things over each other set the same movement to different values',
  severity: 'probably not meant',
  find: (view) => {
    const all = settersIn(view).sort((a, b) => a.box.left - b.box.left);
    return all.flatMap((one, at): Found[] => {
      const found: Found[] = [];
      for (let next = at + 1; next < all.length && (all[next]?.box.left ?? 0) <= one.box.right; next += 1) {
        const other = all[next] as (typeof all)[number];
        if (other.of !== one.of || other.value === one.value || !meets(one.box, other.box)) continue;
        found.push({
          subject: `${one.thing.id}/${other.thing.id}/${one.of}`,
          at: `/placements/${other.thing.id}`,
          where: { placements: [one.thing.id, other.thing.id] },
          what: `${one.thing.form.kind.name} and ${other.thing.form.kind.name} overlap and set ${one.of} to different values.`,
          why: `One sets ${figure(one.value)}, the other ${figure(other.value)}: where they overlap it is that of whichever was entered last.`,
          cause: [one.box, other.box, one.value, other.value],
        });
      }
      return found;
    });
  },
};
