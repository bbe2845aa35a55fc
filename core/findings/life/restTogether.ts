import type { Mistake } from '../finding.ts';
import { counted } from '../saying.ts';
import { keptIn, subjectOf } from '../view.ts';

export const restTogether: Mistake = {
  code: 'rest-together',
  title: 'all copies rest, or are used up, together',
  severity: 'worth a look',
  find: ({ level, rules }) =>
    rules.flatMap((rule) => {
      const { scope, becomes, uses } = rule.rule;
      const count = rule.form.placements.length;
      if (scope !== 'kind' || count < 2 || (becomes.type === 'stays' && uses === null)) return [];
      const how = becomes.type === 'rests' ? 'rest' : 'are used up';
      return [
        {
          subject: `${subjectOf(rule.form)}/${rule.ruleId}`,
          at: `${rule.at}/scope`,
          where: { placements: rule.form.placements },
          what: `All ${counted(count, 'thing')} of ${rule.form.kind.name} ${how} together.`,
          why: `Using one leaves the other ${String(count - 1)} without effect as well.`,
          cause: [scope, becomes, uses, count],
          mend: { words: 'let each be for itself', changes: keptIn(level, rule, '/scope').map((path) => ({ path, value: 'placement' })) },
        },
      ];
    }),
};
