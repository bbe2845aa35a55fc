import type { Found, Mistake } from '../finding.ts';
import { quoted } from '../saying.ts';
import type { RuleAt } from '../view.ts';

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
