import { canonicalText, type Destination } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { meets } from '../where.ts';
import type { Thing } from '../view.ts';

/** Where a thing that kills sends one back to; null: it does not kill. */
function returnOf({ form: { kind } }: Thing): { readonly to: Destination | null } | null {
  for (const rule of Object.values(kind.rules))
    for (const effect of Object.values(rule.effects)) if (effect.type === 'kill') return { to: effect.returnTo };
  return null;
}

export const killZonesDisagree: Mistake = {
  code: 'kill-zones-disagree',
  title: 'kill zones that overlap lead back to different places',
  severity: 'probably not meant',
  find: ({ level, things }) => {
    if (level.death.returns === 'never') return [];
    const zones = things.flatMap((thing) => {
      const back = thing.moves ? null : returnOf(thing);
      return back === null || thing.box === null ? [] : [{ thing, box: thing.box, to: back.to ?? level.death.returnTo }];
    });
    zones.sort((a, b) => a.box.left - b.box.left);
    return zones.flatMap((one, at): Found[] => {
      const found: Found[] = [];
      for (let next = at + 1; next < zones.length; next += 1) {
        const other = zones[next] as (typeof zones)[number];
        if (other.box.left > one.box.right) break;
        if (!meets(one.box, other.box) || canonicalText(one.to) === canonicalText(other.to)) continue;
        const [a, b] = [one.thing, other.thing];
        found.push({
          subject: `${a.id}/${b.id}`,
          at: `/placements/${b.id}`,
          where: { placements: [a.id, b.id] },
          what: `${a.form.kind.name} and ${b.form.kind.name} overlap and lead back to different places.`,
          why: 'Where one comes back depends on which of them is touched first, by a hair.',
          cause: [one.box, other.box, one.to, other.to],
        });
      }
      return found;
    });
  },
};
