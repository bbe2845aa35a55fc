export * from './nearest.ts';
export * from './spanSums.ts';
export * from './compare.ts';
export * from './routeFromRun.ts';
export * from './run.ts';
export * from './seek.ts';
export * from './simulate.ts';
export * from './walker.ts';
