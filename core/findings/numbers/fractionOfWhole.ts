import { entry } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { bearerOf } from '../view.ts';

export const fractionOfWhole: Mistake = {
  code: 'fraction-of-whole',
  title: 'an amount with a fraction, of a meter that is whole',
  severity: 'worth a look',
  find: (view) =>
    view.effects.flatMap((one): Found[] => {
      const { effect, rate, at, rule } = one;
      if (effect.type !== 'meter' || rate || typeof effect.amount !== 'number' || Number.isInteger(effect.amount)) return [];
      const meter = entry(view.level.meters, effect.meter);
      // One that is less than a step is told of as that.
      if (meter?.whole !== true || effect.change === 'fill' || (effect.change !== 'set' && effect.amount < 1)) return [];
      const whole = effect.change === 'set' ? Math.round(effect.amount) : Math.trunc(effect.amount);
      return [
        {
          subject: at,
          at: `${at}/amount`,
          where: { placements: rule?.form.placements ?? [] },
          what: `${bearerOf(view, one)} changes ${meter.name} by ${figure(effect.amount)}, and ${meter.name} is whole.`,
          why:
            effect.change === 'set'
              ? `It is set to ${figure(whole)}.`
              : `It is ${figure(whole)} at first; what is over is kept for the next time, so that the same touch counts differently.`,
          cause: [effect.amount, effect.change],
          mend: {
            words: `make it ${figure(Math.max(1, whole))}`,
            changes: one.kept('/amount').map((path) => ({ path, value: Math.max(1, whole) })),
          },
        },
      ];
    }),
};
