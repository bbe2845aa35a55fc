import type { Mistake } from '../finding.ts';
import { PHASE_NAMES, phasesOf } from './phasesOf.ts';
import { isTouched, keptOf, subjectOf } from '../view.ts';

export const sensesWhileHidden: Mistake = {
  code: 'senses-while-hidden',
  title: 'a thing that senses while it is hidden',
  severity: 'probably not meant',
  find: (view) =>
    view.forms.flatMap((form) => {
      const { phases, name, rules } = form.kind;
      if (!Object.values(rules).some(isTouched)) return [];
      return [...phasesOf(view, form)]
        .filter((phase) => phase !== 'ready' && phases[phase].shown === 'hidden' && phases[phase].sensing)
        .map((phase) => ({
          subject: `${subjectOf(form)}/${phase}`,
          at: `/kinds/${form.kindId}/phases/${phase}/sensing`,
          where: { placements: form.placements },
          what: `While ${PHASE_NAMES[phase]}, ${name} is hidden and senses.`,
          why: 'Whoever comes by is inside it without seeing it, and does not arrive when it is shown again.',
          cause: phases[phase],
          mend: {
            words: `let it not sense while ${PHASE_NAMES[phase]}`,
            changes: keptOf(view.level, form, `/phases/${phase}/sensing`).map((path) => ({ path, value: false })),
          },
        }));
    }),
};
