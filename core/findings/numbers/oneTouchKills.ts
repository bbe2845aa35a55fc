import type { Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { isRate, keptOf, subjectOf } from '../view.ts';

export const oneTouchKills: Mistake = {
  code: 'one-touch-kills',
  title: 'one touch kills from full health, and the role does not say so',
  severity: 'probably not meant',
  find: ({ level, rules }) => {
    const health = level.meters.health;
    if (health === undefined) return [];
    const full = (health.upper ?? health.start) - health.lower;
    return rules.flatMap((rule) => {
      if (isRate(rule.rule) || rule.form.kind.role === 'lethal') return [];
      return Object.entries(rule.rule.effects).flatMap(([id, effect]) => {
        if (effect.type !== 'meter' || effect.meter !== 'health' || effect.change !== 'take') return [];
        const { amount } = effect;
        const taken = typeof amount === 'number' ? amount : 'share' in amount ? amount.share * full : 0;
        if (taken < full) return [];
        return [
          {
            subject: `${subjectOf(rule.form)}/${rule.ruleId}/${id}`,
            at: `${rule.at}/effects/${id}/amount`,
            where: { placements: rule.form.placements },
            what: `One touch of ${rule.form.kind.name} kills from full health.`,
            why: `It takes ${figure(taken)} of ${figure(full)}, and its role is ${rule.form.kind.role}: neither colour nor pattern warns of it.`,
            cause: [amount, full, rule.form.kind.role],
            mend: {
              words: 'give it the role lethal',
              changes: keptOf(level, rule.form, '/role').map((path) => ({ path, value: 'lethal' })),
            },
          },
        ];
      });
    });
  },
};
