import { allKinds, entry, pointer } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { quoted } from '../saying.ts';
import { wordsIn } from './words.ts';

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
