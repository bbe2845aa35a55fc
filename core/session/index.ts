export {
  BUTTON,
  INPUT_WIDTH,
  LIFE,
  LINE,
  MOVEMENT,
  PHASES,
  REASONS,
  SIMULATION_VERSION,
  type EndingName,
  type PhaseName,
  type Reason,
} from './compile/codes.ts';
export { compile, stepsOf, type Compiled } from './compile/compile.ts';
export * from './state/ledger.ts';
export * from './explain/moment.ts';
export { thingId } from './state/names.ts';
export { changeEnds } from './rules/modifiers.ts';
export { idOf, placementOf } from './state/naming.ts';
export * from './explain/needs.ts';
export * from './explain/outcome.ts';
export type { OutsideEvent, Session } from './state/running.ts';
export * from './session.ts';
export { createSession, type SessionOptions } from './start.ts';
export { distanceToTouch, leastDistanceToTouch, whyNot, type RuleTest, type RuleTests } from './explain/why.ts';
