export * from './finding.ts';
export * from './findings.ts';
export { MISTAKES } from './mistakes.ts';
