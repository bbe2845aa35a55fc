import type { Mistake } from '../finding.ts';
import { inPhases } from './inPhases.ts';

export const hiddenButSolid: Mistake = {
  code: 'hidden-but-solid',
  title: 'a thing that is hidden and still stops players',
  severity: 'probably not meant',
  find: (view) =>
    inPhases(view, {
      isWrong: ({ shown, solid }, kind) => kind.solid !== null && shown === 'hidden' && solid,
      what: (name, phase) => `While ${phase}, ${name} is hidden but solid.`,
      why: 'Players stand on nothing, or come up against it without seeing why.',
      field: 'solid',
      value: false,
      mend: (phase) => `let nobody be stopped by it while ${phase}`,
    }),
};
