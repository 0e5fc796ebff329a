export { HiddenTrunk, liveThrough, type Drilled, type Habit, type HabitRun, type HabitTree } from './habits.ts';
export * from './compare.ts';
export * from './kernel.ts';
export * from './pace.ts';
export * from './place.ts';
export * from './plan.ts';
export * from './schools.ts';
