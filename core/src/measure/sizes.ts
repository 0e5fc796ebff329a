import { median } from '../math/index.ts';
import { MM_PER_INCH, type TrunkQuantity } from '../units/index.ts';
import { toDiameter } from './dbh.ts';

/** How thick the trees of a bush are: the middle of them and the spread around it, on a logarithmic scale. */
export interface SizeExpectation {
  readonly medianMm: number;
  /** of the natural logarithm of the diameter */
  readonly logSd: number;
}

/** Fewer trees say nothing of a bush. */
const FEWEST_TREES = 20;
/** The least spread that is believed: a planted row is even, its neighbours are not. */
const MIN_LOG_SD = 0.3;
/** The median absolute deviation times this is the standard deviation of a normal distribution. */
const MAD_TO_SD = 1.4826;

/**
 * The sizes to expect, by median and median absolute deviation, so that a few wrong readings do not shift them.
 * @param dbhsMm last diameters of the trees, mm
 * @returns null for too few trees
 */
export function sizeExpectation(dbhsMm: readonly number[]): SizeExpectation | null {
  const logs = dbhsMm.filter((d) => d > 0).map(Math.log);
  if (logs.length < FEWEST_TREES) return null;
  const middle = median(logs);
  const spread = MAD_TO_SD * median(logs.map((value) => Math.abs(value - middle)));
  return { medianMm: Math.exp(middle), logSd: Math.max(MIN_LOG_SD, spread) };
}

/** How many standard deviations thicker (or thinner, negative) than the bush's trees a trunk is. */
export function standsOut(dbhMm: number, sizes: SizeExpectation): number {
  return Math.log(dbhMm / sizes.medianMm) / sizes.logSd;
}

/** How a whole column, or a part of it, can be another quantity or unit than it says. */
export const COLUMN_CAUSES = ['girthAsDiameter', 'diameterAsGirth', 'inchAsCm', 'cmAsInch'] as const;
export type ColumnCause = (typeof COLUMN_CAUSES)[number];

/** A question about all sizes of a file at once. Nothing is changed by asking. */
export interface ColumnQuestion {
  /** what would explain it, the likeliest first, with the middle diameter that it would come to, mm */
  readonly explanations: readonly { readonly cause: ColumnCause; readonly correctedMm: number }[];
  /** the middle diameter of the file as it stands, mm */
  readonly medianMm: number;
  /** the middle diameter that was to be expected, mm, and whether that is this bush's own */
  readonly expectedMm: number;
  readonly ofThisBush: boolean;
}

/** Where a bush tells nothing yet: what is worth a tag is about a foot thick. Working assumption. */
const USUAL_DBH_MM = 300;
/** Fewer readings of one quantity are no column. */
const FEWEST_READINGS = 10;
/** A middle this far off, on a logarithmic scale, wants an explanation: 1.8 times too large or too small. */
const FAR_OFF = 0.6;
/** A correction explains it where it takes away all but this share of the distance. */
const EXPLAINED = 0.4;

/**
 * Does a whole column seem to be another quantity or unit than it says? A column of girths called diameters cannot be
 * seen at any one tree, but at all of them together.
 * @param sizes of the bush's own trees; null where there are too few
 */
export function wholeColumnQuestion(
  readings: readonly { readonly quantity: TrunkQuantity; readonly valueMm: number }[],
  sizes: SizeExpectation | null
): ColumnQuestion | null {
  const quantity = ['diameter', 'girth'] as const;
  const [column] = quantity
    .map((q) => ({ q, of: readings.filter((r) => r.quantity === q) }))
    .sort((a, b) => b.of.length - a.of.length);
  if (!column || column.of.length < FEWEST_READINGS) return null;
  const medianMm = Math.exp(median(column.of.map((r) => Math.log(toDiameter(r.valueMm, r.quantity)))));
  const expectedMm = sizes?.medianMm ?? USUAL_DBH_MM;
  const off = (mm: number) => Math.abs(Math.log(mm / expectedMm));
  if (off(medianMm) < FAR_OFF) return null;
  const swap =
    column.q === 'diameter'
      ? ({ cause: 'girthAsDiameter', factor: 1 / Math.PI } as const)
      : ({ cause: 'diameterAsGirth', factor: Math.PI } as const);
  // Pi (girth for diameter) and 2.54 (cm for inches) lie close together: the middle alone cannot always tell which.
  const explanations = [
    swap,
    { cause: 'inchAsCm', factor: MM_PER_INCH / 10 } as const,
    { cause: 'cmAsInch', factor: 10 / MM_PER_INCH } as const
  ]
    .map(({ cause, factor }) => ({ cause, correctedMm: factor * medianMm }))
    .filter(({ correctedMm }) => off(correctedMm) <= EXPLAINED * off(medianMm))
    .sort((a, b) => off(a.correctedMm) - off(b.correctedMm));
  return explanations.length > 0 ? { explanations, medianMm, expectedMm, ofThisBush: sizes !== null } : null;
}
