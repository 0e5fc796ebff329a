export * from './angles.ts';
export * from './hash.ts';
export * from './logistic.ts';
export * from './mixedModel.ts';
export * from './normal.ts';
export * from './rng.ts';
export * from './statistics.ts';
