import { normalSteps, toRadians } from '../math/index.ts';
import { columnHalfLength, type ColumnModel } from '../trunk/index.ts';

/** What is believed of one tree's grain and columns beyond what holds for all trees. */
export interface GrainBelief {
  readonly leanMeanDeg: number;
  readonly leanSdDeg: number;
  /** factor on the volume of its columns */
  readonly sizeFactor: number;
}

/** The kernel's places lie this far apart upwards, mm. */
export const STEP_UP = 5;
/** The kernel's places lie this far apart sideways, mm. */
export const STEP_SIDE = 2;
/** The kernel reaches this far up and down, mm: no column of the model is longer. */
export const REACH_UP_MM = 1000;
/** Lines from the kernel's middle to its top. */
const LINES_UP = REACH_UP_MM / STEP_UP;
/** Rows of the kernel. */
const ROWS = 2 * LINES_UP + 1;

/**
 * The trunk's growth between two holes, as a factor on its radius, for which the kernel is worked out: an error of a hole's
 * bearing grows with the trunk.
 */
const GROWTHS = Array.from({ length: 9 }, (_, stage) => 1 + 0.06 * stage);

/** The share of a picture's width, as a power, that errors of place have; the grain and the column have the rest. */
const MOSTLY_ERRORS = 0.7;

/** A loss below this is none: a hundred of them change no digit that anybody reads. */
const NOTHING = 1e-6;

/** Half-widths of columns are told apart by this much, mm. */
const WIDTH_STEP = 0.25;

/**
 * What one hole's column takes of the bit's width of another hole, in the mean over everything that is not known: the
 * column's size, the grain's lean, and where the two holes really ended up. In depth the two still have to meet
 * (`depthShared`).
 *
 * Nothing is drawn by chance: whoever looks for the places that cost least would find the luck of the draws. At each
 * height the widths that columns have there are summed over their sizes; what the grain and the errors of place do
 * sideways and upwards is normal, and blurs the picture.
 *
 * Offsets run sideways along the bark to the left and upwards, mm. Turned by half a circle the kernel is the same, so it
 * does not matter which of the two holes is the older one.
 */
export class LossKernel {
  /** farther off than this sideways, nothing is lost */
  readonly reachSideMm: number;
  /** how many places a line has, from -reach to reach */
  readonly lineLength: number;
  /** by line: farther off than this sideways, nothing is lost that anybody could tell */
  readonly reachAt: Float32Array;
  /** by stage: lines from the lowest to the highest, one after another */
  readonly tables: readonly Float32Array[];

