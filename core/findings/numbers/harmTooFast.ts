import type { Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { isRate, keptIn, subjectOf } from '../view.ts';

export const harmTooFast: Mistake = {
  code: 'harm-too-fast',
  title: 'a rate that kills faster than a persona can react',
  severity: 'probably not meant',
  find: ({ level, rules }) => {
    const health = level.meters.health;
    const slowest = Object.values(level.personas).reduce((most, one) => (one.reaction > most.reaction ? one : most), {
      name: '',
      reaction: 0,
    });
    if (health === undefined) return [];
    const full = (health.upper ?? health.start) - health.lower;
    return rules.flatMap((rule) => {
      if (!isRate(rule.rule) || rule.form.kind.role === 'lethal') return [];
      return Object.entries(rule.rule.effects).flatMap(([id, effect]) => {
        if (effect.type !== 'meter' || effect.meter !== 'health' || effect.change !== 'take' || typeof effect.amount !== 'number')
          return [];
        const seconds = full / effect.amount;
        if (seconds >= slowest.reaction) return [];
        const gentle = Math.floor(full / (4 * slowest.reaction));
        return [
          {
            subject: `${subjectOf(rule.form)}/${rule.ruleId}/${id}`,
            at: `${rule.at}/effects/${id}/amount`,
            where: { placements: rule.form.placements },
            what: `${rule.form.kind.name} kills before anybody can react.`,
            why: `${figure(effect.amount)} a second take all ${figure(full)} health in ${figure(Number(seconds.toFixed(2)), 's')}; ${slowest.name} reacts after ${figure(slowest.reaction, 's')}.`,
            cause: [effect.amount, full, slowest.reaction],
            mend:
              gentle < 1
                ? null
                : {
                    words: `take ${figure(gentle)} a second`,
                    changes: keptIn(level, rule, `/effects/${id}/amount`).map((path) => ({ path, value: gentle })),
                  },
          },
        ];
      });
    });
  },
};
