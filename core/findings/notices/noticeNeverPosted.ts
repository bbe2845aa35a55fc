import type { Found, Mistake } from '../finding.ts';
import { isNear, quoted } from '../saying.ts';
import { keptIn, subjectOf } from '../view.ts';

export const noticeNeverPosted: Mistake = {
  code: 'notice-never-posted',
  title: 'a rule waits for a notice that nothing posts',
  severity: 'breaks it',
  find: ({ level, rules, posted }) =>
    rules.flatMap((rule): Found[] => {
      const { setOffBy } = rule.rule;
      if (setOffBy.type !== 'notice' || posted.has(setOffBy.notice)) return [];
      const near = [...posted].find((one) => isNear(one, setOffBy.notice));
      return [
        {
          subject: `${subjectOf(rule.form)}/${rule.ruleId}`,
          at: `${rule.at}/setOffBy/notice`,
          where: { placements: rule.form.placements },
          what: `${rule.form.kind.name} waits for ${quoted(setOffBy.notice)}, which nothing posts.`,
          why: `No rule, item or meter of this level posts it${posted.size === 0 ? '' : `; posted are ${[...posted].map(quoted).join(', ')}`}: the rule is never set off.`,
          cause: [setOffBy, [...posted]],
          mend:
            near === undefined
              ? null
              : {
                  words: `wait for ${quoted(near)}`,
                  changes: keptIn(level, rule, '/setOffBy/notice').map((path) => ({ path, value: near })),
                },
        },
      ];
    }),
};
