import { inOrder, pointer } from '../../level/index.ts';
import type { Mistake } from '../finding.ts';
import { figure } from '../saying.ts';

export const meterWithoutLimit: Mistake = {
  code: 'meter-without-limit',
  title: 'a meter without a limit that rises each second',
  severity: 'probably not meant',
  find: ({ level, effects }) =>
    inOrder(level.meters).flatMap(([id, meter]) => {
      if (meter.upper !== null) return [];
      const rates = effects.filter(({ effect, rate }) => rate && effect.type === 'meter' && effect.meter === id && effect.change === 'add');
      const regeneration = meter.regeneration?.perSecond ?? 0;
      if (rates.length === 0 && regeneration <= 0) return [];
      const by = rates.map(({ rule, item }) => rule?.form.kind.name ?? item?.id ?? '');
      const causes = [...new Set([...by, ...(regeneration > 0 ? ['regeneration'] : [])])].join(', ');
      const most = Math.max(100, 2 * meter.start);
      return [
        {
          subject: id,
          at: pointer(['meters', id, 'upper']),
          where: { placements: rates.flatMap(({ rule }) => rule?.form.placements ?? []) },
          what: `${meter.name} rises each second and has no upper limit.`,
          why: `${causes} raise it for as long as one stays: whoever waits has as much as they like.`,
          cause: [meter.upper, by, regeneration],
          mend: { words: `limit it at ${figure(most)}`, changes: [{ path: pointer(['meters', id, 'upper']), value: most }] },
        },
      ];
    }),
};
