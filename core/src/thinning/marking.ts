import {
  CLEAR_TREE_LENGTHS,
  heightOf,
  positionSd,
  withinReach,
  type Point,
  type Reach,
  type SiteFeatureKind,
  type StandTree
} from '../stand/index.ts';
import type { DefectKind, HazardKind, WildlifeKind } from '../taps/index.ts';

/** What a mark asks for. */
export const MARK_PURPOSES = ['take', 'girdle', 'keep', 'watch', 'brace'] as const;
export type MarkPurpose = (typeof MARK_PURPOSES)[number];

/** Marks after which a tree shades nobody any more. */
export function frees(purpose: MarkPurpose | null): boolean {
  return purpose === 'take' || purpose === 'girdle';
}

/** What was seen of a tree that is to come down. */
export interface TreeToFell {
  readonly tree: StandTree;
  readonly diebackPct: number | null;
  readonly defects: readonly DefectKind[];
  readonly hazards: readonly HazardKind[];
  readonly wildlife: readonly WildlifeKind[];
}

type Feature = { readonly kind: SiteFeatureKind; readonly points: readonly Point[] };

export interface Cautions<F> {
  /** hazards that were seen on it */
  readonly hazards: readonly HazardKind[];
  /** a crown that is mostly dead drops what it likes */
  readonly deadCrown: boolean;
  readonly hollow: boolean;
  /** buildings, paths and lines within two tree lengths */
  readonly reaches: readonly Reach<F>[];
  readonly wildlife: readonly WildlifeKind[];
  /** one for trained fallers: anything of the above but wildlife. That nothing is noted never means that it is safe */
  readonly trained: boolean;
  /** how far everybody stays away, metres (29 CFR 1910.266(d)(6)(ii)) */
  readonly clearM: number;
  /** was it looked at at all? */
  readonly lookedAt: boolean;
}

/** Dieback from which a crown counts as mostly dead. Working assumption. */
const MOSTLY_DEAD_PCT = 50;

/**
 * What speaks for a trained faller at a tree. Nothing here ever says that a tree is safe to fell.
 * @param tree null place: what it could reach is then not known
 */
export function fellingCautions<F extends Feature>(
  { tree, diebackPct, defects, hazards, wildlife }: TreeToFell,
  features: readonly F[],
  placed = true
): Cautions<F> {
  const heightM = heightOf(tree);
  const reaches = placed ? withinReach(tree.eastM, tree.northM, heightM, features, positionSd(tree)) : [];
  const deadCrown = (diebackPct ?? 0) >= MOSTLY_DEAD_PCT;
  const hollow = defects.includes('hollow') || hazards.includes('hollowButt');
  return {
    hazards,
    deadCrown,
    hollow,
    reaches,
    wildlife,
    trained: hazards.length > 0 || deadCrown || hollow || defects.includes('split') || reaches.length > 0,
    clearM: CLEAR_TREE_LENGTHS * heightM,
    lookedAt: diebackPct !== null
  };
}

/** What speaks against an entry this year, for the whole stand. */
export interface EntryWarning {
  /** share of the trees that somebody looked at which were stressed: defoliation, drought, ice */
  readonly stressedShare: number;
  readonly wait: boolean;
}

/** From this share on, a thinning waits a year. Working assumption; that it waits is common practice. */
const STRESSED_FROM = 0.2;

export function entryWarning(trees: readonly { readonly stressed: boolean | null }[]): EntryWarning {
  const looked = trees.filter(({ stressed }) => stressed !== null);
  const stressedShare = looked.length === 0 ? 0 : looked.filter(({ stressed }) => stressed).length / looked.length;
  return { stressedShare, wait: stressedShare >= STRESSED_FROM };
}
