import { toRadians, type Rng } from '../math/index.ts';
import { columnHalfLength, type Column, type OldHole } from './column.ts';
import { columnsBehind, type BitPath, type ColumnModel } from './defaults.ts';
import { alongSurface, type Trunk } from './trunk.ts';

/**
 * One possible truth about a trunk: every column that a new hole could still meet. Columns that straddle the line where
 * the unrolled trunk is cut are held once; askers wrap their own distances.
 */
export type TrunkDraw = readonly Column[];

/** What nobody sees of one hole: how far it is from where it was recorded, and how large its column became. */
export interface HoleTruth {
  readonly leftMm: number;
  readonly upMm: number;
  /** volume of its column over its own, before the tree's factor */
  readonly ratio: number;
  readonly halfWidthMm: number;
  /** wood over it, before the factor on the tree's growth, mm */
  readonly buriedMm: number;
  /** is it there at all? */
  readonly there: boolean;
}

/** What nobody sees of one trunk. */
export interface TrunkTruth {
  readonly leanDeg: number;
  /** logarithm of the factor on the volume of all its columns */
  readonly logSize: number;
  /** factor on the growth since its holes were drilled */
  readonly growth: number;
  readonly holes: readonly HoleTruth[];
}

/**
 * Trees differ in how large their columns get, and within a tree the holes do: this much of the logarithm's spread is the
 * tree's. Working assumption; the two together make the model's spread.
 */
export const TREE_SIZE_SIGMA = 0.3;

/** One way in which the wood of a trunk may be, as far as anybody knows. @param ringCv relative uncertainty of the growth that buried the holes (0 = taken as known) */
export function drawTruth(trunk: Trunk, model: ColumnModel, rng: Rng, ringCv = 0): TrunkTruth {
  return {
    leanDeg: rng.normal(model.grainMeanDeg, model.grainSdDeg),
    logSize: rng.normal(0, TREE_SIZE_SIGMA),
    growth: drawGrowthFactor(rng, ringCv),
    holes: trunk.holes.map((hole) => drawHole(hole, model, rng))
  };
}

/** How much more or less than recorded a tree has grown over its holes. @param ringCv relative uncertainty */
export function drawGrowthFactor(rng: Rng, ringCv: number): number {
  return Math.max(0, rng.normal(1, ringCv));
}

/** Spread of the logarithm of a hole's column among the holes of one tree. */
export function holeSizeSigma(model: ColumnModel): number {
  return Math.sqrt(Math.max(0, model.volumeRatioSigma ** 2 - TREE_SIZE_SIGMA ** 2));
}

/** How far a hole may be from where it was recorded, 1 sd, mm. */
export function placeErrors({ hand = 1, unsure }: OldHole, model: ColumnModel): { sidewaysMm: number; upMm: number } {
  return {
    sidewaysMm: Math.hypot(hand * model.positionSdSidewaysMm, unsure?.sidewaysMm ?? 0),
    upMm: Math.hypot(hand * model.positionSdUpMm, unsure?.upMm ?? 0)
  };
}

/** What is believed of a hole before any look: how far it is from its place, and the log-normals of its column. */
export interface HolePrior {
  readonly sidewaysMm: number;
  readonly upMm: number;
  readonly ratio: LogNormal;
  readonly margin: LogNormal;
}

/** A log-normal quantity: how far a value is from its median, in standard deviations of the logarithm. */
export interface LogNormal {
  readonly sigma: number;
  readonly offOf: (value: number) => number;
}

/** What is believed of a hole of a bush before any look. */
export function priorOf(hole: OldHole, model: ColumnModel): HolePrior {
  const columns = columnsBehind(hole, model);
  return {
    ...placeErrors(hole, model),
    ratio: logNormal(columns.volumeRatioMedian, holeSizeSigma(columns)),
    margin: logNormal(columns.sideMarginMedianMm, columns.sideMarginSigma)
  };
}

function logNormal(median: number, sigma: number): LogNormal {
  return { sigma, offOf: sigma > 0 ? (value) => Math.log(value / median) / sigma : () => 0 };
}

/** One way in which the column of a hole may lie, as far as anybody knows. */
export function drawHole(hole: OldHole, model: ColumnModel, rng: Rng): HoleTruth {
  const { unsure } = hole;
  const { sidewaysMm, upMm } = placeErrors(hole, model);
  const columns = columnsBehind(hole, model);
  return {
    leftMm: rng.normal(0, sidewaysMm),
    upMm: rng.normal(0, upMm),
    ratio: rng.logNormal(columns.volumeRatioMedian, holeSizeSigma(columns)),
    halfWidthMm: hole.bitMm / 2 + rng.logNormal(columns.sideMarginMedianMm, columns.sideMarginSigma),
    buriedMm: unsure ? unsure.buriedFromMm + rng.uniform() * (unsure.buriedToMm - unsure.buriedFromMm) : hole.buriedMm,
    there: unsure?.chance === undefined || rng.uniform() < unsure.chance
  };
}

/** An error of a hole's bearing has grown with the trunk: by this factor since so much wood was laid. */
export function widenedSince({ woodRadiusMm }: Trunk, laidMm: number): number {
  return woodRadiusMm / Math.max(woodRadiusMm / 4, woodRadiusMm - laidMm);
}

/** A hole's column as it lies in today's trunk under a truth: under endless wood where there is no such hole in it. */
export function columnOf(trunk: Trunk, truth: TrunkTruth, index: number): Column {
  const hole = trunk.holes[index]!;
  const { leftMm, upMm, ratio, halfWidthMm, buriedMm, there } = truth.holes[index]!;
  const fromDepthMm = there ? buriedMm * truth.growth : Infinity;
  return {
    hole: index,
    leftMm: alongSurface(trunk, hole.bearingDeg) + leftMm * widenedSince(trunk, fromDepthMm),
    heightMm: hole.heightMm + upMm,
    halfWidthMm,
    halfLengthMm: columnHalfLength(ratio * Math.exp(truth.logSize), hole.bitMm, halfWidthMm),
    lean: Math.tan(toRadians(truth.leanDeg)),
    fromDepthMm,
    toDepthMm: fromDepthMm + hole.depthMm
  };
}

/** The columns of a truth that a hole of this depth could still meet. */
export function columnsWithin(trunk: Trunk, truth: TrunkTruth, depthMm: number): TrunkDraw {
  return trunk.holes.flatMap((_, index) => {
    const column = columnOf(trunk, truth, index);
    return column.fromDepthMm < depthMm ? column : [];
  });
}

/** A trunk with possible truths about it, and what is to be drilled into it. */
export interface DrawnTrunk {
  readonly trunk: Trunk;
  /** columns that the path can meet */
  readonly draws: readonly TrunkDraw[];
  readonly path: BitPath;
  readonly model: ColumnModel;
}

/**
 * Draws possible truths. All places of a trunk are judged against the same draws, so that two places differ by the
 * wood between them and not by chance.
 * @param ringCv relative uncertainty of the growth that buried the holes (0 = taken as known)
 */
export function drawTrunks(
  of: Omit<DrawnTrunk, 'draws'>,
  { draws, rng, ringCv = 0 }: { readonly draws: number; readonly rng: Rng; readonly ringCv?: number }
): DrawnTrunk {
  const { trunk, path, model } = of;
  const drawn = () => columnsWithin(trunk, drawTruth(trunk, model, rng, ringCv), path.depthMm);
  return { ...of, draws: Array.from({ length: draws }, drawn) };
}
