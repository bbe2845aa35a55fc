import { tagMatches } from '../../level/index.ts';
import type { Mistake } from '../finding.ts';
import { quoted } from '../saying.ts';
import { isTouched, subjectOf, takesPlayer } from '../view.ts';

export const notAccepted: Mistake = {
  code: 'not-accepted',
  title: 'players take no notice of a thing that is made for them',
  severity: 'breaks it',
  find: (view) => {
    const { accepts } = view.level.body;
    if (accepts.length === 0) return [];
    return view.forms
      .filter(({ kind }) => Object.values(kind.rules).some((rule) => isTouched(rule) && takesPlayer(view, rule)))
      .filter(({ kind }) => !accepts.some((filter) => kind.tags.some((tag) => tagMatches(filter, tag))))
      .map((form) => ({
        subject: subjectOf(form),
        at: '/body/accepts',
        where: { placements: form.placements },
        what: `Players take no notice of ${form.kind.name}.`,
        why: `They accept ${accepts.map(quoted).join(', ')}; it bears ${form.kind.tags.map(quoted).join(', ') || 'no tag'}, so every touch is refused “not accepted”.`,
        cause: [accepts, form.kind.tags],
        mend:
          form.kind.tags[0] === undefined
            ? null
            : {
                words: `let players accept ${quoted(form.kind.tags[0])}`,
                changes: [{ path: '/body/accepts', value: [...accepts, form.kind.tags[0]] }],
              },
      }));
  },
};
