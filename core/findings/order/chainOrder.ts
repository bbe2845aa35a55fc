import { canonicalText, entry } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { counted, quoted } from '../saying.ts';
import type { LevelView, RuleAt } from '../view.ts';
import { bothOrders } from './bothOrders.ts';

/** More than so many moments, and things in one, are not tried. */
const [MOST_MOMENTS, MOST_THINGS] = [12, 60];
/** What is set off is followed for so long; what comes every so often is waited for no longer than so long. Seconds. */
const [FOLLOWED, LONGEST] = [2, 10];

/** Rules that act in the same step, by what sets them off. */
interface Moment {
  readonly when: string;
  readonly notice: string | null;
  readonly rules: readonly RuleAt[];
}

function momentsIn({ rules }: LevelView): Moment[] {
  const moments = new Map<string, { when: string; notice: string | null; rules: RuleAt[] }>();
  for (const rule of rules) {
    const { setOffBy } = rule.rule;
    const when =
      setOffBy.type === 'notice'
        ? `when ${quoted(setOffBy.notice)} is posted`
        : setOffBy.type === 'start'
          ? 'at the start'
          : setOffBy.type === 'every'
            ? `every ${String(setOffBy.seconds)} s`
            : null;
    if (when === null) continue;
    const moment = moments.get(when) ?? { when, notice: setOffBy.type === 'notice' ? setOffBy.notice : null, rules: [] };
    moment.rules.push(rule);
    moments.set(when, moment);
  }
  return [...moments.values()].filter(({ rules: some }) => some.length > 1).slice(0, MOST_MOMENTS);
}

export const chainOrder: Mistake = {
  code: 'chain-order',
  title: 'things set off in the same step, where the order of placements decides',
  severity: 'probably not meant',
  find: (view) => {
    const { level } = view;
    return momentsIn(view).flatMap(({ when, notice, rules }): Found[] => {
      const placements = [...new Set(rules.flatMap(({ form }) => form.placements))].slice(0, MOST_THINGS);
      if (placements.length < 2) return [];
      const longest = Math.max(0, ...rules.map(({ rule: { setOffBy } }) => (setOffBy.type === 'every' ? setOffBy.seconds : 0)));
      const orders = bothOrders(level, new Set(placements), {}, 0.01, ({ ids }) =>
        notice === null ? [] : [{ step: 1, player: 0, what: 'notice', subject: ids.notices.indexOf(notice), amount: 0 }],
      );
      const differs = orders.differ((trial) => trial.go(FOLLOWED + Math.min(longest, LONGEST)));
      if (differs === null) return [];
      return [
        {
          subject: when,
          at: rules[0]?.at ?? '/kinds',
          where: { placements },
          what: `${counted(placements.length, 'thing')} act ${when}, and their order decides.`,
          why: `They act one after another in the order of placements. The one order or the other comes to ${differs}.`,
          cause: [when, placements.map((id) => entry(level.placements, id)?.order ?? 0), canonicalText(rules.map(({ rule }) => rule))],
        },
      ];
    });
  },
};
