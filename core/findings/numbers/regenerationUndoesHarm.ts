import { entry } from '../../level/index.ts';
import type { Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { isRate, subjectOf } from '../view.ts';

export const regenerationUndoesHarm: Mistake = {
  code: 'regeneration-undoes-harm',
  title: 'regeneration that gives back what a hazard takes while it takes it',
  severity: 'probably not meant',
  find: ({ level, rules }) =>
    rules.flatMap((rule) => {
      if (!isRate(rule.rule)) return [];
      return Object.entries(rule.rule.effects).flatMap(([id, effect]) => {
        if (effect.type !== 'meter' || effect.change !== 'take' || typeof effect.amount !== 'number') return [];
        const meter = entry(level.meters, effect.meter);
        const back = meter?.regeneration;
        if (meter === undefined || back == null || back.pauseAfterLoss > 0 || back.perSecond < effect.amount) return [];
        return [
          {
            subject: `${subjectOf(rule.form)}/${rule.ruleId}/${id}`,
            at: `${rule.at}/effects/${id}/amount`,
            where: { placements: rule.form.placements },
            what: `${rule.form.kind.name} takes no more ${meter.name} than comes back by itself.`,
            why: `It takes ${figure(effect.amount)} a second, regeneration gives ${figure(back.perSecond)} without a pause: nobody is ever worse off.`,
            cause: [effect.amount, back],
            mend: {
              words: 'pause regeneration for a second after a loss',
              changes: [{ path: `/meters/${effect.meter}/regeneration/pauseAfterLoss`, value: 1 }],
            },
          },
        ];
      });
    }),
};
