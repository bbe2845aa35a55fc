export { BUTTON, INPUT_WIDTH, LIFE, PHASES, REASONS, type EndingName, type PhaseName, type Reason } from './codes.ts';
export { compile, stepsOf, type Compiled } from './compile.ts';
export * from './ledger.ts';
export * from './moment.ts';
export * from './outcome.ts';
export type { OutsideEvent, Session } from './running.ts';
export * from './session.ts';
export { createSession, type SessionOptions } from './start.ts';
export { TooManyChanges, TooManyContacts } from './state.ts';
