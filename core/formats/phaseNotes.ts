import type { Kind } from '../level/index.ts';

const NAMES = { ready: 'ready', windingUp: 'winding up', active: 'active', resting: 'resting', spent: 'spent', off: 'off' } as const;

/** What is likely not meant about how a kind is in its phases. */
export function phaseNotes({ solid, phases }: Kind): string[] {
  if (solid === null) return [];
  return (Object.keys(NAMES) as (keyof typeof NAMES)[])
    .filter((phase) => phases[phase].shown === 'hidden' && phases[phase].solid)
    .map((phase) => `${NAMES[phase]}: hidden, and still stops players`);
}
