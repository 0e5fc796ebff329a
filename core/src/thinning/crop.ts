import { isMaple, speciesById, type SpeciesId } from '../identify/index.ts';
import type { CrownClass } from '../measure/index.ts';
import type { DefectKind, HazardKind } from '../taps/index.ts';
import { vigourClass } from '../taps/index.ts';

/** What the choice of crop trees asks of a tree. */
export interface CropCandidate {
  readonly id: string;
  readonly species: SpeciesId | null;
  /** is it known to be a maple? Its species may still be open */
  readonly maple: boolean;
  readonly dbhMm: number;
  readonly eastM: number;
  readonly northM: number;
  readonly ringMm: number;
  readonly diebackPct: number | null;
  readonly crownClass: CrownClass | null;
  readonly defects: readonly DefectKind[];
  readonly hazards: readonly HazardKind[];
  /** age of its oldest open hole, years; 0 where all have closed, null where nobody looked */
  readonly oldestOpenHoleYears: number | null;
  /** stress that it has not got over; null where nobody said */
  readonly stressed: boolean | null;
}

/** One thing that a tree gets points for, with what was seen of it; null where nobody looked. */
export type CropPart = { readonly points: number; readonly most: number } & (
  | { readonly of: 'species'; readonly sweet: boolean }
  | { readonly of: 'crown'; readonly diebackPct: number | null }
  | { readonly of: 'crownClass'; readonly crownClass: CrownClass | null }
  | { readonly of: 'trunk'; readonly fault: 'none' | 'defects' | 'includedFork' }
  | { readonly of: 'size' | 'growth' }
  | { readonly of: 'closing'; readonly stressed: boolean; readonly openYears: number | null }
);

/** Hazards with which no tree is favoured, whatever else it is. */
export const BARRING_HAZARDS = [
  'deadTop',
  'hollowButt',
  'splitFork',
  'rootPlate',
  'conks',
  'hungUp',
  'brokenTop'
] as const satisfies readonly HazardKind[];
export type BarringHazard = (typeof BARRING_HAZARDS)[number];
const bars = (hazard: HazardKind): hazard is BarringHazard => BARRING_HAZARDS.some((kind) => kind === hazard);

export interface CropScore {
  /** 0 to 100 */
  readonly score: number;
  readonly parts: readonly CropPart[];
  /** why it can be no crop tree, whatever its points; null where nothing bars it */
  readonly barred:
    | { readonly why: 'notMaple' }
    | { readonly why: 'dieback'; readonly pct: number }
    | { readonly why: 'hazard'; readonly hazard: BarringHazard }
    | null;
}

/** Fewer points make no crop tree unless the steward pins it. */
export const MIN_CROP_SCORE = 45;

/** Points of a crop tree by its crown class. Working assumption. */
const CLASS_POINTS: Readonly<Record<CrownClass, number>> = {
  dominant: 20,
  codominant: 18,
  open: 14,
  intermediate: 7,
  suppressed: 0
};
/** Points that a defect takes from a crop tree. Working assumption. */
const DEFECT_POINTS: Readonly<Record<DefectKind, number>> = {
  seam: 6,
  frostCrack: 6,
  canker: 8,
  hollow: 15,
  decay: 12,
  split: 15,
  wound: 5,
  peeled: 8,
  sunscald: 5,
  rootDamage: 8,
  borers: 8,
  swelling: 3,
  vines: 2,
  metal: 2
};
/** Points that a fork with included bark costs. Working assumption. */
const INCLUDED_FORK = 9;
/**
 * How much a tree deserves to be favoured: sound, vigorous, well-crowned maple of a size that will answer. The weights are
 * working assumptions; what they weigh is common practice.
 */
export function cropScore(tree: CropCandidate): CropScore {
  const sweet = tree.species && isMaple(tree.species) ? speciesById(tree.species).sap : null;
  const vigour = tree.diebackPct === null ? null : vigourClass(tree.diebackPct);
  const lost = tree.defects.reduce((sum, kind) => sum + DEFECT_POINTS[kind], 0);
  const fork = tree.hazards.includes('includedBark');
  const open = tree.oldestOpenHoleYears;
  const parts: readonly CropPart[] = [
    { of: 'species', sweet: sweet === 'sweet', ...points(25, sweet === 'sweet' ? 25 : tree.maple ? 12 : 0) },
    {
      of: 'crown',
      diebackPct: tree.diebackPct,
      ...points(25, vigour === null ? 15 : { healthy: 25, light: 14, moderate: 4, severe: 0, dead: 0 }[vigour])
    },
    {
      of: 'crownClass',
      crownClass: tree.crownClass,
      ...points(20, tree.crownClass ? CLASS_POINTS[tree.crownClass] : 12)
    },
    {
      of: 'trunk',
      fault: fork ? 'includedFork' : lost === 0 ? 'none' : 'defects',
      ...points(15, Math.max(0, 15 - lost - (fork ? INCLUDED_FORK : 0)))
    },
    // Release answers best at 10 to 30 cm (common practice); very thick trees answer little.
    {
      of: 'size',
      ...points(6, tree.dbhMm < 100 ? 2 : tree.dbhMm <= 300 ? 6 : tree.dbhMm <= 500 ? 5 : tree.dbhMm <= 650 ? 3 : 1)
    },
    { of: 'growth', ...points(4, Math.min(4, (4 * tree.ringMm) / 1.8)) },
    // Closing is the earliest sign of vigour.
    {
      of: 'closing',
      stressed: tree.stressed === true,
      openYears: open,
      ...points(5, (open === null ? 3 : open === 0 ? 5 : open < 3 ? 3 : 0) * (tree.stressed ? 0.4 : 1))
    }
  ];
  const hazard = tree.hazards.find(bars);
  return {
    score: Math.round(parts.reduce((sum, part) => sum + part.points, 0)),
    parts,
    barred: !tree.maple
      ? { why: 'notMaple' }
      : vigour === 'dead' || vigour === 'severe'
        ? { why: 'dieback', pct: tree.diebackPct! }
        : hazard
          ? { why: 'hazard', hazard }
          : null
  };
}

const points = (most: number, earned: number) => ({ points: Math.round(10 * earned) / 10, most });
