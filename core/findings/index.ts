export { crowdFindings, EVIDENCE, runFindings, unfeltFindings } from './evidence/evidence.ts';
export * from './finding.ts';
export * from './findings.ts';
export { MISTAKES } from './mistakes.ts';
