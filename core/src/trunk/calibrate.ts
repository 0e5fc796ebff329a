import { mean, seededRng, toDegrees } from '../math/index.ts';
import type { SpeciesId } from '../identify/index.ts';
import { columnsOf, type ColumnModel } from './defaults.ts';
import { drawTrunks } from './draws.ts';
import { readingChances, type SeenShavings } from './shavings.ts';
import { judgeSpot } from './spot.ts';
import type { Trunk } from './trunk.ts';

/** A logged hole with the trunk as it was before it was drilled: what should its shavings have been? */
export interface LoggedHole {
  /** of the tree; left out where it is not settled */
  readonly species?: SpeciesId | null;
  readonly trunk: Trunk;
  readonly bearingDeg: number;
  readonly heightMm: number;
  readonly bitMm: number;
  readonly depthMm: number;
  readonly seen: SeenShavings['seen'];
}

/** The trunk that stood before a hole of its own: older holes alone, under the wood that had grown by then. */
export function trunkBefore(trunk: Trunk, index: number): Trunk {
  const { season, buriedMm } = trunk.holes[index]!;
  const back = (mm: number) => Math.max(0, mm - buriedMm);
  return {
    woodRadiusMm: Math.max(20, trunk.woodRadiusMm - buriedMm),
    barkRadiusMm: Math.max(25, trunk.barkRadiusMm - buriedMm),
    holes: trunk.holes
      .filter((hole) => hole.season < season)
      .map((hole) => ({
        ...hole,
        buriedMm: back(hole.buriedMm),
        ...(hole.unsure && {
          unsure: {
            ...hole.unsure,
            buriedFromMm: back(hole.unsure.buriedFromMm),
            buriedToMm: back(hole.unsure.buriedToMm)
          }
        })
      }))
  };
}

/** Logged holes for which about the same chance of brown wood was expected. */
export interface CalibrationBin {
  readonly from: number;
  readonly to: number;
  readonly holes: number;
  /** mean chance of brown shavings that the model gave them, 0 to 1 */
  readonly expected: number;
  readonly brown: number;
  /** 90 % interval of the share that was brown (Wilson 1927) */
  readonly seenFrom: number;
  readonly seenTo: number;
}

export interface Calibration {
  readonly holes: number;
  readonly expectedBrown: number;
  readonly seenBrown: number;
  readonly bins: readonly CalibrationBin[];
  /** by logged hole that was not dry, in order: the chance of brown shavings that the model gave it */
  readonly expected: readonly number[];
  /** factors on the columns' volume and on the errors of place that explain what was seen best */
  readonly sizeFactor: number;
  readonly positionFactor: number;
  /** how many times better they explain it than the model as it stands, as a logarithm; below 2 it may be chance */
  readonly gain: number;
}

/** A correction is worth taking when it explains what was seen at least e^2, about seven times, better. */
export const WORTH_CORRECTING = 2;

/** Sizes of columns that are tried, in shares of the default. */
const SIZES = [0.4, 0.55, 0.75, 1, 1.35, 1.8, 2.5];
/** Errors of recorded places that are tried, in shares of the default. */
const POSITIONS = [0.5, 0.75, 1, 1.4, 2];
/** Limits of the classes in which what was expected and what was seen are compared, shares of brown. */
const EDGES = [0, 0.04, 0.1, 0.2, 0.4, 1.0001];

/**
 * Predicted against seen brown wood over a bush's logged holes, and the correction of the columns that this suggests.
 * Dry holes are left out: they have other causes.
 * @param options how many holes are tried under every correction at the most; onProgress is told how far it is, 0 to 1,
 *   and stops it by answering false
 * @returns null when it was stopped
 */
