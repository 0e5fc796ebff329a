import { METHOD_SD_MM, type MeasureMethod } from './method.ts';

/** One dated diameter. `year` may be fractional: 2021.75 is the end of September. */
export interface DatedDiameter {
  readonly year: number;
  readonly dbhMm: number;
  readonly method: MeasureMethod;
}

export type CrownClass = 'dominant' | 'codominant' | 'intermediate' | 'suppressed' | 'open';

/** Mean ring width of a crown class and how far single trees stray from it, mm. */
export type RingPriors = Readonly<Record<CrownClass, { readonly meanMm: number; readonly sdMm: number }>>;

/**
 * Ring width to expect of a crown class before any reading, and how far single trees stray from it (mm, mm).
 * Working assumptions around the 0.1 to 0.2 in of diameter a year reported from sugarbushes (ring 1.3 to 2.5 mm).
 */
export const RING_PRIOR: RingPriors = {
  open: { meanMm: 2.2, sdMm: 0.7 },
  dominant: { meanMm: 1.7, sdMm: 0.6 },
  codominant: { meanMm: 1.4, sdMm: 0.55 },
  intermediate: { meanMm: 0.9, sdMm: 0.4 },
  suppressed: { meanMm: 0.5, sdMm: 0.3 }
};

/** How far a whole bush may stray from the defaults, mm: soil, climate, age. Working assumption. */
const BUSH_SD_MM = 0.5;

/** A tree whose own readings say something of its growth. */
export interface ObservedRing {
  readonly crownClass: CrownClass | null;
  readonly ringMm: number;
  readonly seMm: number;
}

/** The logarithm of how much farther or less far the trees of a bush stray than is usual: its own spread. Working assumption. */
const LOG_SPREAD_SD = 0.5;

/**
 * What to expect of a crown class in this bush, and how far single trees stray from it: the defaults, moved towards the bush's own
 * measured trees (normal-normal empirical Bayes; the spread where its marginal likelihood is greatest, given that it is log-normal
 * about the usual one). Each tree counts by how well it was measured. All classes share what is
 * learned of the spread, as a factor on what is usual of each; a handful of trees moves little.
 */
export function bushRingPriors(observed: readonly ObservedRing[]): RingPriors {
  const byClass = groupsOf(observed);
  const factor = observed.length === 0 ? 1 : Math.sqrt(scaleOf([...byClass.values()]));
  return Object.fromEntries(
    (Object.keys(RING_PRIOR) as CrownClass[]).map((crownClass) => {
      const trees = byClass.get(crownClass) ?? [];
      const { meanMm, sdMm: usual } = RING_PRIOR[crownClass];
      const sdMm = usual * factor;
      return [crownClass, { meanMm: Math.max(MIN_RING_MM, meanOf(trees, meanMm, sdMm)), sdMm }];
    })
  ) as RingPriors;
}

interface MeasuredTree extends ObservedRing {
  readonly usual: RingPriors[CrownClass];
}

function groupsOf(observed: readonly ObservedRing[]): Map<CrownClass, MeasuredTree[]> {
  const groups = new Map<CrownClass, MeasuredTree[]>();
  for (const tree of observed) {
    const crownClass = tree.crownClass ?? 'codominant';
    const group = groups.get(crownClass) ?? [];
    group.push({ ...tree, usual: RING_PRIOR[crownClass] });
    groups.set(crownClass, group);
  }
  return groups;
}

/** The mean ring of trees of one class, each by how well it was measured and by how much single trees stray anyway. */
function meanOf(trees: readonly MeasuredTree[], usualMm: number, sdMm: number): number {
  let precision = 1 / BUSH_SD_MM ** 2;
  let sum = precision * usualMm;
  for (const { ringMm, seMm } of trees) {
    const weight = 1 / (sdMm ** 2 + seMm ** 2);
    precision += weight;
    sum += weight * ringMm;
  }
  return sum / precision;
}

