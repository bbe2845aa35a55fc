export * from './files.ts';
export * from './words.ts';
