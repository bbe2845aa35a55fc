import { entry } from '../../level/index.ts';
import type { Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { subjectOf } from '../view.ts';

export const cureNotNeeded: Mistake = {
  code: 'cure-not-needed',
  title: 'a cure for a meter that nothing lowers',
  severity: 'probably not meant',
  find: ({ level, rules, meters }) =>
    rules.flatMap((rule) =>
      Object.entries(rule.rule.effects).flatMap(([id, effect]) => {
        if (effect.type !== 'meter' || (effect.change !== 'add' && effect.change !== 'fill')) return [];
        const meter = entry(level.meters, effect.meter);
        const full = meter?.upper != null && meter.start >= meter.upper;
        if (meter === undefined || !full || meters.get(effect.meter)?.lowered !== false) return [];
        return [
          {
            subject: `${subjectOf(rule.form)}/${rule.ruleId}/${id}`,
            at: `${rule.at}/effects/${id}`,
            where: { placements: rule.form.placements },
            what: `${rule.form.kind.name} gives ${meter.name}, which nothing ever takes.`,
            why: `${meter.name} begins at its limit of ${figure(meter.start)} and no rule lowers it: every use comes to nothing, “full”.`,
            cause: [effect, meter.start, meter.upper],
          },
        ];
      }),
    ),
};
