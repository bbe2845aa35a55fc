export * from './hash.ts';
export * from './order.ts';
export * from './parse.ts';
export * from './quantities.ts';
export * from './schema.ts';
export * from './tags.ts';
