import type { Found, Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { landingName, landings, pointAt, whoeverLands } from '../where.ts';
import { harmOf, harmUnder } from './harm.ts';

export const returnInHarm: Mistake = {
  code: 'return-in-harm',
  title: 'a place where players are put lies in harm',
  severity: 'probably not meant',
  find: (view) => {
    const under = harmUnder(view);
    return landings(view).flatMap((landing): Found[] => {
      const over = under(landing);
      if (over === undefined) return [];
      const harm = harmOf(view, over);
      const does = harm === 'kills' ? 'is killed' : `loses ${figure(harm)} health`;
      return [
        {
          subject: landing.at,
          at: landing.at,
          where: { points: pointAt(landing), placements: [over.id] },
          what: `${landingName(landing)} lies in ${over.form.kind.name}.`,
          why: `${whoeverLands(landing)} ${does} at once, as soon as grace is over.`,
          cause: [landing.x, landing.y, over.x, over.y, harm],
          ...(harm === 'kills' ? { severity: 'breaks it' as const } : {}),
        },
      ];
    });
  },
};
