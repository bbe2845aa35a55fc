import type { Mistake } from '../finding.ts';
import { isTouched } from '../view.ts';
import { inPhases } from './inPhases.ts';

export const sensesWhileHidden: Mistake = {
  code: 'senses-while-hidden',
  title: 'a thing that senses while it is hidden',
  severity: 'probably not meant',
  find: (view) =>
    inPhases(view, {
      // What is hidden when it is ready is a trap, or a trigger that nobody is to see.
      isWrong: ({ shown, sensing }, { rules }, phase) =>
        phase !== 'ready' && shown === 'hidden' && sensing && Object.values(rules).some(isTouched),
      what: (name, phase) => `While ${phase}, ${name} is hidden and senses.`,
      why: 'Whoever comes by is inside it without seeing it, and does not arrive when it is shown again.',
      field: 'sensing',
      value: false,
      mend: (phase) => `let it not sense while ${phase}`,
    }),
};