/**
 * How much farther or less far trees stray than is usual of their classes, as a factor on the variance: where what was measured
 * and what is taken beforehand are likeliest together, by golden section on its logarithm.
 * @param groups trees by class
 */
function scaleOf(groups: readonly (readonly MeasuredTree[])[]): number {
  const likely = (log: number) => {
    const scale = Math.exp(log);
    // Half the logarithm: of the deviation. Both sums are of twice the logarithms of what is likely.
    let sum = -((log / 2 / LOG_SPREAD_SD) ** 2);
    for (const trees of groups) {
      const { meanMm: usual, sdMm } = trees[0]!.usual;
      const variance = scale * sdMm ** 2;
      const meanMm = meanOf(trees, usual, Math.sqrt(variance));
      for (const { ringMm, seMm } of trees)
        sum -= Math.log(variance + seMm ** 2) + (ringMm - meanMm) ** 2 / (variance + seMm ** 2);
    }
    return sum;
  };
  let [low, high] = LOG_SCALES;
  let [left, right] = [high - GOLDEN * (high - low), low + GOLDEN * (high - low)];
  let [atLeft, atRight] = [likely(left), likely(right)];
  while (high - low > 0.005) {
    if (atLeft > atRight) {
      [high, right, atRight] = [right, left, atLeft];
      left = high - GOLDEN * (high - low);
      atLeft = likely(left);
    } else {
      [low, left, atLeft] = [left, right, atRight];
      right = low + GOLDEN * (high - low);
      atRight = likely(right);
    }
  }
  return Math.exp((low + high) / 2);
}

/** The logarithms of factors that are looked among: from a seventh of the usual spread to four times. */
const LOG_SCALES = [2 * Math.log(1 / 7), 2 * Math.log(4)] as const;
/** The golden section of one. */
const GOLDEN = (Math.sqrt(5) - 1) / 2;

/** A trunk without measurable growth still lays some wood; no tree is planned with less than this. */
export const MIN_RING_MM = 0.1;

export interface GrowthEstimate {
  /** yearly radial growth, mm, shrunk toward the crown class and never at or below zero */
  readonly ringMm: number;
  readonly ringSeMm: number;
  /** what the readings alone say, if there are two dates or more */
  readonly observed: { readonly ringMm: number; readonly seMm: number } | null;
  /** share of the estimate that comes from the readings, 0..1 */
  readonly weightOfReadings: number;
  /** years between first and last reading */
  readonly spanYears: number;
}

/**
 * Ring width of a tree: weighted regression of diameter on time (weights 1 / method variance; the standard error
 * follows from the known errors of the methods), combined with the crown class by precision (normal-normal
 * empirical Bayes).
 * @param readings any order; methods set their weight
 * @param crownClass null counts as codominant
 * @param priors what is expected of the classes in this bush
 */
export function estimateGrowth(
  readings: readonly DatedDiameter[],
  crownClass: CrownClass | null,
  priors: RingPriors = RING_PRIOR
): GrowthEstimate {
  const prior = priors[crownClass ?? 'codominant'];
  const observed = regressRing(readings);
  const years = readings.map((r) => r.year);
  const spanYears = years.length > 1 ? Math.max(...years) - Math.min(...years) : 0;
  if (!observed) return { ringMm: prior.meanMm, ringSeMm: prior.sdMm, observed: null, weightOfReadings: 0, spanYears };
  const priorPrecision = 1 / prior.sdMm ** 2;
  const precision = 1 / observed.seMm ** 2;
  const weight = precision / (precision + priorPrecision);
  return {
    ringMm: Math.max(MIN_RING_MM, weight * observed.ringMm + (1 - weight) * prior.meanMm),
    ringSeMm: 1 / Math.sqrt(precision + priorPrecision),
    observed,
    weightOfReadings: weight,
    spanYears
  };
}

/** Half the slope of the weighted regression line of diameter on time, with its standard error. */
function regressRing(readings: readonly DatedDiameter[]): { ringMm: number; seMm: number } | null {
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
