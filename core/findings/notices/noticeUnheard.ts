import { inOrder } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { quoted } from '../saying.ts';
import { subjectOf } from '../view.ts';

export const noticeUnheard: Mistake = {
  code: 'notice-unheard',
  title: 'a notice that nothing is set off by',
  severity: 'worth a look',
  find: ({ level, rules, heard }) => {
    const ofRules = rules.flatMap((rule) =>
      inOrder(rule.rule.effects).flatMap(([id, effect]): Found[] => {
        if (effect.type !== 'notice' || heard.has(effect.notice)) return [];
        return [
          {
            subject: `${subjectOf(rule.form)}/${rule.ruleId}/${id}`,
            at: `${rule.at}/effects/${id}/notice`,
            where: { placements: rule.form.placements },
            what: `${rule.form.kind.name} posts ${quoted(effect.notice)}, and nothing hears it.`,
            why: 'No rule is set off by it, no condition or goal asks for it: it changes nothing.',
            cause: [effect, [...heard]],
          },
        ];
      }),
    );
    const ofMeters = inOrder(level.meters).flatMap(([id, meter]) =>
      (['atLower', 'atUpper'] as const).flatMap((end): Found[] => {
        const notice = meter[end];
        if (notice === null || heard.has(notice)) return [];
        return [
          {
            subject: `${id}/${end}`,
            at: `/meters/${id}/${end}`,
            what: `${meter.name} posts ${quoted(notice)} at its limit, and nothing hears it.`,
            why: 'No rule is set off by it, no condition or goal asks for it: it changes nothing.',
            cause: [notice, [...heard]],
            mend: { words: 'post it no more', changes: [{ path: `/meters/${id}/${end}`, value: null }] },
          },
        ];
      }),
    );
    return [...ofRules, ...ofMeters];
  },
};
