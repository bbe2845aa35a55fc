import { counted } from '../saying.ts';
import type { Shown } from './played.ts';

export const neverTouched: Shown = {
  code: 'never-touched',
  title: 'things that nobody ever touched',
  severity: 'worth a look',
  find: ({ rows, things }) => {
    const ofKind = new Map<string, typeof things>();
    for (const one of things) ofKind.set(one.kindId, [...(ofKind.get(one.kindId) ?? []), one]);
    return [...ofKind].flatMap(([kindId, all]) => {
      const kind = all[0]?.kind;
      const left = all.filter(({ touches }) => touches.every((one) => one === null));
      if (kind === undefined || left.length === 0 || Object.keys(kind.rules).length === 0) return [];
      const placements = left.map(({ placement }) => placement);
      return [
        {
          subject: kindId,
          at: `/kinds/${kindId}`,
          where: { placements },
          what:
            left.length === all.length
              ? `Nobody ever touched ${kind.name}.`
              : `${kind.name}: nobody touched ${String(left.length)} of ${String(all.length)}.`,
          why: `In ${counted(rows.length, 'session')} no player came to it: it may lie out of every way, or be worth nobody's while.`,
          cause: placements,
        },
      ];
    });
  },
};
