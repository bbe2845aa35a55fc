import type { Mistake } from '../finding.ts';
import { inPhases } from './inPhases.ts';

export const shownNotSolid: Mistake = {
  code: 'shown-not-solid',
  title: 'a solid thing that is shown in full and stops nobody',
  severity: 'worth a look',
  find: (view) =>
    inPhases(view, {
      isWrong: ({ shown, solid }, kind) => kind.solid !== null && shown === 'full' && !solid,
      what: (name, phase) => `While ${phase}, ${name} is shown in full but not solid.`,
      why: 'It looks as it does when it holds: players step onto it and fall, or walk through.',
      field: 'shown',
      value: 'faint',
      mend: (phase) => `show it faint while ${phase}`,
    }),
};
