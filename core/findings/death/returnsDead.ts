import type { Mistake } from '../finding.ts';
import { figure } from '../saying.ts';

export const returnsDead: Mistake = {
  code: 'returns-dead',
  title: 'health on coming back is at its lower limit',
  severity: 'breaks it',
  find: ({ level: { death, meters } }) => {
    const lower = meters.health?.lower ?? 0;
    if (death.returns === 'never' || death.health === null || death.health > lower) return [];
    return [
      {
        subject: 'health',
        at: '/death/health',
        what: 'Players come back with no health.',
        why: `They come back with ${figure(death.health)}; at ${figure(lower)} they die.`,
        cause: [death.health, lower],
        mend: { words: 'let them come back as at the start', changes: [{ path: '/death/health', value: null }] },
      },
    ];
  },
};
