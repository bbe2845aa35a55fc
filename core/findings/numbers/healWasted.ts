import { entry } from '../../level/index.ts';
import type { Mistake } from '../finding.ts';
import { figure, meterName } from '../saying.ts';
import { keptIn, subjectOf } from '../view.ts';

export const healWasted: Mistake = {
  code: 'heal-wasted',
  title: 'a cure that is swallowed at full',
  severity: 'worth a look',
  find: ({ level, rules, meters }) =>
    rules.flatMap((rule) => {
      const { setOffBy, becomes, uses, effects, provided } = rule.rule;
      const once = setOffBy.type === 'arriving' || setOffBy.type === 'use';
      const goes = becomes.type === 'rests' || becomes.type === 'spent' || uses !== null;
      // With other effects it may be meant to be taken anyhow.
      const alone = Object.values(effects).every(({ type }) => type === 'meter' || type === 'flourish' || type === 'notice');
      const effect = Object.values(effects).find(
        (one) => one.type === 'meter' && (one.change === 'add' || one.change === 'fill') && meters.get(one.meter)?.lowered === true,
      );
      if (!once || !goes || !alone || effect?.type !== 'meter') return [];
      const meter = entry(level.meters, effect.meter);
      const asks = Object.values(provided).some((one) => 'meter' in one && one.meter === effect.meter);
      if (meter === undefined || meter.upper === null || meter.start < meter.upper || asks) return [];
      const name = meterName(level, effect.meter);
      return [
        {
          subject: `${subjectOf(rule.form)}/${rule.ruleId}`,
          at: `${rule.at}/provided`,
          where: { placements: rule.form.placements },
          what: `${rule.form.kind.name} is used up at full ${name}.`,
          why: `Players begin with ${figure(meter.start)} of ${figure(meter.upper)}; whoever touches it unhurt takes it for nothing.`,
          cause: [effect, becomes, provided],
          mend: {
            words: `let it act only below the limit of ${name}`,
            changes: keptIn(level, rule, '/provided/hurt').map((path) => ({
              path,
              value: { type: 'below limit', order: 0, meter: effect.meter },
            })),
          },
        },
      ];
    }),
};
