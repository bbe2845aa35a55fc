export * from './compare.ts';
export * from './run.ts';
export * from './seek.ts';
export * from './simulate.ts';
export * from './walker.ts';
