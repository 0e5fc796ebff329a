export { carryOn, renew, ROTATION_PLANNER, TRUST, UNSETTLED, type Renewed } from './carry.ts';
export {
  compareStrategies,
  foresightFrontier,
  livedRotation,
  rotationTaskOf,
  type CompareOptions,
  type FrontierPoint,
  type LivedStrategy
} from './compare.ts';
export * from './foresight.ts';
export * from './kernel.ts';
export * from './pace.ts';
export * from './place.ts';
export {
  apart,
  DROP_SLACK_MM,
  outOfReach,
  type Defect,
  type DropLine,
  type KeptRotation,
  type PlacementTask
} from './placementTask.ts';
export * from './plan.ts';
export * from './practiceTrunk.ts';
export * from './price.ts';
export { HiddenTrunk, liveThrough, type Drilled, type PlacementRule, type RuleRun, type RuleTree } from './rules.ts';
export * from './strategies.ts';
export {
  seasonsToPlan,
  weightsOf,
  type MeantHole,
  type PastHole,
  type PlannedHole,
  type RotationTask
} from './task.ts';
