import type { Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { keptIn, subjectOf } from '../view.ts';

export const alwaysBoosted: Mistake = {
  code: 'always-boosted',
  title: 'a change of movement that lasts longer than the thing rests',
  severity: 'worth a look',
  find: ({ level, rules }) =>
    rules.flatMap((rule) => {
      const { becomes, effects } = rule.rule;
      if (becomes.type !== 'rests') return [];
      return Object.entries(effects).flatMap(([id, effect]) => {
        if (
          effect.type !== 'movement' ||
          effect.lasts.type !== 'for' ||
          effect.lasts.seconds === 0 ||
          effect.lasts.seconds < becomes.seconds
        )
          return [];
        const { seconds } = effect.lasts;
        return [
          {
            subject: `${subjectOf(rule.form)}/${rule.ruleId}/${id}`,
            at: `${rule.at}/becomes/seconds`,
            where: { placements: rule.form.placements },
            what: `What ${rule.form.kind.name} gives lasts longer than it rests.`,
            why: `It lasts ${figure(seconds, 's')} and is to be had again after ${figure(becomes.seconds, 's')}: whoever stays near has it always.`,
            cause: [becomes.seconds, seconds],
            mend: {
              words: `let it rest for ${figure(2 * seconds, 's')}`,
              changes: keptIn(level, rule, '/becomes/seconds').map((path) => ({ path, value: 2 * seconds })),
            },
          },
        ];
      });
    }),
};
