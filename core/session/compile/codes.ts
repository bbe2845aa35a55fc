/** Raised whenever the same inputs would no longer give the same session. Part of every key under which one is stored. */
export const SIMULATION_VERSION = 16;

/** Numbers the compiled session works with, and the words they stand for. Order is part of the digest: add at the end. */
export const PHASES = ['ready', 'resting', 'spent', 'winding up', 'active', 'off'] as const;
export type PhaseName = (typeof PHASES)[number];
export const PHASE = { ready: 0, resting: 1, spent: 2, windingUp: 3, active: 4, off: 5 } as const;
/** The phases as the level document names them, in the same order. */
export const PHASE_KEYS = ['ready', 'resting', 'spent', 'windingUp', 'active', 'off'] as const;

export const LINE_TYPES = [
  'changed',
  'rate',
  'refused',
  'phase',
  'limit',
  'died',
  'ended',
  'movement',
  'item',
  'launched',
  'moved',
  'checkpoint',
  'shield',
  'notice',
  'spawned',
  'relocated',
  'crowded',
  'stopped',
  'returned',
  'present',
  'drawn',
  'flourish',
  'held',
  'outside',
  'nothing',
  'displaced',
] as const;
export type LineType = (typeof LINE_TYPES)[number];
export const LINE = {
  changed: 0,
  rate: 1,
  refused: 2,
  phase: 3,
  limit: 4,
  died: 5,
  ended: 6,
  movement: 7,
  item: 8,
  launched: 9,
  moved: 10,
  checkpoint: 11,
  shield: 12,
  notice: 13,
  spawned: 14,
  relocated: 15,
  crowded: 16,
  stopped: 17,
  returned: 18,
  present: 19,
  drawn: 20,
  flourish: 21,
  held: 22,
  outside: 23,
  nothing: 24,
  displaced: 25,
} as const satisfies Record<LineType, number>;

export const REASONS = [
  'wrong tag',
  'resting',
  'used up',
  'condition',
  'full',
  'no player',
  'dead',
  'not accepted',
  'wrong side',
  'winding up',
  'active',
  'off',
  'empty',
  'carry limit',
  'blocked',
  'grace',
  'already present',
  'spawn limit',
  'no item',
  'nobody there',
] as const;
export type Reason = (typeof REASONS)[number];
export const REASON = {
  wrongTag: 0,
  resting: 1,
  usedUp: 2,
  condition: 3,
  full: 4,
  noPlayer: 5,
  dead: 6,
  notAccepted: 7,
  wrongSide: 8,
  windingUp: 9,
  active: 10,
  off: 11,
  empty: 12,
  carryLimit: 13,
  blocked: 14,
  grace: 15,
  alreadyPresent: 16,
  spawnLimit: 17,
  noItem: 18,
  nobodyThere: 19,
} as const;

export const ENDINGS = ['running', 'lost', 'won', 'time', 'too many contacts', 'too many changes'] as const;
export type EndingName = (typeof ENDINGS)[number];
export const ENDING = { running: 0, lost: 1, won: 2, time: 3, contacts: 4, changes: 5 } as const;

/** Whether a player is in the session. */
export const LIVES_STATES = ['absent', 'alive', 'dead', 'out'] as const;
export const LIFE = { absent: 0, alive: 1, dead: 2, out: 3 } as const;

export const SET_OFF_BY = {
  arriving: 0,
  inside: 1,
  leaving: 2,
  use: 3,
  notice: 4,
  start: 5,
  every: 6,
  carried: 7,
  held: 8,
  'use held': 9,
} as const;

export const BECOMES = { stays: 0, rests: 1, spent: 2, moves: 3, off: 4, ready: 5 } as const;
export const SCOPE = { placement: 0, player: 1, kind: 2 } as const;
export const ACTIVE = { instant: 0, for: 1, movement: 2 } as const;

export const EFFECT = {
  meter: 0,
  item: 1,
  movement: 2,
  launch: 3,
  push: 4,
  move: 5,
  kill: 6,
  checkpoint: 7,
  shield: 8,
  notice: 9,
  end: 10,
  flourish: 11,
  spawn: 12,
} as const;

export const CHANGE = { add: 0, take: 1, set: 2, fill: 3 } as const;
export const AMOUNT = { number: 0, share: 1, curve: 2 } as const;

export const MOVEMENT = { speed: 0, jump: 1, gravity: 2, acceleration: 3, control: 4 } as const;
export const MOVEMENT_COUNT = 5;
export const HOW = { multiply: 0, add: 1, set: 2 } as const;
export const LASTS = { for: 0, while: 1, 'until death': 2 } as const;
export const AGAIN = { ignore: 0, refresh: 1, extend: 2, stack: 3 } as const;
export const DIRECTION = { fixed: 0, away: 1, along: 2 } as const;

export const COMPARISONS = ['at least', 'at most', 'above', 'below'] as const;
export const TEST = {
  'below limit': 0,
  meter: 1,
  share: 2,
  item: 3,
  held: 4,
  movement: 5,
  speed: 6,
  ground: 7,
  chance: 8,
  'times used': 9,
  time: 10,
  notice: 11,
} as const;

export const DESTINATION = { start: 0, checkpoint: 1, point: 2, nearest: 3, weighted: 4, clear: 5 } as const;
export const GOAL = { reach: 0, item: 1, meter: 2, notice: 3 } as const;
export const SHARE_KEPT = { kept: 0, lost: 1, halved: 2 } as const;
export const SQUEEZED = { waits: 0, killed: 1, 'left in': 2 } as const;

/** Bits of a player's buttons. */
export const BUTTON = { jump: 1, use: 2, nextHeld: 4, useHeld: 8, drop: 16 } as const;

/** What a random draw is for: one more draw for one concern shifts none of another. */
export const CONCERN = { chance: 0, choice: 1, place: 2, heading: 3, returning: 4 } as const;
export const CONCERNS = 5;

/** How a placement travels. */
export const TRAVEL = { path: 0, drift: 1, roving: 2 } as const;

/** Stands for how far a player went in a step in which it glided, so that nothing about it has changed. */
export const GLIDING = -1;

/** Numbers of one player's input in a step: move right (−127 … 127), move up (−127 … 127), buttons held, buttons tapped (bits). */
export const INPUT_WIDTH = 4;

/**
 * A contact is with a thing as a whole, whichever of its shapes is touched, or, where rules are tied to one shape, also with
 * that zone of it: 1 + the number of the shape.
 */
export const WHOLE = 0;

/** The zone of a rule that is tied to a shape its kind does not have: nothing ever touches it. */
export const NOWHERE = 31;
