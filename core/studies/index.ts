export * from './heat.ts';
export * from './intervals.ts';
export * from './measures.ts';
export * from './report.ts';
export * from './row.ts';
export * from './schema.ts';
export * from './settings.ts';
export * from './shard.ts';
