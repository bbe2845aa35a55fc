export * from './angles.ts';
export * from './curve.ts';
export * from './grid.ts';
export * from './shapes.ts';
export * from './slide.ts';
export * from './sweep.ts';
export * from './track.ts';
export * from './vector.ts';
