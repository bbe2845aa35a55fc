import type { Mistake } from '../finding.ts';
import { PHASE_NAMES, phasesOf } from './phasesOf.ts';
import { keptOf, subjectOf } from '../view.ts';

export const shownNotSolid: Mistake = {
  code: 'shown-not-solid',
  title: 'a solid thing that is shown in full and stops nobody',
  severity: 'worth a look',
  find: (view) =>
    view.forms.flatMap((form) => {
      const { solid, phases, name } = form.kind;
      if (solid === null) return [];
      return [...phasesOf(view, form)]
        .filter((phase) => phases[phase].shown === 'full' && !phases[phase].solid)
        .map((phase) => ({
          subject: `${subjectOf(form)}/${phase}`,
          at: `/kinds/${form.kindId}/phases/${phase}/solid`,
          where: { placements: form.placements },
          what: `While ${PHASE_NAMES[phase]}, ${name} is shown in full but not solid.`,
          why: 'It looks as it does when it holds: players step onto it and fall, or walk through.',
          cause: phases[phase],
          mend: {
            words: `show it faint while ${PHASE_NAMES[phase]}`,
            changes: keptOf(view.level, form, `/phases/${phase}/shown`).map((path) => ({ path, value: 'faint' })),
          },
        }));
    }),
};
