export * from './declare.ts';
export * from './derive.ts';
export * from './outstanding.ts';
export * from './rule.ts';
export * from './schema.ts';
export * from './season.ts';
export * from './swap.ts';
export * from './text.ts';
