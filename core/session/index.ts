export {
  ACTIVE,
  AMOUNT,
  BECOMES,
  BUTTON,
  CHANGE,
  DESTINATION,
  DIRECTION,
  EFFECT,
  ENDING,
  GOAL,
  HOW,
  INPUT_WIDTH,
  LASTS,
  LIFE,
  LINE,
  MOVEMENT,
  PHASE,
  PHASES,
  REASONS,
  SET_OFF_BY,
  SIMULATION_VERSION,
  TEST,
  TRAVEL,
  type EndingName,
  type PhaseName,
  type Reason,
} from './compile/codes.ts';
export { evenly, evenMotion, moverPlace, passing } from './compile/kinematics.ts';
export { keeping } from './compile/keeping.ts';
export { compile, stepsOf, type Compiled } from './compile/compile.ts';
export { findPair } from './contact/contacts.ts';
export * from './state/ledger.ts';
export * from './explain/moment.ts';
export { thingId } from './state/names.ts';
export { keyedDraw } from './state/random.ts';
export { CLOCK, NEVER } from './state/state.ts';
export { countingSlot, exists, isOn, phaseFor, placeX, placeY } from './state/things.ts';
export { travellersIn } from './state/courses.ts';
export { wouldAct } from './rules/acting.ts';
export { putPlayer } from './rules/life.ts';
export { holds } from './rules/conditions.ts';
export { itemsOf, itemThatStops } from './rules/items.ts';
export { meterOf } from './rules/meters.ts';
export { changeEnds, movementAlong, movementOf } from './rules/modifiers.ts';
export { idOf, placementOf } from './state/naming.ts';
export * from './explain/needs.ts';
export * from './explain/outcome.ts';
export { roomIn, type Seeker } from './explain/room.ts';
export type { OutsideEvent, Session } from './state/running.ts';
export * from './session.ts';
export { createSession, type SessionOptions } from './start.ts';
export { distanceToTouch, leastDistanceToTouch, whyNot, type RuleTest, type RuleTests } from './explain/why.ts';
