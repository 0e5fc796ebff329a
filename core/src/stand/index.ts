export * from './basal.ts';
export * from './collect.ts';
export * from './crown.ts';
export * from './crownPractice.ts';
export * from './hazard.ts';
export * from './sides.ts';
export * from './walk.ts';
