export { PHASES, REASONS, type PhaseName, type Reason } from './codes.ts';
export { compile, stepsOf, type Compiled } from './compile.ts';
export { TooManyContacts } from './contacts.ts';
export * from './ledger.ts';
export * from './moment.ts';
export * from './outcome.ts';
export type { Session } from './running.ts';
export * from './session.ts';
