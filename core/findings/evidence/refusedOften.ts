import { REASONS } from '../../session/index.ts';
import { figure, quoted } from '../saying.ts';
import type { Shown } from './played.ts';

/** More refusals than this in a session, in the mean. */
const MANY = 5;

export const refusedOften: Shown = {
  code: 'refused-often',
  title: 'refused for the same reason again and again',
  severity: 'worth a look',
  find: ({ rows, things }) =>
    things.flatMap(({ placement, kind, touches }) => {
      const times = new Map<number, number>();
      for (const touch of touches) for (const [reason, count] of touch?.refused ?? []) times.set(reason, (times.get(reason) ?? 0) + count);
      return [...times].flatMap(([reason, count]) => {
        const mean = count / Math.max(1, rows.length);
        if (mean <= MANY) return [];
        const word = REASONS[reason] ?? 'refused';
        return [
          {
            subject: `${placement}/${word}`,
            at: `/placements/${placement}`,
            where: { placements: [placement] },
            what: `${kind.name} refuses players again and again: ${quoted(word)}.`,
            why: `${figure(Math.round(mean))} times a session in the mean: players try, and learn nothing of why not.`,
            cause: [placement, word],
          },
        ];
      });
    }),
};
