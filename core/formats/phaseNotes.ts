import type { Kind } from '../level/index.ts';

/** Phases as people read them, by their names in the document, in the order a thing comes through them. */
export const PHASE_WORDS = {
  ready: 'ready',
  windingUp: 'winding up',
  active: 'active',
  resting: 'resting',
  spent: 'spent',
  off: 'off',
} as const;

/** Something about a phase of a kind that is likely not meant, in words. */
export interface PhaseNote {
  readonly phase: keyof typeof PHASE_WORDS;
  readonly words: string;
}

/** What is likely not meant about how a kind is in its phases. */
export function phaseNotes({ solid, phases }: Kind): PhaseNote[] {
  if (solid === null) return [];
  return (Object.keys(PHASE_WORDS) as (keyof typeof PHASE_WORDS)[])
    .filter((phase) => phases[phase].shown === 'hidden' && phases[phase].solid)
    .map((phase) => ({ phase, words: `${PHASE_WORDS[phase]}: hidden, and still stops players` }));
}
