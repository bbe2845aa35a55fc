export * from './angles.ts';
export * from './grid.ts';
export * from './slide.ts';
export * from './sweep.ts';
export * from './track.ts';
