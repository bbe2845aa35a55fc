import { inOrder } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { isNear, quoted } from '../saying.ts';
import type { LevelView } from '../view.ts';

/** Tags shorter than this are alike by chance. */
const LEAST_LETTERS = 4;

/** All tags of a level, with where each stands first. */
function tagsIn({ level, rules, forms }: LevelView): Map<string, string> {
  const found = new Map<string, string>();
  const note = (tags: readonly string[], at: string): void => {
    for (const tag of tags) for (const word of tag.split('/')) if (!found.has(word)) found.set(word, at);
  };
  note(level.body.tags, '/body/tags');
  note(level.body.accepts, '/body/accepts');
  level.players.tags.forEach((tags, at) => note(tags, `/players/tags/${String(at)}`));
  for (const { kindId, kind } of forms) note(kind.tags, `/kinds/${kindId}/tags`);
  for (const { rule, at } of rules) note([...rule.who.any, ...rule.who.none], `${at}/who`);
  for (const [id, { tag }] of inOrder(level.tagRules)) note([tag], `/tagRules/${id}/tag`);
  return found;
}

export const namesAlike: Mistake = {
  code: 'names-alike',
  title: 'tags that differ by a letter',
  severity: 'probably not meant',
  find: (view) => {
    const all = [...tagsIn(view)];
    return all.flatMap(([tag, at], nth) =>
      all.slice(0, nth).flatMap(([other]): Found[] => {
        if (Math.min(tag.length, other.length) < LEAST_LETTERS || !isNear(tag, other)) return [];
        return [
          {
            subject: [tag, other].sort().join('/'),
            at,
            what: `The tags ${quoted(other)} and ${quoted(tag)} differ by a letter.`,
            why: 'A filter takes only the very same word: what bears the one is refused by rules that want the other.',
            cause: [tag, other],
          },
        ];
      }),
    );
  },
};
