import type { BarkSpot } from '../geometry/index.ts';
import { toRadians } from '../math/index.ts';
import type { DefectKind } from '../taps/index.ts';
import {
  alongSurface,
  shorterWay,
  type ColumnModel,
  type DrillPractice,
  type SeenShavings,
  type Trunk,
  type TrunkFeatureKind
} from '../trunk/index.ts';
import { SIDEWAYS_APART_MM } from './board.ts';
import type { Foresight } from './foresight.ts';
import type { PlacementStrategyId } from './strategies.ts';
import type { PlannedHole } from './task.ts';

/** A place on the trunk that a hole keeps away from: a wound, seam, limb or root. */
export interface Defect extends BarkSpot {
  readonly marginMm: number;
  /** what it is; a defect of some kind where nobody said */
  readonly what?: DefectKind | TrunkFeatureKind;
}

/** Where a drop line hangs from, and how far a spout can be from there. */
export interface DropLine extends BarkSpot {
  readonly lengthMm: number;
}

/** What a placement is computed from: plain data, so that it travels to a worker. */
export interface PlacementTask {
  readonly trunk: Trunk;
  readonly practice: DrillPractice;
  readonly model: ColumnModel;
  readonly seed: number;
  /** possible truths that every place is judged against */
  readonly draws: number;
  readonly cellMm: number;
  readonly ringMm: number;
  /** relative uncertainty of the ring width */
  readonly ringCv: number;
  /** holes to propose */
  readonly wanted: number;
  /** holes of a season, those that are drilled already included; 0 where no seasons are to be planned */
  readonly taps: number;
  /** this season's holes that are drilled already: new ones keep their distance from them */
  readonly taken?: readonly BarkSpot[];
  readonly keepOff?: readonly Defect[];
  readonly line?: DropLine | null;
  readonly seen?: readonly SeenShavings[];
  readonly strategy?: PlacementStrategyId;
  /** sides, bearings in degrees, that are liked better between equally clear places */
  readonly favoured?: readonly number[];
  /** the band within reach in the seasons to come, where snow lifts or narrows this season's */
  readonly usual?: { readonly lowestMm: number; readonly highestMm: number };
  /** what early and late losses count for; a generation's where nothing is said */
  readonly foresight?: Foresight;
  /** what was planned before; null before the first plan */
  readonly kept?: KeptRotation | null;
}

/** A plan that was kept. */
export interface KeptRotation {
  /** its holes that are not drilled yet, with the losses that were expected, counted from the season that is placed */
  readonly holes: readonly PlannedHole[];
  /**
   * `settled`: nothing was learned since it was made; `carry`: see whether it holds what it promised; `anew`: see whether another
   * is better in any case
   */
  readonly look: 'settled' | 'carry' | 'anew';
}

const sideways = (trunk: Trunk, a: BarkSpot, b: BarkSpot) =>
  Math.abs(shorterWay(alongSurface(trunk, a.bearingDeg - b.bearingDeg), 2 * Math.PI * trunk.woodRadiusMm));

/** How far two places are from each other on the wood, mm. */
export const apart = (trunk: Trunk, a: BarkSpot, b: BarkSpot) =>
  Math.hypot(sideways(trunk, a, b), a.heightMm - b.heightMm);

/** Are two holes too near to each other to be of one season? */
export const crowded = (trunk: Trunk, { spacingMm }: Pick<DrillPractice, 'spacingMm'>, a: BarkSpot, b: BarkSpot) =>
  sideways(trunk, a, b) < SIDEWAYS_APART_MM || apart(trunk, a, b) < spacingMm;

/** A drop line needs this much to spare, mm. Working assumption. */
export const DROP_SLACK_MM = 100;

/** Sap runs down a drop line: the spout is above the tubing and no farther than the line is long. */
export function outOfReach(trunk: Trunk, spot: BarkSpot, line: DropLine, spareMm = 0): boolean {
  return spot.heightMm < line.heightMm + spareMm || apart(trunk, spot, line) > line.lengthMm - DROP_SLACK_MM - spareMm;
}

/** How near a side is to one that is liked better, 0..1; 1 where none is. */
export function liking(favoured: readonly number[], bearingDeg: number): number {
  if (favoured.length === 0) return 1;
  return Math.max(...favoured.map((side) => (1 + Math.cos(toRadians(bearingDeg - side))) / 2));
}
