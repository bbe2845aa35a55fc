import { inOrder, pointer, tagMatches } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { quoted } from '../saying.ts';

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
