import { METHOD_SD_MM, type MeasureMethod } from './method.ts';
import { MIN_RING_MM, ringPrior, USUAL_RINGS, type RingExpectation, type RingKin } from './expectedRing.ts';
import { combined, ringFromWidths, type CountedRings, type ObservedRing } from './rings.ts';

/** One dated diameter. `year` may be fractional: 2021.75 is the end of September. */
export interface DatedDiameter {
  readonly year: number;
  readonly dbhMm: number;
  readonly method: MeasureMethod;
}

export interface GrowthEstimate {
  /** yearly radial growth, mm, shrunk toward the crown class and never at or below zero */
  readonly ringMm: number;
  readonly ringSeMm: number;
  /** what its readings and counted rings alone say: two readings of different dates, or a core or stump */
  readonly observed: ObservedRing | null;
  /** share of the estimate that comes from them, 0..1 */
  readonly weightOfReadings: number;
  /** years between first and last reading */
  readonly spanYears: number;
}

/** What the growth of a tree is told from, beside its readings: what it is like, and its rings where somebody counted them. */
export interface GrowingTree extends RingKin {
  readonly counted?: readonly CountedRings[];
}

/**
 * Ring width of a tree: weighted regression of diameter on time (weights 1 / method variance; the standard error
 * follows from the known errors of the methods), its counted rings, and what trees like it lay, combined by precision
 * (normal-normal empirical Bayes).
 * @param readings any order; methods set their weight
 * @param expects what is expected of trees in this bush
 */
export function estimateGrowth(
  readings: readonly DatedDiameter[],
  tree: GrowingTree,
  expects: RingExpectation = USUAL_RINGS
): GrowthEstimate {
  const prior = ringPrior(expects, tree);
  const observed = combined([regressRing(readings), ...(tree.counted ?? []).map(ringFromWidths)]);
  const years = readings.map((r) => r.year);
  const spanYears = years.length > 1 ? Math.max(...years) - Math.min(...years) : 0;
  if (!observed) return { ringMm: prior.meanMm, ringSeMm: prior.sdMm, observed: null, weightOfReadings: 0, spanYears };
  const both = combined([observed, { ringMm: prior.meanMm, seMm: prior.sdMm }])!;
  return {
    ringMm: Math.max(MIN_RING_MM, both.ringMm),
    ringSeMm: both.seMm,
    observed,
    weightOfReadings: (both.seMm / observed.seMm) ** 2,
    spanYears
  };
}

/** Half the slope of the weighted regression line of diameter on time, with its standard error. */
function regressRing(readings: readonly DatedDiameter[]): ObservedRing | null {
  let sw = 0;
  let swx = 0;
  let swy = 0;
  for (const { year, dbhMm, method } of readings) {
    const w = 1 / METHOD_SD_MM[method] ** 2;
    sw += w;
    swx += w * year;
    swy += w * dbhMm;
  }
  if (sw === 0) return null;
  const meanX = swx / sw;
  const meanY = swy / sw;
  let sxx = 0;
  let sxy = 0;
  for (const { year, dbhMm, method } of readings) {
    const w = 1 / METHOD_SD_MM[method] ** 2;
    sxx += w * (year - meanX) ** 2;
    sxy += w * (year - meanX) * (dbhMm - meanY);
  }
  // Readings of one visit say nothing about growth: a month apart is the least that counts.
  const years = readings.map((r) => r.year);
  if (Math.max(...years) - Math.min(...years) < 1 / 12) return null;
  return { ringMm: sxy / sxx / 2, seMm: 1 / Math.sqrt(sxx) / 2 };
}

/**
 * Diameter at a date from the readings and the growth: the newest readings weigh most.
 * @param year fractional year asked for
 */
export function diameterAt(readings: readonly DatedDiameter[], growth: GrowthEstimate, year: number): number | null {
  if (readings.length === 0) return null;
  let sw = 0;
  let sum = 0;
  for (const r of readings) {
    // Carrying a reading over n years adds the growth's own uncertainty to the tape's.
    const years = year - r.year;
    const variance = METHOD_SD_MM[r.method] ** 2 + (2 * growth.ringSeMm * years) ** 2;
    sw += 1 / variance;
    sum += (r.dbhMm + 2 * growth.ringMm * years) / variance;
  }
  return Math.max(1, sum / sw);
}

/** Days are asked for over and over: each reading of each tree of a bush. */
const YEARS = new Map<string, number>();
/** Days that are remembered at most; more are those of no bush. */
const MOST_DAYS = 20_000;

/** Fractional year of an ISO date (`2021-10-01` is 2021.75). */
export function fractionalYear(isoDate: string): number {
  const known = YEARS.get(isoDate);
  if (known !== undefined) return known;
  if (YEARS.size >= MOST_DAYS) YEARS.clear();
  const year = yearOf(isoDate);
  YEARS.set(isoDate, year);
  return year;
}

function yearOf(isoDate: string): number {
  const [y, m, d] = [Number(isoDate.slice(0, 4)), Number(isoDate.slice(5, 7)), Number(isoDate.slice(8, 10))];
  const start = Date.UTC(y, 0, 1);
  const length = Date.UTC(y + 1, 0, 1) - start;
  return y + (Date.UTC(y, m - 1, d) - start) / length;
}
