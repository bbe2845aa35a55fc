import { figure } from '../saying.ts';
import { share, type Shown } from './played.ts';

/** Used by so many of a hundred within so many seconds, and no more after. */
const [NEARLY_ALL, SOON] = [90, 3];

export const usedAtOnce: Shown = {
  code: 'used-at-once',
  title: 'used by all within the first seconds, and never again',
  severity: 'worth a look',
  find: ({ rows, things }) =>
    things.flatMap(({ placement, kind, touches }) => {
      const soon = touches.filter((one) => one !== null && one.uses === 1 && (one.firstUseSeconds ?? Infinity) <= SOON).length;
      const again = touches.some((one) => (one?.uses ?? 0) > 1);
      const lasts = Object.values(kind.rules).some(({ becomes }) => becomes.type === 'spent');
      if (again || lasts || share(soon, rows.length) < NEARLY_ALL) return [];
      return [
        {
          subject: placement,
          at: `/placements/${placement}`,
          where: { placements: [placement] },
          what: `${kind.name} is used by all within the first seconds, and never again.`,
          why: `${figure(share(soon, rows.length))} of 100 players use it within ${figure(SOON, 's')} and nobody comes back, though it may be used again: it decides nothing.`,
          cause: placement,
        },
      ];
    }),
};
