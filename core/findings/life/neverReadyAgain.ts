import { entry, pointer } from '../../level/index.ts';
import type { Found, Mend, Mistake } from '../finding.ts';
import { counted, figure } from '../saying.ts';
import { keptIn, subjectOf, type Form, type LevelView, type RuleAt } from '../view.ts';

/** Whether something makes a thing ready again that is switched off. */
const comesOn = ({ kind }: Form): boolean =>
  kind.cycle !== null || Object.values(kind.rules).some(({ becomes }) => becomes.type === 'ready');

/** What a rule does that its thing does not come back from. */
function ofRule({ level }: LevelView, rule: RuleAt): Omit<Found, 'subject' | 'where'> | null {
  const { becomes, uses } = rule.rule;
  const name = rule.form.kind.name;
  const limit = level.ends.timeLimit ?? Infinity;
  const become = (words: string, type: string): Mend => ({
    words,
    changes: keptIn(level, rule, '/becomes').map((path) => ({ path, value: { type } })),
  });
  if (becomes.type === 'spent' && uses !== null && uses > 1)
    return {
      at: `${rule.at}/uses`,
      what: `${name} has ${counted(uses, 'use')}, and is spent after the first.`,
      why: `${counted(uses - 1, 'use')} of it can never come about.`,
      cause: [becomes, uses],
      mend: become('let it stay until its uses are over', 'stays'),
    };
  if (becomes.type === 'rests' && becomes.seconds >= limit)
    return {
      at: `${rule.at}/becomes/seconds`,
      what: `${name} rests longer than the session lasts.`,
      why: `It rests ${figure(becomes.seconds, 's')}, and time is over at ${figure(limit, 's')}: it works once.`,
      cause: [becomes, limit],
    };
  if (becomes.type === 'off' && !comesOn(rule.form))
    return {
      at: `${rule.at}/becomes`,
      what: `${name} is switched off and nothing switches it on again.`,
      why: 'No rule of it makes it ready, and it has no cycle: it works once.',
      cause: becomes,
      mend: uses === null ? become('say so: spent', 'spent') : null,
    };
  return null;
}

export const neverReadyAgain: Mistake = {
  code: 'never-ready-again',
  title: 'a thing that is never ready again, though it is meant to be',
  severity: 'probably not meant',
  find: (view) => {
    const ofRules = view.rules.flatMap((rule): Found[] => {
      const found = ofRule(view, rule);
      if (found === null) return [];
      return [{ ...found, subject: `${subjectOf(rule.form)}/${rule.ruleId}`, where: { placements: rule.form.placements } }];
    });
    const ofThings = view.things.flatMap(({ id, form }): Found[] => {
      if (entry(view.level.placements, id)?.starts.type !== 'off' || comesOn(form)) return [];
      const at = pointer(['placements', id, 'starts']);
      return [
        {
          subject: id,
          at,
          where: { placements: [id] },
          what: `${form.kind.name} starts switched off and nothing switches it on.`,
          why: 'No rule of it makes it ready, and it has no cycle: it does nothing for the whole session.',
          cause: 'off',
          mend: { words: 'let it start ready', changes: [{ path: at, value: { type: 'ready' } }] },
        },
      ];
    });
    return [...ofRules, ...ofThings];
  },
};
