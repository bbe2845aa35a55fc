import type { Found, Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { bearerOf } from '../view.ts';

export const belowNought: Mistake = {
  code: 'below-nought',
  title: 'a change of movement below nought',
  severity: 'probably not meant',
  find: (view) =>
    view.effects.flatMap((one): Found[] => {
      const { effect, at, rule } = one;
      if (effect.type !== 'movement' || effect.change === 'add' || effect.value >= 0) return [];
      return [
        {
          subject: at,
          at: `${at}/value`,
          where: { placements: rule?.form.placements ?? [] },
          what: `${bearerOf(view, one)} ${effect.change === 'set' ? 'sets' : 'multiplies'} ${effect.of} ${effect.change === 'set' ? 'to' : 'by'} ${figure(effect.value)}.`,
          why: 'A movement value is never below nought: this comes out as 0, not as the other way round.',
          cause: [effect.value, effect.change],
          mend: { words: 'make it 0', changes: one.kept('/value').map((path) => ({ path, value: 0 })) },
        },
      ];
    }),
};
