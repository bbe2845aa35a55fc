/** What can be changed of how a player moves, as people call it. */
export const MOVEMENT_NAMES = {
  speed: 'walk speed',
  jump: 'jump speed',
  gravity: 'gravity',
  acceleration: 'acceleration',
  control: 'control',
} as const;

/** The name of a movement; an unknown one is its own. */
export const movementName = (of: string): string =>
  Object.hasOwn(MOVEMENT_NAMES, of) ? MOVEMENT_NAMES[of as keyof typeof MOVEMENT_NAMES] : of;
