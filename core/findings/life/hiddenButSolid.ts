import type { Mistake } from '../finding.ts';
import { PHASE_NAMES, phasesOf } from './phasesOf.ts';
import { keptOf, subjectOf } from '../view.ts';

export const hiddenButSolid: Mistake = {
  code: 'hidden-but-solid',
  title: 'a thing that is hidden and still stops players',
  severity: 'probably not meant',
  find: (view) =>
    view.forms.flatMap((form) => {
      const { solid, phases, name } = form.kind;
      if (solid === null) return [];
      return [...phasesOf(view, form)]
        .filter((phase) => phases[phase].shown === 'hidden' && phases[phase].solid)
        .map((phase) => ({
          subject: `${subjectOf(form)}/${phase}`,
          at: `/kinds/${form.kindId}/phases/${phase}/solid`,
          where: { placements: form.placements },
          what: `While ${PHASE_NAMES[phase]}, ${name} is hidden but solid.`,
          why: 'Players stand on nothing, or come up against it without seeing why.',
          cause: phases[phase],
          mend: {
            words: `let nobody be stopped by it while ${PHASE_NAMES[phase]}`,
            changes: keptOf(view.level, form, `/phases/${phase}/solid`).map((path) => ({ path, value: false })),
          },
        }));
    }),
};
