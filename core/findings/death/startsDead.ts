import type { Mistake } from '../finding.ts';
import { figure } from '../saying.ts';

export const startsDead: Mistake = {
  code: 'starts-dead',
  title: 'health at the start is at its lower limit',
  severity: 'breaks it',
  find: ({ level: { meters } }) => {
    const { health } = meters;
    if (health === undefined || health.start > health.lower) return [];
    const full = health.upper ?? health.lower + 1;
    return [
      {
        subject: 'health',
        at: '/meters/health/start',
        what: 'Every player is dead from the start.',
        why: `They begin with ${figure(health.start)} ${health.name}; at ${figure(health.lower)} they die.`,
        cause: [health.start, health.lower],
        mend: { words: `let them begin with ${figure(full)}`, changes: [{ path: '/meters/health/start', value: full }] },
      },
    ];
  },
};
