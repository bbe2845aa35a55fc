import { tagMatches } from '../../level/index.ts';
import type { Mistake } from '../finding.ts';
import { keptIn, subjectOf } from '../view.ts';
import { isNear, quoted } from '../saying.ts';

export const tagNobodyBears: Mistake = {
  code: 'tag-nobody-bears',
  title: 'a rule wants a tag that nobody bears',
  severity: 'breaks it',
  find: ({ level, rules, players, movers }) => {
    const borne = [...new Set([...players.flat(), ...movers.flatMap(({ kind }) => kind.tags)])];
    return rules.flatMap((rule) => {
      const { any } = rule.rule.who;
      const { type } = rule.rule.setOffBy;
      if (any.length === 0 || type === 'start' || type === 'every' || type === 'notice') return [];
      if (any.some((filter) => borne.some((tag) => tagMatches(filter, tag)))) return [];
      const near = borne.find((tag) => any.some((filter) => isNear(tag, filter))) ?? players[0]?.[0];
      return [
        {
          subject: `${subjectOf(rule.form)}/${rule.ruleId}`,
          at: `${rule.at}/who/any`,
          where: { placements: rule.form.placements },
          what: `${rule.form.kind.name} waits for ${any.map(quoted).join(' or ')}, and nobody bears that tag.`,
          why: `Players bear ${players[0]?.map(quoted).join(', ') ?? 'no tag'}; whoever comes is refused “wrong tag”, always.`,
          cause: [any, borne],
          mend:
            near === undefined
              ? null
              : {
                  words: `let ${quoted(near)} set it off`,
                  changes: keptIn(level, rule, '/who/any').map((path) => ({ path, value: [near] })),
                },
        },
      ];
    });
  },
};
