import { entry, inOrder, pointer, type Level } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { quoted } from '../saying.ts';
import { wordsIn } from './words.ts';

/** Maps in which an id is stated, not used. */
type Loose = 'items' | 'meters' | 'points' | 'paths' | 'flourishes';

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
