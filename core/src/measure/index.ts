export * from './dbh.ts';
export * from './expectedRing.ts';
export * from './growth.ts';
export * from './guard.ts';
export * from './method.ts';
export * from './mixedColumn.ts';
export * from './rings.ts';
export * from './sizes.ts';
