export { HiddenTrunk, liveThrough, type Drilled, type PlacementRule, type RuleRun, type RuleTree } from './rules.ts';
export * from './compare.ts';
export * from './foresight.ts';
export * from './kernel.ts';
export * from './pace.ts';
export * from './place.ts';
export * from './plan.ts';
export * from './strategies.ts';
