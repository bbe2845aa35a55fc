import { inOrder } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { isNear, quoted } from '../saying.ts';
import { keptIn, subjectOf, type RuleAt } from '../view.ts';

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

export const noticeUnheard: Mistake = {
  code: 'notice-unheard',
  title: 'a notice that nothing is set off by',
  severity: 'worth a look',
  find: ({ level, rules, heard }) => {
    const ofRules = rules.flatMap((rule) =>
      inOrder(rule.rule.effects).flatMap(([id, effect]): Found[] => {
        if (effect.type !== 'notice' || heard.has(effect.notice)) return [];
        return [
          {
            subject: `${subjectOf(rule.form)}/${rule.ruleId}/${id}`,
            at: `${rule.at}/effects/${id}/notice`,
            where: { placements: rule.form.placements },
            what: `${rule.form.kind.name} posts ${quoted(effect.notice)}, and nothing hears it.`,
            why: 'No rule is set off by it, no condition or goal asks for it: it changes nothing.',
            cause: [effect, [...heard]],
          },
        ];
      }),
    );
    const ofMeters = inOrder(level.meters).flatMap(([id, meter]) =>
      (['atLower', 'atUpper'] as const).flatMap((end): Found[] => {
        const notice = meter[end];
        if (notice === null || heard.has(notice)) return [];
        return [
          {
            subject: `${id}/${end}`,
            at: `/meters/${id}/${end}`,
            what: `${meter.name} posts ${quoted(notice)} at its limit, and nothing hears it.`,
            why: 'No rule is set off by it, no condition or goal asks for it: it changes nothing.',
            cause: [notice, [...heard]],
            mend: { words: 'post it no more', changes: [{ path: `/meters/${id}/${end}`, value: null }] },
          },
        ];
      }),
    );
    return [...ofRules, ...ofMeters];
  },
};

/** A rule that posts a notice as soon as it hears another. */
interface Link {
  readonly rule: RuleAt;
  readonly from: string;
  readonly to: string;
}

/** A chain of links that comes back to where it began, from one notice on; null: there is none. */
function loopFrom(links: readonly Link[], start: string): readonly Link[] | null {
  const way: Link[] = [];
  const seen = new Set<string>();
  const follow = (notice: string): boolean => {
    for (const link of links.filter(({ from }) => from === notice)) {
      if (link.to === start) {
        way.push(link);
        return true;
      }
      if (seen.has(link.to)) continue;
      seen.add(link.to);
      way.push(link);
      if (follow(link.to)) return true;
      way.pop();
    }
    return false;
  };
  return follow(start) ? way : null;
}

export const noticeLoop: Mistake = {
  code: 'notice-loop',
  title: 'notices that set each other off in a ring',
  severity: 'probably not meant',
  find: ({ rules }) => {
    const links = rules.flatMap((rule) => {
      const { setOffBy, becomes, windUp, effects } = rule.rule;
      // What is used up, rests or winds up does not go on at once.
      if (setOffBy.type !== 'notice' || becomes.type !== 'stays' || windUp !== null || rule.rule.uses !== null) return [];
      return Object.values(effects).flatMap((effect): Link[] =>
        effect.type === 'notice' ? [{ rule, from: setOffBy.notice, to: effect.notice }] : [],
      );
    });
    const told = new Set<string>();
    return [...new Set(links.map(({ from }) => from))].flatMap((start): Found[] => {
      const loop = told.has(start) ? null : loopFrom(links, start);
      if (loop === null) return [];
      loop.forEach(({ from }) => told.add(from));
      const chain = [...loop.map(({ from }) => from), start].map(quoted).join(' → ');
      return [
        {
          subject: start,
          at: `${loop[0]?.rule.at ?? ''}/setOffBy/notice`,
          where: { placements: loop.flatMap(({ rule }) => rule.form.placements) },
          what: `Notices set each other off in a ring: ${chain}.`,
          why: 'Once one is posted they go round until the step stops them after 64 links.',
          cause: loop.map(({ from, to, rule }) => [from, to, rule.at]),
        },
      ];
    });
  },
};
