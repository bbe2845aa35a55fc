/** Phases as people read them, by their names in the document, in the order a thing comes through them. */
export const PHASE_WORDS = {
  ready: 'ready',
  windingUp: 'winding up',
  active: 'active',
  resting: 'resting',
  spent: 'spent',
  off: 'off',
} as const;
