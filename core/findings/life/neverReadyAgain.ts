import { entry, pointer } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { counted, figure } from '../saying.ts';
import { keptIn, subjectOf } from '../view.ts';

export const neverReadyAgain: Mistake = {
  code: 'never-ready-again',
  title: 'a thing that is never ready again, though it is meant to be',
  severity: 'probably not meant',
  find: ({ level, forms }) => {
    const limit = level.ends.timeLimit ?? Infinity;
    return forms.flatMap((form): Found[] => {
      const rules = Object.entries(form.kind.rules);
      const on = rules.some(([, { becomes }]) => becomes.type === 'ready') || form.kind.cycle !== null;
      const name = form.kind.name;
      const where = { placements: form.placements };
      const ofRules = rules.flatMap(([ruleId, rule]): Found[] => {
        const at = pointer(['kinds', form.kindId, 'rules', ruleId]);
        const subject = `${subjectOf(form)}/${ruleId}`;
        const ruleAt = { form, ruleId, rule, at };
        if (rule.becomes.type === 'spent' && rule.uses !== null && rule.uses > 1)
          return [
            {
              subject,
              at: `${at}/uses`,
              where,
              what: `${name} has ${counted(rule.uses, 'use')}, and is spent after the first.`,
              why: `${counted(rule.uses - 1, 'use')} of it can never come about.`,
              cause: [rule.becomes, rule.uses],
              mend: {
                words: 'let it stay until its uses are over',
                changes: keptIn(level, ruleAt, '/becomes').map((path) => ({ path, value: { type: 'stays' } })),
              },
            },
          ];
        if (rule.becomes.type === 'rests' && rule.becomes.seconds >= limit)
          return [
            {
              subject,
              at: `${at}/becomes/seconds`,
              where,
              what: `${name} rests longer than the session lasts.`,
              why: `It rests ${figure(rule.becomes.seconds, 's')}, and time is over at ${figure(limit, 's')}: it works once.`,
              cause: [rule.becomes, limit],
            },
          ];
        if (rule.becomes.type === 'off' && !on)
          return [
            {
              subject,
              at: `${at}/becomes`,
              where,
              what: `${name} is switched off and nothing switches it on again.`,
              why: 'No rule of it makes it ready, and it has no cycle: it works once.',
              cause: rule.becomes,
              mend:
                rule.uses !== null
                  ? null
                  : {
                      words: 'say so: spent',
                      changes: keptIn(level, ruleAt, '/becomes').map((path) => ({ path, value: { type: 'spent' } })),
                    },
            },
          ];
        return [];
      });
      const off = on ? [] : form.placements.filter((id) => entry(level.placements, id)?.starts.type === 'off');
      const ofThings = off.map((id): Found => ({
        subject: id,
        at: pointer(['placements', id, 'starts']),
        where: { placements: [id] },
        what: `${name} starts switched off and nothing switches it on.`,
        why: 'No rule of it makes it ready, and it has no cycle: it does nothing for the whole session.',
        cause: 'off',
        mend: { words: 'let it start ready', changes: [{ path: pointer(['placements', id, 'starts']), value: { type: 'ready' } }] },
      }));
      return [...ofRules, ...ofThings];
    });
  },
};