export function calibrate(
  logged: readonly LoggedHole[],
  model: ColumnModel,
  options: {
    readonly draws?: number;
    readonly most?: number;
    readonly seed?: number;
    readonly onProgress?: (done: number) => boolean;
  } = {}
): Calibration | null {
  const { draws = 60, most = 500, seed = 1, onProgress } = options;
  const wet = logged.filter(({ seen }) => seen !== 'dry');
  const expected = new Float64Array(wet.length);
  // Every so many holes are tried under every correction: more would take minutes and say the same.
  const every = Math.max(1, Math.ceil(wet.length / most));
  const tried = wet.flatMap((hole, i) => (i % every === 0 ? { hole, i } : []));
  const work = wet.length + tried.length * (2 * SIZES.length + POSITIONS.length);
  let done = 0;
  const goesOn = (more: number) => !onProgress || onProgress(Math.min(1, (done += more) / work));
  for (let i = 0; i < wet.length; i++) {
    if (i % 50 === 0 && !goesOn(50)) return null;
    expected[i] = 1 - chanceOfPale(wet[i]!, model, draws, seed + i);
  }
  const fits = new Map<string, number>();
  const fitOf = (sizeFactor: number, positionFactor: number): number => {
    const key = `${sizeFactor}/${positionFactor}`;
    const own = corrected(model, sizeFactor, positionFactor);
    const fit =
      fits.get(key) ??
      tried.reduce((sum, { hole, i }) => {
        const pale = chanceOfPale(hole, own, draws, seed + i);
        return sum + Math.log(Math.max(1e-4, hole.seen === 'pale' ? pale : 1 - pale));
      }, 0);
    fits.set(key, fit);
    return fit;
  };
  // Each factor in turn, and the first once more: the two hardly depend on each other.
  let [sizeFactor, positionFactor] = [1, 1];
  for (const turn of ['size', 'position', 'size'] as const) {
    let best = fitOf(sizeFactor, positionFactor);
    const [size, position] = [sizeFactor, positionFactor];
    for (const factor of turn === 'size' ? SIZES : POSITIONS) {
      if (!goesOn(tried.length)) return null;
      const fit = turn === 'size' ? fitOf(factor, position) : fitOf(size, factor);
      if (fit <= best) continue;
      best = fit;
      if (turn === 'size') sizeFactor = factor;
      else positionFactor = factor;
    }
  }
  const brownAt = wet.map(({ seen }) => seen !== 'pale');
  const bins = EDGES.slice(1).flatMap((to, k): CalibrationBin[] => {
    const from = EDGES[k]!;
    const own = wet.flatMap((_, i) => (expected[i]! >= from && expected[i]! < to ? i : []));
    if (own.length === 0) return [];
    const brown = own.filter((i) => brownAt[i]).length;
    const [seenFrom, seenTo] = wilson(brown, own.length);
    const told = mean(own.map((i) => expected[i]!));
    return [{ from, to: Math.min(1, to), holes: own.length, expected: told, brown, seenFrom, seenTo }];
  });
  return {
    holes: wet.length,
    expectedBrown: expected.reduce((a, b) => a + b, 0),
    seenBrown: brownAt.filter(Boolean).length,
    bins,
    expected: [...expected],
    sizeFactor,
    positionFactor,
    gain: fitOf(sizeFactor, positionFactor) - fitOf(1, 1)
  };
}

/** A bush's own correction never makes columns, or errors of place, smaller than this share of the model's. */
export const LEAST_CORRECTION = 0.2;
/** Nor larger than this many times. */
export const LARGEST_CORRECTION = 5;

/** A factor as a bush may take it for its own. */
export const withinCorrection = (factor: number): number =>
  Math.min(LARGEST_CORRECTION, Math.max(LEAST_CORRECTION, factor));

/** The model with a bush's own correction. */
export function corrected(model: ColumnModel, sizeFactor: number, positionFactor: number): ColumnModel {
  return {
    ...model,
    volumeRatioMedian: model.volumeRatioMedian * sizeFactor,
    positionSdSidewaysMm: model.positionSdSidewaysMm * positionFactor,
    positionSdUpMm: model.positionSdUpMm * positionFactor
  };
}

/** Chance that a hole's shavings read pale, over everything that is not known of its trunk and of its own place. */
function chanceOfPale(hole: LoggedHole, model: ColumnModel, draws: number, seed: number): number {
  const rng = seededRng(seed);
  const drawn = drawTrunks(
    { trunk: hole.trunk, path: hole, model: columnsOf(hole.species ?? null, model) },
    { draws, rng }
  );
  let pale = 0;
  for (const columns of drawn.draws) {
    const side = toDegrees(rng.normal(0, model.positionSdSidewaysMm) / hole.trunk.woodRadiusMm);
    const up = rng.normal(0, model.positionSdUpMm);
    const spot = { bearingDeg: hole.bearingDeg + side, heightMm: hole.heightMm + up };
    const { stained } = judgeSpot({ ...drawn, draws: [columns], model }, spot);
    const chances = readingChances(stained, model.hitShare);
    pale += chances.pale / (1 - chances.dry);
  }
  return pale / draws;
}

/** Interval of a share, 90 % (Wilson 1927, Journal of the American Statistical Association 22). */
export function wilson(hits: number, n: number, z = 1.645): [number, number] {
  const p = hits / n;
  const middle = (p + (z * z) / (2 * n)) / (1 + (z * z) / n);
  const half = (z / (1 + (z * z) / n)) * Math.sqrt((p * (1 - p)) / n + (z * z) / (4 * n * n));
  return [Math.max(0, middle - half), Math.min(1, middle + half)];
}
