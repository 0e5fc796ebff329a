export * from './habits.ts';
export * from './kernel.ts';
export * from './plan.ts';
export * from './schools.ts';
