import type { Point } from '../geometry/index.ts';
import {
  CLEAR_TREE_LENGTHS,
  heightOf,
  positionSd,
  withinReach,
  type Reach,
  type SiteFeatureKind,
  type StandTree
} from '../stand/index.ts';
import { isDoomed } from './mortality.ts';
import type { DefectKind, HazardKind, WildlifeKind } from '../taps/index.ts';

/** What a mark asks for. */
export const MARK_PURPOSES = ['take', 'girdle', 'keep', 'watch', 'brace'] as const;
export type MarkPurpose = (typeof MARK_PURPOSES)[number];

/** What a tree may be kept for beside its taps. */
export const KEPT_FOR = ['home', 'lastOfKind', 'seed', 'fibre', 'handles', 'nuts', 'story', 'other'] as const;
export type KeptFor = (typeof KEPT_FOR)[number];

/** Marks after which a tree shades nobody any more. */
export function releases(purpose: MarkPurpose | null): boolean {
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
  /** counted on to die: dying ash and beech are brittle */
  readonly brittle: boolean;
  /**
   * One for trained fallers: anything of the above but wildlife, and every tree that nobody looked up at. That nothing is
   * noted never means that it is safe
   */
  readonly trained: boolean;
  /** how far everybody stays away, metres (29 CFR 1910.266(d)(6)(ii)) */
  readonly clearM: number;
  /** was it looked at at all? */
  readonly lookedAt: boolean;
}

/** Defects of the trunk that make a tree one for trained fallers. */
const UNSOUND: readonly DefectKind[] = ['split', 'decay', 'rootDamage', 'vines', 'metal'];
/** Ash and beech with no more dieback than this are not dying. Working assumption. */
export const SOUND_PCT = 10;
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
  const reaches = placed ? withinReach(tree, heightM, features, positionSd(tree)) : [];
  const deadCrown = (diebackPct ?? 0) >= MOSTLY_DEAD_PCT;
  const brittle = isDoomed(tree.species) && (diebackPct ?? 100) > SOUND_PCT;
  const hollow = defects.includes('hollow') || hazards.includes('hollowButt');
  return {
    hazards,
    deadCrown,
    hollow,
    reaches,
    wildlife,
    brittle,
    trained:
      diebackPct === null ||
      brittle ||
      hazards.length > 0 ||
      deadCrown ||
      hollow ||
      defects.some((kind) => UNSOUND.includes(kind)) ||
      reaches.length > 0,
    clearM: CLEAR_TREE_LENGTHS * heightM,
    lookedAt: diebackPct !== null
  };
}

/** What a girdled tree will stand over while it dies. */
export interface GirdlingCaution<F> {
  readonly reaches: readonly Reach<F>[];
  /** tapped trees within two lengths: somebody works there every year */
  readonly taps: number;
}

/** What lies within two lengths of a tree that is to die standing: it drops limbs for years. */
export function girdlingCaution<F extends Feature>(
  tree: StandTree,
  features: readonly F[],
  tapped: readonly StandTree[]
): GirdlingCaution<F> {
  const clearM = CLEAR_TREE_LENGTHS * heightOf(tree);
  return {
    reaches: withinReach(tree, heightOf(tree), features, positionSd(tree)),
    taps: tapped.filter(
      (other) => other.id !== tree.id && Math.hypot(other.eastM - tree.eastM, other.northM - tree.northM) <= clearM
    ).length
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

/** Should the stand be left alone for now? One whose trees are under stress in part is not to be opened. */
export function entryWarning(trees: readonly { readonly stressed: boolean | null }[]): EntryWarning {
  const looked = trees.filter(({ stressed }) => stressed !== null);
  const stressedShare = looked.length === 0 ? 0 : looked.filter(({ stressed }) => stressed).length / looked.length;
  return { stressedShare, wait: stressedShare >= STRESSED_FROM };
}
