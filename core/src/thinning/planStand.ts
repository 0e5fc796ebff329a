import type { Point } from '../geometry/index.ts';
import type { StandTree } from '../stand/index.ts';
import type { SideState } from './card.ts';
import type { HoldReason } from './fate.ts';

/**
 * How much a stand should hold. Two schools, neither of them harmful:
 *
 * - Timber guides for northern hardwoods go by basal area: at the diameters of a sugarbush, leave a stand alone below about
 *   17 to 18 m2/ha (Leak, Solomon & DeBald 1987, NE-603; from memory).
 * - Sugarbush guides go by crowns: few trees with wide, open-grown crowns, whose crowns would fill the ground again (Smith &
 *   Gibbs 1970; Lancaster et al. 1974; Houston, Allen & Lachance 1990; all from memory). At 25 to 30 cm that is 11 to
 *   13 m2/ha.
 */
export const STOCKING_GUIDES = ['timber', 'sugarbush'] as const;
export type StockingGuide = (typeof STOCKING_GUIDES)[number];

/** A tree of the stand as the plan sees it. */
export interface PlanTree {
  readonly tree: StandTree;
  /** a crop tree; never taken */
  readonly crop: boolean;
  /** of a crop tree: 0 to 1, its points over a hundred */
  readonly weight: number;
  /** why it is never taken; null for one that may be */
  readonly hold: HoldReason | null;
  /** taken in any case: a hazard that has to go, a mark that the steward wants kept */
  readonly must: boolean;
  /** taps that the tree carries now, lost when it goes, and those that it would carry in twenty years */
  readonly taps: number;
  readonly tapsLater: number;
  /** 0 to 1: how surely it dies anyway */
  readonly dying: number;
  readonly maple: boolean;
}

/** A stand before an entry. */
export interface PlanStand {
  readonly trees: readonly PlanTree[];
  /** sides of each crop tree's crown, by id */
  readonly sides: ReadonlyMap<string, readonly SideState[]>;
  readonly areaHa: number;
  /** null where none was drawn: openings are not looked for then */
  readonly outline: readonly Point[] | null;
  /** trees beyond the stand's edge: they shade its ground and stay */
  readonly around: readonly StandTree[];
}

/** What one entry may do. */
export interface PlanLimits {
  /** share of the basal area taken at the most */
  readonly share: number;
  /** by which guides the stand is judged full: basal area that stays, or room for open-grown crowns */
  readonly guide: StockingGuide;
  /** by the timber guides: basal area that stays at least, m2/ha; 0 for no floor */
  readonly residualM2PerHa: number;
  /** share of the ground that stays under crowns, at least; 0 for none */
  readonly cover: number;
  /** share of the basal area left that is no maple, at least */
  readonly othersShare: number;
  /** no opening wider than this comes about, metres; null for any */
  readonly openingM: number | null;
  /** what a lost tap costs, in hundredths of a crop tree fully freed */
  readonly tapCost: number;
}

/**
 * A quarter to a third of the basal area at the most is common practice; the floor is that of the timber guides (Leak,
 * Solomon & DeBald 1987, NE-603; from memory); the others are working assumptions.
 */
export const DEFAULT_LIMITS: PlanLimits = {
  share: 0.3,
  guide: 'timber',
  residualM2PerHa: 17,
  cover: 0.7,
  othersShare: 0.1,
  openingM: 15,
  tapCost: 30
};
