import type { Kind } from '../level/index.ts';

const NAMES = { ready: 'ready', windingUp: 'winding up', active: 'active', resting: 'resting', spent: 'spent', off: 'off' } as const;

/** Something about a phase of a kind that is likely not meant, in words. */
export interface PhaseNote {
  readonly phase: keyof typeof NAMES;
  readonly words: string;
}

/** What is likely not meant about how a kind is in its phases. */
export function phaseNotes({ solid, phases }: Kind): PhaseNote[] {
  if (solid === null) return [];
  return (Object.keys(NAMES) as (keyof typeof NAMES)[])
    .filter((phase) => phases[phase].shown === 'hidden' && phases[phase].solid)
    .map((phase) => ({ phase, words: `${NAMES[phase]}: hidden, and still stops players` }));
}
