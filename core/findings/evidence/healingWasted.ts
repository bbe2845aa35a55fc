import { figure } from '../saying.ts';
import { share, type Shown } from './played.ts';

/** So much of a hundred of what a thing gives is lost beyond the limit, in so many of a hundred sessions. */
const [MUCH, MANY] = [40, 20];

export const healingWasted: Shown = {
  code: 'healing-wasted',
  title: 'much of what a thing heals is lost beyond the limit',
  severity: 'worth a look',
  find: ({ rows, things }) =>
    things.flatMap(({ placement, kind, touches }) => {
      const healed = touches.reduce((sum, one) => sum + (one?.healed ?? 0), 0);
      const wasted = touches.reduce((sum, one) => sum + (one?.wasted ?? 0), 0);
      const often = share(touches.filter((one) => (one?.wasted ?? 0) > 0).length, rows.length);
      const much = share(wasted, healed + wasted);
      if (often < MANY || much < MUCH) return [];
      return [
        {
          subject: placement,
          at: `/placements/${placement}`,
          where: { placements: [placement] },
          what: `${figure(much)} of 100 of what ${kind.name} gives is wasted.`,
          why: `In ${figure(often)} of 100 sessions it is used by somebody who lacks less than it gives: ${figure(Math.round(wasted / Math.max(1, rows.length)))} health a session in the mean go for nothing.`,
          cause: placement,
        },
      ];
    }),
};
