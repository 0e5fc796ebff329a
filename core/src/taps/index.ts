export * from './balance.ts';
export * from './condition.ts';
export * from './ladder.ts';
export * from './suggest.ts';
export * from './worth.ts';
