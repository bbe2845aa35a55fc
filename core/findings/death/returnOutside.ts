import type { Found, Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { bodyAt, landingName, landings, pointAt } from '../where.ts';

export const returnOutside: Mistake = {
  code: 'return-outside',
  title: 'a place where players are put lies outside the level',
  severity: 'breaks it',
  find: (view) => {
    const { size } = view.level;
    return landings(view).flatMap((landing): Found[] => {
      const body = bodyAt(view.level, landing.x, landing.y);
      if (body.left >= -1e-9 && body.bottom >= -1e-9 && body.right <= size.width + 1e-9 && body.top <= size.height + 1e-9) return [];
      const [halfX, halfY] = [(body.right - body.left) / 2, (body.top - body.bottom) / 2];
      const to = {
        x: Math.max(halfX, Math.min(size.width - halfX, landing.x)),
        y: Math.max(halfY, Math.min(size.height - halfY, landing.y)),
      };
      return [
        {
          subject: landing.at,
          at: landing.at,
          where: { points: pointAt(landing) },
          what: `${landingName(landing)} lies outside the level.`,
          why: `It is at ${figure(landing.x)}, ${figure(landing.y)}, with the player's body beyond the edge of ${figure(size.width)} × ${figure(size.height, 'u')}.`,
          cause: [landing.x, landing.y, size],
          mend: {
            words: 'move it inside',
            changes: [
              { path: `${landing.at}/x`, value: to.x },
              { path: `${landing.at}/y`, value: to.y },
            ],
          },
        },
      ];
    });
  },
};
