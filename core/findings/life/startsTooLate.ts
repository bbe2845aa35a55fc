import { entry, pointer } from '../../level/index.ts';
import type { Mistake } from '../finding.ts';
import { figure } from '../saying.ts';

export const startsTooLate: Mistake = {
  code: 'starts-too-late',
  title: 'a thing that rests from the start until the session is over',
  severity: 'probably not meant',
  find: ({ level, things }) => {
    const limit = level.ends.timeLimit;
    if (limit === null) return [];
    return things.flatMap(({ id, form }) => {
      const starts = entry(level.placements, id)?.starts;
      if (starts?.type !== 'resting' || starts.seconds < limit) return [];
      return [
        {
          subject: id,
          at: pointer(['placements', id, 'starts', 'seconds']),
          where: { placements: [id] },
          what: `${form.kind.name} rests until the session is over.`,
          why: `It starts resting for ${figure(starts.seconds, 's')}; time is over at ${figure(limit, 's')}.`,
          cause: [starts, limit],
          mend: { words: 'let it start ready', changes: [{ path: pointer(['placements', id, 'starts']), value: { type: 'ready' } }] },
        },
      ];
    });
  },
};
