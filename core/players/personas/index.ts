export { createMind, type Ending } from './mind.ts';
export type { Decision, Hands } from './hands.ts';
export { pressKeys } from './persona.ts';
export * from './playedBy.ts';
export * from './playing.ts';
export { worldOf } from './world.ts';
export * from './fitted.ts';
export { fitPersona } from './fitting.ts';
