import { canonicalText, entry, pointer } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { figure } from '../saying.ts';

export const stackedThings: Mistake = {
  code: 'stacked-things',
  title: 'two things of a kind on top of each other',
  severity: 'probably not meant',
  find: ({ level, things }) => {
    const seen = new Map<string, string>();
    return things.flatMap(({ id, form, x, y }): Found[] => {
      if (form.kind.drift !== null) return [];
      const key = canonicalText([form.kindId, Math.round(x * 1000), Math.round(y * 1000), entry(level.placements, id)?.travel ?? null]);
      const first = seen.get(key);
      if (first === undefined) {
        seen.set(key, id);
        return [];
      }
      return [
        {
          subject: id,
          at: pointer(['placements', id]),
          where: { placements: [first, id] },
          what: `Two things of ${form.kind.name} lie on top of each other.`,
          why: `Both are at ${figure(x)}, ${figure(y)}: they look like one, and each touch counts twice.`,
          cause: [first, x, y],
          mend: { words: 'delete one of them', changes: [{ path: pointer(['placements', id]) }] },
        },
      ];
    });
  },
};
