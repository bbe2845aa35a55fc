import { allKinds, entry, inOrder, pointer, tagMatches, type Level } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { isNear, quoted } from '../saying.ts';
import type { LevelView } from '../view.ts';

/** Maps in which an id is stated, not used. */
type Loose = 'items' | 'meters' | 'points' | 'paths' | 'flourishes';

const used = new WeakMap<Level, ReadonlySet<string>>();

/** Every word that stands anywhere in a level as a value, or as a name within a value: what is not among them is used nowhere. */
function wordsIn(level: Level): ReadonlySet<string> {
  const known = used.get(level);
  if (known !== undefined) return known;
  const found = new Set<string>();
  const visit = (value: unknown, keys: boolean): void => {
    if (typeof value === 'string') found.add(value);
    else if (Array.isArray(value)) value.forEach((one) => visit(one, true));
    else if (typeof value === 'object' && value !== null)
      for (const [key, one] of Object.entries(value)) {
        // What people read is no use of an id.
        if (key === 'name') continue;
        if (keys) found.add(key);
        visit(one, true);
      }
  };
  // Ids of the maps themselves are no use of them; what lies within is. Readouts and targets speak of what there is, and use nothing.
  for (const [part, value] of Object.entries(level)) {
    if (part === 'targets' || part === 'readouts' || part === 'meant') continue;
    if (typeof value === 'object' && value !== null && !Array.isArray(value)) for (const one of Object.values(value)) visit(one, true);
    else visit(value, false);
  }
  used.set(level, found);
  return found;
}

/** Meters that mean something by themselves. */
const ALWAYS: ReadonlySet<string> = new Set(['health', 'score', 'lives']);

/** Whether an item has rules, or becomes a thing when dropped. */
const doesSomething = ({ items }: Level, id: string): boolean => {
  const item = entry(items, id);
  return item !== undefined && (item.dropsAs !== null || Object.keys(item.rules).length > 0);
};

/** Whether players begin with an item that does something by itself. */
function isCarried({ items }: Level, id: string): boolean {
  const item = entry(items, id);
  return item !== undefined && item.start > 0 && Object.keys(item.rules).length > 0;
}

const unused = (map: Loose, one: string, why: string): Mistake => ({
  code: `unused-${one}`,
  title: `a ${one} that nothing uses`,
  severity: 'worth a look',
  find: ({ level }) => {
    const words = wordsIn(level);
    return inOrder<{ readonly order: number; readonly name: string }>(level[map]).flatMap(([id, { name }]): Found[] => {
      if (words.has(id) || (map === 'meters' && ALWAYS.has(id)) || (map === 'items' && isCarried(level, id))) return [];
      const at = pointer([map, id]);
      return [
        {
          subject: id,
          at,
          where: map === 'points' ? { points: [id] } : map === 'paths' ? { paths: [id] } : {},
          what: `The ${one} ${quoted(name)} is used by nothing.`,
          why,
          cause: id,
          // One that does something takes other things with it.
          mend: map === 'items' && doesSomething(level, id) ? null : { words: 'delete it', changes: [{ path: at }] },
        },
      ];
    });
  },
});

export const unusedItem = unused('items', 'item', 'No rule gives, takes or asks for it.');
export const unusedMeter = unused('meters', 'meter', 'No rule changes it or asks for it.');
export const unusedPoint = unused('points', 'point', 'Nobody starts, comes back or is put there, and no goal asks for it.');
export const unusedPath = unused('paths', 'path', 'Nothing travels along it.');
export const unusedFlourish = unused('flourishes', 'flourish', 'No effect and no phase has it.');

export const unusedKind: Mistake = {
  code: 'unused-kind',
  title: 'a kind of which there is nothing',
  severity: 'worth a look',
  find: ({ level, kinds }) => {
    const bases = new Set(Object.values(level.variants).map(({ basedOn }) => basedOn));
    const words = wordsIn(level);
    return allKinds(level).flatMap(([id, { name }]): Found[] => {
      if (kinds.has(id) || bases.has(id)) return [];
      const map = entry(level.kinds, id) === undefined ? 'variants' : 'kinds';
      return [
        {
          subject: id,
          at: pointer([map, id]),
          what: `There is nothing of the kind ${quoted(name)}.`,
          why: 'It is placed nowhere, and nothing spawns or drops it.',
          cause: id,
          // One that something else speaks of cannot go alone.
          mend: words.has(id) ? null : { words: 'delete it', changes: [{ path: pointer([map, id]) }] },
        },
      ];
    });
  },
};

export const unusedTag: Mistake = {
  code: 'unused-tag',
  title: 'rules that sit on a tag no kind bears',
  severity: 'worth a look',
  find: ({ level, forms }) =>
    inOrder(level.tagRules).flatMap(([id, { tag }]): Found[] => {
      if (forms.some(({ kind }) => kind.tags.some((own) => tagMatches(tag, own)))) return [];
      return [
        {
          subject: id,
          at: pointer(['tagRules', id]),
          what: `Rules sit on ${quoted(tag)}, and no thing bears that tag.`,
          why: 'They are never set off.',
          cause: tag,
          mend: { words: 'delete them', changes: [{ path: pointer(['tagRules', id]) }] },
        },
      ];
    }),
};

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
