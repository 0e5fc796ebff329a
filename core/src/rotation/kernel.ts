import { seededRng, toRadians } from '../math/index.ts';
import { columnHalfLength, type ColumnModel } from '../trunk/index.ts';

/** What is believed of one tree's grain and columns beyond what holds for all trees. */
export interface GrainBelief {
  readonly leanMeanDeg: number;
  readonly leanSdDeg: number;
  /** factor on the volume of its columns */
  readonly sizeFactor: number;
}

/** The kernel's places lie this far apart upwards, mm. */
const STEP_UP = 5;
/** And this far sideways, mm. */
const STEP_SIDE = 2;
/** The kernel reaches this far up and down, mm: no column of the model is longer. */
const REACH_UP_MM = 1000;
/** Rows of the kernel. */
const ROWS = (2 * REACH_UP_MM) / STEP_UP + 1;

/**
 * The trunk's growth between two holes, as a factor on its radius, for which the kernel is worked out: an error of a hole's
 * bearing grows with the trunk.
 */
const GROWTHS = [1, 1.15, 1.35] as const;

/**
 * What one hole's column takes of the bit's width of another hole, in the mean over everything that is not known: the
 * column's size, the grain's lean, and where the two holes really ended up. In depth the two still have to meet
 * (`depthShared`).
 *
 * Offsets run sideways along the bark to the left and upwards, mm. Turned by half a circle the kernel is the same, so it
 * does not matter which of the two holes is the older one.
 */
export class LossKernel {
  /** farther off than this sideways, nothing is lost */
  readonly reachSideMm: number;
  /** how many places a line has, from -reach to reach */
  readonly lineLength: number;
  readonly stepUpMm = STEP_UP;
  readonly stepSideMm = STEP_SIDE;
  readonly reachUpMm = REACH_UP_MM;
  /** by stage: lines from the lowest to the highest, one after another */
  readonly tables: readonly Float32Array[];

  /**
   * @param bitMm bit of the hole that may meet the column
   * @param options bit of the hole whose column it is, where that is another one; columns to take the mean over
   */
  constructor(
    readonly bitMm: number,
    model: ColumnModel,
    belief: GrainBelief = { leanMeanDeg: 0, leanSdDeg: model.grainSdDeg, sizeFactor: 1 },
    { columnBitMm = bitMm, draws = 8000 }: { readonly columnBitMm?: number; readonly draws?: number } = {}
  ) {
    const steepest = Math.abs(belief.leanMeanDeg) + 2.5 * belief.leanSdDeg;
    const reach = Math.ceil((60 + REACH_UP_MM * Math.tan(toRadians(steepest))) / STEP_SIDE);
    this.reachSideMm = reach * STEP_SIDE;
    this.lineLength = 2 * reach + 1;
    const columns = this.#columns(model, belief, columnBitMm, draws);
    // The place errors sideways are independent of all else: they blur the picture of the columns.
    const sd = model.positionSdSidewaysMm;
    this.tables = GROWTHS.map((growth) => this.#blurred(columns, sd * Math.hypot(1, growth)));
  }

  /** Expected share of the bit's width lost at an offset from the column's hole, 0 to 1. */
  at(sideMm: number, upMm: number, growth = 1): number {
    return this.atStage(sideMm, upMm, this.stageOf(growth));
  }

  /**
   * Which of the kernel's pictures holds for a growth of the trunk between two holes.
   * @param growth radius at the later hole over that at the earlier one
   */
  stageOf(growth: number): number {
    let nearest = 0;
    while (nearest + 1 < GROWTHS.length && growth > (GROWTHS[nearest]! + GROWTHS[nearest + 1]!) / 2) nearest += 1;
    return nearest;
  }

  /** As `at`, for callers that ask millions of times and know the stage. */
  atStage(sideMm: number, upMm: number, stage: number): number {
    const i = Math.round((sideMm + this.reachSideMm) / STEP_SIDE);
    const row = Math.round((upMm + REACH_UP_MM) / STEP_UP);
    if (i < 0 || i >= this.lineLength || row < 0 || row >= ROWS) return 0;
    return this.tables[stage]![row * this.lineLength + i]!;
  }

  /** The columns' share of a bit's width about a hole whose place is known sideways. */
  #columns(model: ColumnModel, belief: GrainBelief, columnBitMm: number, draws: number): Float32Array {
    const { bitMm, reachSideMm } = this;
    const width = this.lineLength;
    const table = new Float32Array(ROWS * width);
    const rng = seededRng(20_231);
    const half = bitMm / 2;
    for (let draw = 0; draw < draws; draw++) {
      const lean = Math.tan(toRadians(rng.normal(belief.leanMeanDeg, belief.leanSdDeg)));
      const ratio = rng.logNormal(model.volumeRatioMedian * belief.sizeFactor, model.volumeRatioSigma);
      const widest = columnBitMm / 2 + rng.logNormal(model.sideMarginMedianMm, model.sideMarginSigma);
      const length = columnHalfLength(ratio, columnBitMm, widest);
      const lift = rng.normal(0, Math.SQRT2 * model.positionSdUpMm);
      const first = Math.max(0, Math.ceil((lift - length + REACH_UP_MM) / STEP_UP));
      const last = Math.min(ROWS - 1, Math.floor((lift + length + REACH_UP_MM) / STEP_UP));
      for (let row = first; row <= last; row++) {
        const up = row * STEP_UP - REACH_UP_MM - lift;
        const halfWidth = widest * (1 - (up / length) ** 2);
        const centre = up * lean;
        const from = Math.max(0, Math.ceil((centre - halfWidth - half + reachSideMm) / STEP_SIDE));
        const to = Math.min(width - 1, Math.floor((centre + halfWidth + half + reachSideMm) / STEP_SIDE));
        for (let i = from; i <= to; i++) {
          const here = i * STEP_SIDE - reachSideMm;
          const shared = Math.min(here + half, centre + halfWidth) - Math.max(here - half, centre - halfWidth);
          if (shared > 0) table[row * width + i]! += shared / (draws * bitMm);
        }
      }
    }
    return table;
  }

