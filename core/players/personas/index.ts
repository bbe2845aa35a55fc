export { copyMind, type Ending, type Mind } from './mind.ts';
export type { Decision, Hands } from './hands.ts';
export { pressKeys } from './persona.ts';
export * from './playing.ts';
export { worldOf, type World } from './world.ts';
