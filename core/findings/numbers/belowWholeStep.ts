import { entry } from '../../level/index.ts';
import type { Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { isRate, keptIn, subjectOf } from '../view.ts';

export const belowWholeStep: Mistake = {
  code: 'below-whole-step',
  title: 'an amount below the whole step of its meter',
  severity: 'worth a look',
  find: ({ level, rules }) =>
    rules.flatMap((rule) =>
      Object.entries(rule.rule.effects).flatMap(([id, effect]) => {
        if (effect.type !== 'meter' || typeof effect.amount !== 'number' || effect.change === 'set' || effect.change === 'fill') return [];
        const meter = entry(level.meters, effect.meter);
        if (meter?.whole !== true || isRate(rule.rule) || effect.amount >= 1) return [];
        return [
          {
            subject: `${subjectOf(rule.form)}/${rule.ruleId}/${id}`,
            at: `${rule.at}/effects/${id}/amount`,
            where: { placements: rule.form.placements },
            what: `${rule.form.kind.name} changes ${meter.name} by ${figure(effect.amount)}, and ${meter.name} is whole.`,
            why: `The first touch changes nothing that can be seen; only ${figure(Math.ceil(1 / effect.amount))} of them make one.`,
            cause: [effect.amount, meter.whole],
            mend: { words: 'make it 1', changes: keptIn(level, rule, `/effects/${id}/amount`).map((path) => ({ path, value: 1 })) },
          },
        ];
      }),
    ),
};
