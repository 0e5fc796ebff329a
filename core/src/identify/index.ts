export * from './characters.ts';
export * from './judge.ts';
export * from './species.ts';
