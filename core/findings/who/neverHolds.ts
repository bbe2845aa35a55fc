import { conditionWords } from '../../formats/index.ts';
import { inOrder, pointer, whoMatches, type Condition } from '../../level/index.ts';
import { settled } from './conditionHolds.ts';
import type { Found, Mistake } from '../finding.ts';
import { isTouched, keptIn, subjectOf, type LevelView, type RuleAt } from '../view.ts';

/** Conditions that ask nothing of who sets a rule off. */
const OF_NOBODY: readonly Condition['type'][] = ['chance', 'time', 'times used', 'notice'];

/** Whether a rule is set off by players alone: what it asks of them is not asked of others. */
const isForPlayers = ({ movers }: LevelView, { rule }: RuleAt): boolean =>
  (isTouched(rule) || rule.setOffBy.type === 'use') && !movers.some(({ kind }) => whoMatches(rule.who, kind.tags));

/** What is told of the conditions of a rule or an item's rule that come out the same whatever is played. */
function toldOf(
  view: LevelView,
  { provided, needs }: Pick<RuleAt['rule'], 'provided' | 'needs'>,
  on: { readonly subject: string; readonly name: string; readonly at: string; readonly placements: readonly string[] },
  holds: boolean,
  without: (id: string) => readonly string[],
  forPlayers = true,
): Found[] {
  const all = inOrder(provided);
  const known = all.map(([id, condition]) => ({
    id,
    condition,
    settled: forPlayers || OF_NOBODY.includes(condition.type) ? settled(view, condition) : null,
  }));
  // Of any one that must hold, one that never does is no harm as long as another may.
  const harmless = needs === 'any' && !holds && known.some((one) => one.settled?.holds !== false);
  return known.flatMap(({ id, condition, settled: one }): Found[] => {
    if (one === null || one.holds !== holds || harmless) return [];
    const words = conditionWords(view.level, condition);
    return [
      {
        subject: `${on.subject}/${id}`,
        at: `${on.at}/provided/${id}`,
        where: { placements: on.placements },
        what: `${on.name} asks for “${words}”, which ${holds ? 'always holds' : 'can never hold'}.`,
        why: holds ? `In this level ${one.why}: it keeps nobody off.` : `In this level ${one.why}: the rule never acts.`,
        cause: [condition, one.why],
        mend: { words: `ask for it no more`, changes: without(id).map((path) => ({ path })) },
      },
    ];
  });
}

/** All conditions of a level that always hold, or never. */
export const conditionsThat = (view: LevelView, holds: boolean): Found[] => [
  ...view.rules.flatMap((rule) =>
    toldOf(
      view,
      rule.rule,
      { subject: `${subjectOf(rule.form)}/${rule.ruleId}`, name: rule.form.kind.name, at: rule.at, placements: rule.form.placements },
      holds,
      (id) => keptIn(view.level, rule, `/provided/${id}`),
      isForPlayers(view, rule),
    ),
  ),
  ...inOrder(view.level.items).flatMap(([id, item]) =>
    inOrder(item.rules).flatMap(([ruleId, rule]) => {
      const at = pointer(['items', id, 'rules', ruleId]);
      return toldOf(view, rule, { subject: `${id}/${ruleId}`, name: item.name, at, placements: [] }, holds, (one) => [
        `${at}/provided/${one}`,
      ]);
    }),
  ),
];

export const neverHolds: Mistake = {
  code: 'never-holds',
  title: 'a condition that can never hold',
  severity: 'breaks it',
  find: (view) => conditionsThat(view, false),
};
