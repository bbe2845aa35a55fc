import { inOrder, pointer, whyNoPips } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { meterName } from '../saying.ts';

export const pipsNotShown: Mistake = {
  code: 'pips-not-shown',
  title: 'a readout in pips that cannot be shown so',
  severity: 'worth a look',
  find: ({ level }) =>
    inOrder(level.readouts).flatMap(([id, readout]): Found[] => {
      const why = whyNoPips(level, readout);
      if (why === null) return [];
      const name =
        readout.type === 'meter' ? meterName(level, readout.meter) : readout.type === 'item' ? (level.items[readout.item]?.name ?? '') : '';
      const at = `${pointer(['readouts', id])}/as`;
      return [
        {
          subject: id,
          at,
          what: `The readout of ${name} shows no pips.`,
          why: `It ${why}.`,
          cause: [readout, why],
          mend: { words: 'show a number', changes: [{ path: at, value: 'number' }] },
        },
      ];
    }),
};
