import { figure } from '../saying.ts';
import { share, type Shown } from './played.ts';

/** Waited at by so many of a hundred players, for so many seconds in the mean of those. */
const [MANY, LONG] = [25, 2];

export const waitedFor: Shown = {
  code: 'waited-for',
  title: 'a thing that is back only after it was needed',
  severity: 'worth a look',
  find: ({ rows, things }) =>
    things.flatMap(({ placement, kind, touches }) => {
      const waits = touches.flatMap((one) => (one !== null && one.waitingSeconds > 0 ? [one.waitingSeconds] : []));
      const mean = waits.reduce((sum, one) => sum + one, 0) / Math.max(1, waits.length);
      if (share(waits.length, rows.length) < MANY || mean < LONG) return [];
      return [
        {
          subject: placement,
          at: `/placements/${placement}`,
          where: { placements: [placement] },
          what: `Players wait for ${kind.name} to come back.`,
          why: `${figure(share(waits.length, rows.length))} of 100 stand at it while it rests, for ${figure(Number(mean.toFixed(1)), 's')} in the mean: it is back only after it was needed.`,
          cause: placement,
        },
      ];
    }),
};
