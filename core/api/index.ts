export * from './breakage.ts';
export * from './limits.ts';
export * from './patch.ts';
export * from './shapes.ts';
