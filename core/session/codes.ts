/** Numbers the compiled session works with, and the words they stand for. Order is part of the digest: add at the end. */
export const PHASES = ['ready', 'resting', 'spent'] as const;
export type PhaseName = (typeof PHASES)[number];
export const READY = 0;
export const RESTING = 1;
export const SPENT = 2;

export const LINE_TYPES = ['changed', 'rate', 'refused', 'phase', 'limit', 'died', 'ended'] as const;
export type LineType = (typeof LINE_TYPES)[number];
export const LINE = { changed: 0, rate: 1, refused: 2, phase: 3, limit: 4, died: 5, ended: 6 } as const;

export const REASONS = ['wrong tag', 'resting', 'used up', 'condition', 'full', 'no player', 'dead'] as const;
export type Reason = (typeof REASONS)[number];
export const REASON = { wrongTag: 0, resting: 1, usedUp: 2, condition: 3, full: 4, noPlayer: 5, dead: 6 } as const;

export const ENDINGS = ['running', 'lost'] as const;
export const RUNNING = 0;
export const LOST = 1;

export const ARRIVING = 0;
export const INSIDE = 1;

export const RESTS = 1;
export const IS_SPENT = 2;

export const CHANGES = ['add', 'take', 'set'] as const;
export const ADD = 0;
export const SET = 2;

export const BELOW_LIMIT = 0;
export const COMPARISONS = ['below limit', 'at least', 'at most', 'above', 'below'] as const;

export const CIRCLE = 0;
export const BOX = 1;
