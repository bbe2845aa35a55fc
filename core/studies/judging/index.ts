export * from './asks.ts';
export * from './dials.ts';
export * from './figures.ts';
export * from './seek.ts';
export * from './sensitivity.ts';
export * from './studies.ts';
export * from './sweep.ts';
export * from './targets.ts';
