import { pointer } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { reachFromStart } from '../reach/reach.ts';
import { isTouched, takesPlayer, type LevelView, type Thing } from '../view.ts';

/** Whether a player is to touch a thing, or use it, where it is placed. */
const isMeantForPlayers = (view: LevelView, { moves, box, form: { kind } }: Thing): boolean =>
  !moves &&
  Object.values(kind.rules).some((rule) => takesPlayer(view, rule) && (rule.setOffBy.type === 'use' || (box !== null && isTouched(rule))));

export const outOfReach: Mistake = {
  code: 'out-of-reach',
  title: 'a thing that no way leads to',
  severity: 'breaks it',
  find: (view) => {
    const reach = reachFromStart(view);
    if (reach === null) return [];
    const fromTheSide = view.level.view === 'side';
    return view.things.flatMap((thing): Found[] => {
      if (!isMeantForPlayers(view, thing) || reach.setsOff(thing)) return [];
      return [
        {
          subject: thing.id,
          at: pointer(['placements', thing.id]),
          where: { placements: [thing.id] },
          what: `No way leads to ${thing.form.kind.name}.`,
          why: `${fromTheSide ? 'Solids, or how high and how far one jumps, shut' : 'Solids shut'} it off from wherever players start, come back or are put: nobody will ever set it off.`,
          cause: [thing.x, thing.y, thing.box],
        },
      ];
    });
  },
};
