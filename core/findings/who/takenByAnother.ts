import { tagMatches, whoMatches } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { quoted } from '../saying.ts';
import { isTouched, keptIn, subjectOf, type LevelView } from '../view.ts';

/** A tag of a thing that some players bear and others do not; null: it has none. */
function ownTag({ players }: LevelView, tags: readonly string[]): string | null {
  const borne = (tag: string): number => players.filter((own) => own.some((one) => tagMatches(tag, one))).length;
  return tags.find((tag) => borne(tag) > 0 && borne(tag) < players.length) ?? null;
}

export const takenByAnother: Mistake = {
  code: 'taken-by-another',
  title: 'a thing that bears the tag of one player lets another in',
  severity: 'probably not meant',
  find: (view) =>
    view.rules.flatMap((rule): Found[] => {
      const { who, setOffBy } = rule.rule;
      const tag = ownTag(view, rule.form.kind.tags);
      if (tag === null || (!isTouched(rule.rule) && setOffBy.type !== 'use')) return [];
      const isOwner = (tags: readonly string[]): boolean => tags.some((one) => tagMatches(tag, one));
      const others = view.players.flatMap((tags, at) => (!isOwner(tags) && whoMatches(who, tags) ? [at + 1] : []));
      if (others.length === 0) return [];
      const names = others.map((one) => `player ${String(one)}`).join(' and ');
      return [
        {
          subject: `${subjectOf(rule.form)}/${rule.ruleId}`,
          at: `${rule.at}/who/any`,
          where: { placements: rule.form.placements },
          what: `${rule.form.kind.name} lets ${names} in too.`,
          why: `It bears the tag ${quoted(tag)}, as only some players do, but its rule asks for ${who.any.length === 0 ? 'nobody in particular' : who.any.map(quoted).join(' or ')}: ${names} set${others.length === 1 ? 's' : ''} it off as well.`,
          cause: [who, tag, others],
          mend: {
            words: `let only ${quoted(tag)} set it off`,
            changes: keptIn(view.level, rule, '/who/any').map((path) => ({ path, value: [tag] })),
          },
        },
      ];
    }),
};
