import { isMaple, speciesById, type SpeciesId } from '../identify/index.ts';
import type { CrownClass } from '../measure/index.ts';
import type { DefectKind, HazardKind } from '../taps/index.ts';
import { vigourClass } from '../taps/index.ts';
import type { Program, Solver } from './solver.ts';

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

export interface CropWish {
  /** crop trees keep at least this distance, metres */
  readonly spacingM: number;
  /** chosen whatever their points or neighbours */
  readonly pinned: ReadonlySet<string>;
  readonly vetoed: ReadonlySet<string>;
  readonly leastScore?: number;
}

/** A scored tree with its place. */
export interface ScoredTree extends CropCandidate {
  readonly score: CropScore;
}

/**
 * The crop trees: of all sets that keep the spacing, the one with most points (a maximum-weight independent set, solved
 * exactly). Two pinned trees may stand closer; nobody else may stand closer to them.
 * @returns ids; the gap is what the solver could not prove
 */
export function chooseCropTrees(
  trees: readonly ScoredTree[],
  { spacingM, pinned, vetoed, leastScore = MIN_CROP_SCORE }: CropWish,
  solve: Solver
): { ids: string[]; gap: number } {
  const firm = trees.filter(({ id }) => pinned.has(id));
  const apart = (a: ScoredTree, b: ScoredTree) => Math.hypot(a.eastM - b.eastM, a.northM - b.northM) >= spacingM;
  const open = trees.filter(
    (tree) =>
      !pinned.has(tree.id) &&
      !vetoed.has(tree.id) &&
      tree.score.barred === null &&
      tree.score.score >= leastScore &&
      firm.every((other) => apart(tree, other))
  );
  const answer = solve(spacingProgram(open, spacingM, apart));
  const chosen = open.filter((_, i) => answer.values![i]! > 0.5);
  return { ids: [...firm, ...chosen].map(({ id }) => id), gap: answer.gap };
}

/**
 * One row a pair that is too close would do; a square whose diagonal is the spacing holds one tree at the most, which says
 * the same of many pairs at once and is the stronger for it.
 */
function spacingProgram(
  open: readonly ScoredTree[],
  spacingM: number,
  apart: (a: ScoredTree, b: ScoredTree) => boolean
): Program {
  const rows: Program['rows'][number][] = [];
  const said = new Set<number>();
  const pair = (a: number, b: number) => Math.min(a, b) * open.length + Math.max(a, b);
  const side = spacingM / Math.SQRT2 - 1e-9;
  const byEast = open.map((_, i) => i).sort((a, b) => open[a]!.eastM - open[b]!.eastM);
  byEast.forEach((i, at) => {
    const { eastM: west, northM } = open[i]!;
    const strip: number[] = [];
    for (let k = at; k < byEast.length && open[byEast[k]!]!.eastM < west + side; k++) strip.push(byEast[k]!);
    for (const j of strip) {
      const south = open[j]!.northM;
      if (south > northM || south <= northM - side) continue;
      const clique = strip.filter((k) => open[k]!.northM >= south && open[k]!.northM < south + side);
      if (clique.length < 2) continue;
      rows.push({ lower: -Infinity, upper: 1, terms: clique.map((k) => [k, 1]) });
      for (const a of clique) for (const b of clique) if (a !== b) said.add(pair(a, b));
    }
  });
  byEast.forEach((i, at) => {
    for (let k = at + 1; k < byEast.length && open[byEast[k]!]!.eastM < open[i]!.eastM + spacingM; k++) {
      const j = byEast[k]!;
      if (!said.has(pair(i, j)) && !apart(open[i]!, open[j]!))
        rows.push({
          lower: -Infinity,
          upper: 1,
          terms: [
            [i, 1],
            [j, 1]
          ]
        });
    }
  });
  return { columns: open.map(({ score }) => ({ gain: score.score, lower: 0, upper: 1, whole: true })), rows };
}

/** Spacings that are tried, widest first, metres. */
const SPACINGS_M = [12, 11, 10, 9, 8, 7, 6, 5] as const;

/**
 * The widest spacing that still gives the wished taps: wide spacing frees crowns, narrow spacing keeps taps.
 * @param wish with the taps wished in all, and those that each crop tree carries
 * @returns the last one tried where none gives as many
 */
export function spacingForTaps(
  trees: readonly ScoredTree[],
  wish: Omit<CropWish, 'spacingM'> & { readonly taps: number; readonly tapsOf: (id: string) => number },
  solve: Solver
): { spacingM: number; ids: string[]; taps: number; enough: boolean } {
  let last: { spacingM: number; ids: string[]; taps: number; enough: boolean } | null = null;
  for (const spacingM of SPACINGS_M) {
    const { ids } = chooseCropTrees(trees, { ...wish, spacingM }, solve);
    const taps = ids.reduce((sum, id) => sum + wish.tapsOf(id), 0);
    last = { spacingM, ids, taps, enough: taps >= wish.taps };
    if (last.enough) break;
  }
  return last!;
}
