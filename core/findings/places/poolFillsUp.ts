import type { Mistake } from '../finding.ts';
import { counted, figure } from '../saying.ts';
import { subjectOf } from '../view.ts';

export const poolFillsUp: Mistake = {
  code: 'pool-fills-up',
  title: 'spawning that fills up and stops',
  severity: 'worth a look',
  find: ({ rules, forms }) =>
    rules.flatMap((rule) => {
      const { setOffBy, effects } = rule.rule;
      if (setOffBy.type !== 'every') return [];
      return Object.entries(effects).flatMap(([id, effect]) => {
        if (effect.type !== 'spawn') return [];
        const pool = Object.keys(effect.pool);
        const stays = pool.every((kindId) => {
          const kind = forms.find((form) => form.kindId === kindId)?.kind;
          return kind !== undefined && Object.values(kind.rules).every(({ becomes, uses }) => becomes.type !== 'spent' && uses === null);
        });
        if (!stays) return [];
        return [
          {
            subject: `${subjectOf(rule.form)}/${rule.ruleId}/${id}`,
            at: `${rule.at}/effects/${id}/most`,
            where: { placements: rule.form.placements },
            what: `${rule.form.kind.name} spawns until ${counted(effect.most, 'thing')} ${effect.most === 1 ? 'is' : 'are'} there, and no more.`,
            why: `What it spawns is never used up: after ${figure(effect.most * setOffBy.seconds, 's')} every further one comes to nothing, “spawn limit”.`,
            cause: [effect, setOffBy],
          },
        ];
      });
    }),
};