  /**
   * @param bitMm bit of the hole that may meet the column
   * @param columnBitMm bit of the hole whose column it is
   */
  constructor(
    readonly bitMm: number,
    model: ColumnModel,
    belief: GrainBelief = { leanMeanDeg: model.grainMeanDeg, leanSdDeg: model.grainSdDeg, sizeFactor: 1 },
    columnBitMm = bitMm
  ) {
    const steepest = Math.abs(belief.leanMeanDeg) + 2.5 * belief.leanSdDeg;
    const reach = Math.ceil((60 + REACH_UP_MM * Math.tan(toRadians(steepest))) / STEP_SIDE);
    this.reachSideMm = reach * STEP_SIDE;
    this.lineLength = 2 * reach + 1;
    const profiles = this.#profiles(model, belief, columnBitMm);
    this.tables = GROWTHS.map((growth) => this.#blurred(profiles, model, belief, Math.hypot(1, growth)));
    const widest = this.tables.at(-1)!;
    this.reachAt = Float32Array.from({ length: ROWS }, (_, line) => {
      const from = line * this.lineLength;
      const losses = widest.subarray(from, from + this.lineLength);
      const far = losses.reduce((most, lost, i) => (lost > NOTHING ? Math.max(most, Math.abs(i - reach)) : most), -1);
      return far < 0 ? 0 : STEP_SIDE * Math.min(reach - 1, far + 1);
    });
  }

  /** Expected share of the bit's width lost at an offset from the column's hole, 0 to 1. */
  at(sideMm: number, upMm: number, growth = 1): number {
    const line = Math.round((upMm + REACH_UP_MM) / STEP_UP);
    if (!(line >= 0 && line < ROWS && Math.abs(1.1 * sideMm) < this.reachSideMm)) return 0;
    const wider = this.widthOf(growth);
    const column = (wider * sideMm + this.reachSideMm) / STEP_SIDE;
    const cell = line * this.lineLength + Math.floor(column);
    const table = this.tables[this.stageOf(growth)]!;
    // Between two places it goes straight: a millimetre can be a tenth of the loss.
    return wider * (table[cell]! + (table[cell + 1]! - table[cell]!) * (column - Math.floor(column)));
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

  /**
   * How much wider the picture of a stage is sideways than it would be for the very growth: about as much as the errors of
   * place, which are most of what widens it.
   */
  widthOf(growth: number): number {
    return (Math.hypot(1, GROWTHS[this.stageOf(growth)]!) / Math.hypot(1, growth)) ** MOSTLY_ERRORS;
  }

  /** By height over the hole: share of the bit's width in the column by how far the two lie apart, both places known. */
  #profiles(model: ColumnModel, { sizeFactor }: GrainBelief, columnBitMm: number): Float64Array[] {
    const sizes = normalSteps(41, 0.2).flatMap(({ z, weight }) => {
      const ratio = model.volumeRatioMedian * sizeFactor * Math.exp(model.volumeRatioSigma * z);
      return normalSteps(17, 0.5).map((margin) => {
        const widest = columnBitMm / 2 + model.sideMarginMedianMm * Math.exp(model.sideMarginSigma * margin.z);
        return { widest, length: columnHalfLength(ratio, columnBitMm, widest), weight: weight * margin.weight };
      });
    });
    const half = this.bitMm / 2;
    const middle = (this.lineLength - 1) / 2;
    return Array.from({ length: LINES_UP + 1 }, (_, line) => {
      const up = line * STEP_UP;
      const widths: number[] = [];
      for (const { widest, length, weight } of sizes) {
        if (up >= length) continue;
        const width = Math.round((widest * (1 - (up / length) ** 2)) / WIDTH_STEP);
        widths[width] = (widths[width] ?? 0) + weight;
      }
      const profile = new Float64Array(this.lineLength);
      widths.forEach((weight, steps) => {
        const width = steps * WIDTH_STEP;
        for (let i = -Math.floor((half + width) / STEP_SIDE); i * STEP_SIDE < half + width; i++) {
          const shared = Math.min(half, i * STEP_SIDE + width) - Math.max(-half, i * STEP_SIDE - width);
          if (shared > 0 && Math.abs(i) <= middle) profile[middle + i]! += (weight * shared) / this.bitMm;
        }
      });
      return profile;
    });
  }

  /** The profiles blurred by the grain's lean and by where both holes may have ended up. */
  #blurred(
    profiles: readonly Float64Array[],
    { positionSdSidewaysMm, positionSdUpMm }: ColumnModel,
    { leanMeanDeg, leanSdDeg }: GrainBelief,
    errors: number
  ): Float32Array {
    const width = this.lineLength;
    const leaning = profiles.map((profile, line) => {
      const up = line * STEP_UP;
      const sd = Math.hypot(positionSdSidewaysMm * errors, up * Math.tan(toRadians(leanSdDeg))) / STEP_SIDE;
      return smeared(profile, (up * Math.tan(toRadians(leanMeanDeg))) / STEP_SIDE, sd);
    });
    const reach = Math.ceil((4 * Math.SQRT2 * positionSdUpMm) / STEP_UP);
    const lifts = gaussian(reach, (Math.SQRT2 * positionSdUpMm) / STEP_UP);
    const table = new Float32Array(ROWS * width);
    for (let line = 0; line <= LINES_UP; line++)
      for (let d = -reach; d <= reach; d++) {
        // Below the hole it is as above it, turned by half a circle.
        const other = line + d;
        const from = leaning[Math.abs(other)];
        if (!from) continue;
        const share = lifts[d + reach]!;
        const at = (LINES_UP + line) * width;
        if (other >= 0) for (let i = 0; i < width; i++) table[at + i]! += share * from[i]!;
        else for (let i = 0; i < width; i++) table[at + i]! += share * from[width - 1 - i]!;
      }
    const last = table.length - 1;
    for (let at = 0; at < LINES_UP * width; at++) table[at] = table[last - at]!;
    return table;
  }
}

/** A normal curve in whole steps from -reach to reach, of sum 1. */
function gaussian(reach: number, sd: number): Float64Array {
  const weights = Float64Array.from({ length: 2 * reach + 1 }, (_, i) => Math.exp(-0.5 * ((i - reach) / sd) ** 2));
  const sum = weights.reduce((a, b) => a + b, 0);
  return weights.map((weight) => weight / sum);
}

/** A line whose every value is spread over its neighbours by a normal error about a shift, in steps of the line. */
function smeared(line: Float64Array, shift: number, sd: number): Float64Array {
  const reach = Math.ceil(4 * sd);
  const whole = Math.round(shift);
  const weights = gaussian(reach, sd);
  const spread = new Float64Array(line.length);
  line.forEach((value, i) => {
    if (value === 0) return;
    for (let d = -reach; d <= reach; d++) {
      const to = i + whole + d;
      if (to >= 0 && to < line.length) spread[to]! += value * weights[d + reach]!;
    }
  });
  return spread;
}

/** Share of a new hole's depth at which it still meets wood of an older one, under `buriedMm` of wood grown since. */
export function depthShared(buriedMm: number, oldDepthMm: number, newDepthMm: number): number {
  return Math.max(0, Math.min(newDepthMm, buriedMm + oldDepthMm) - Math.max(0, buriedMm)) / newDepthMm;
}

const kernels = new Map<string, LossKernel>();
/** So many kernels are kept for the next hole of their size. */
const KERNELS_KEPT = 12;

/** Kernels serve every tree of a bush that is believed to have the same grain and columns. */
export function kernelFor(
  columnBitMm: number,
  pathBitMm: number,
  model: ColumnModel,
  belief: GrainBelief = { leanMeanDeg: model.grainMeanDeg, leanSdDeg: model.grainSdDeg, sizeFactor: 1 }
): LossKernel {
  const key = JSON.stringify([columnBitMm, pathBitMm, model, belief]);
  const known = kernels.get(key);
  if (known) return known;
  const kernel = new LossKernel(pathBitMm, model, belief, columnBitMm);
  if (kernels.size >= KERNELS_KEPT) kernels.delete(kernels.keys().next().value!);
  kernels.set(key, kernel);
  return kernel;
}
