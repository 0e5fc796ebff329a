export * from './balance.ts';
export * from './boiling.ts';
export * from './density.ts';
export * from './keeping.ts';
export * from './rule.ts';
export * from './wish.ts';