  #blurred(table: Float32Array, sd: number): Float32Array {
    const width = this.lineLength;
    const reach = Math.ceil((4 * sd) / STEP_SIDE);
    const bell = Float32Array.from({ length: 2 * reach + 1 }, (_, i) =>
      Math.exp(-0.5 * (((i - reach) * STEP_SIDE) / sd) ** 2)
    );
    const sum = bell.reduce((a, b) => a + b, 0);
    const blurred = new Float32Array(table.length);
    const last = table.length - 1;
    // Turned by half a circle it is the same: one half is reckoned, from the mean of both.
    for (let at = 0; at <= last / 2; at++) {
      const value = ((table[at]! + table[last - at]!) / sum) * (at === last / 2 ? 0.25 : 0.5);
      if (value === 0) continue;
      const i = at % width;
      for (let d = Math.max(-reach, -i); d <= Math.min(reach, width - 1 - i); d++)
        blurred[at + d]! += value * bell[d + reach]!;
    }
    const middle = (last - (width - 1)) / 2;
    // The middle line was filled from its left half alone.
    for (let i = 0; i < width / 2; i++) {
      const both = blurred[middle + i]! + blurred[middle + width - 1 - i]!;
      blurred[middle + i] = both;
      blurred[middle + width - 1 - i] = both;
    }
    for (let at = 0; at < middle; at++) blurred[last - at] = blurred[at]!;
    return blurred;
  }
}

/** Share of a new hole's depth at which it still meets wood of an older one, under `buriedMm` of wood grown since. */
export function depthShared(buriedMm: number, oldDepthMm: number, newDepthMm: number): number {
  return Math.max(0, Math.min(newDepthMm, buriedMm + oldDepthMm) - Math.max(0, buriedMm)) / newDepthMm;
}

const kernels = new Map<string, LossKernel>();
/** So many kernels are kept for the next hole of their size. */
const KERNELS_KEPT = 12;

/** Kernels take a quarter of a second to make and serve every tree of a bush. */
export function kernelFor(
  columnBitMm: number,
  pathBitMm: number,
  model: ColumnModel,
  belief: GrainBelief = { leanMeanDeg: 0, leanSdDeg: model.grainSdDeg, sizeFactor: 1 }
): LossKernel {
  const key = JSON.stringify([columnBitMm, pathBitMm, model, belief]);
  const known = kernels.get(key);
  if (known) return known;
  const kernel = new LossKernel(pathBitMm, model, belief, { columnBitMm });
  if (kernels.size >= KERNELS_KEPT) kernels.delete(kernels.keys().next().value!);
  kernels.set(key, kernel);
  return kernel;
}
