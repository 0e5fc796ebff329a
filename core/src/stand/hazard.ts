import { distanceToShape, type GroundPoint, type Point } from '../geometry/index.ts';

/**
 * What a falling tree could reach. Two tree lengths are kept clear when felling (29 CFR 1910.266(d)(6)(ii)); a building,
 * path or wire inside them makes the tree one for trained fallers. Nothing here ever says that a tree is safe to fell.
 */

export type SiteFeatureKind = 'building' | 'path' | 'line' | 'water' | 'fence' | 'boundary' | 'entrance';

/** What people or wires may be at. The others are on the map, but a tree may fall towards them. */
const THREATENED: readonly SiteFeatureKind[] = ['building', 'path', 'line'];

/** Clear distance in lengths of the tree. Source: 29 CFR 1910.266(d)(6)(ii). */
export const CLEAR_TREE_LENGTHS = 2;

export interface Reach<F> {
  readonly feature: F;
  /** from the trunk to the nearest part of it, metres; 0 inside a building's outline */
  readonly distanceM: number;
  /** closer than the tree is long: it can be hit directly */
  readonly withinOneLength: boolean;
}

/**
 * Buildings, paths and lines within two tree lengths of a trunk, nearest first.
 * @param heightM of the tree
 * @param roughM how far off the tree's place may be, one standard deviation: it is taken to stand two of them nearer
 */
export function withinReach<F extends { readonly kind: SiteFeatureKind; readonly points: readonly Point[] }>(
  { eastM, northM }: GroundPoint,
  heightM: number,
  features: readonly F[],
  roughM = 0
): Reach<F>[] {
  return features
    .filter((feature) => THREATENED.includes(feature.kind))
    .map((feature) => ({
      feature,
      distanceM: Math.max(0, distanceToShape([eastM, northM], feature.points, feature.kind === 'building') - 2 * roughM)
    }))
    .filter(({ distanceM }) => distanceM <= CLEAR_TREE_LENGTHS * heightM)
    .sort((a, b) => a.distanceM - b.distanceM)
    .map((reach) => ({ ...reach, withinOneLength: reach.distanceM <= heightM }));
}
