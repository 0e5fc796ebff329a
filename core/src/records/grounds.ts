import {
  bushRingPriors,
  diameterAt,
  estimateGrowth,
  fractionalYear,
  RING_PRIOR,
  siftReadings,
  sizeExpectation,
  type CrownClass,
  type DatedDiameter,
  type GrowthEstimate,
  type MeasureMethod,
  type ObservedRing,
  type ReadingQuestion,
  type RingPriors,
  type SizeExpectation
} from '../measure/index.ts';
import { holdsOn, type TapBan } from './kinds/index.ts';

/** A reading as far as size, growth and the guard's questions go by it. */
export interface LineReading {
  /** ISO date */
  readonly on: string;
  readonly dbhMm: number;
  readonly method: MeasureMethod;
  readonly confirmed: boolean;
}

/**
 * What of a tree cannot be told before it is asked on which day and among which trees: it is kept as it was written, so that
 * neither a new day nor a neighbour's reading makes a kept line old.
 */
export interface Grounds {
  readonly crownClass: CrownClass | null;
  /** has it ever been tapped? */
  readonly tapped: boolean;
  /** in the order of time */
  readonly readings: readonly LineReading[];
  /** the last word on tapping, whether or not it still holds */
  readonly tapBan: TapBan | null;
}

/** What to expect of a tree of this bush. */
export interface Expectations {
  readonly priors: RingPriors;
  readonly sizes: SizeExpectation | null;
}

/** What grounds come to on a day, among the bush's other trees. */
export interface Told {
  /** the guard's question to each reading; null for those to go by */
  readonly questions: readonly (ReadingQuestion | null)[];
  /** which reading is the last of those to go by; -1 where there is none */
  readonly last: number;
  readonly growth: GrowthEstimate;
  /** diameter to be expected on the day, mm; null before the first reading */
  readonly dbhMm: number | null;
  /** the same on another day, as a fractional year */
  readonly dbhIn: (year: number) => number | null;
  /** the word on tapping that holds on the day */
  readonly tapBan: TapBan | null;
}

/** A reading as a diameter at a point in time. */
export const dated = ({ on, dbhMm, method }: LineReading): DatedDiameter => ({
  year: fractionalYear(on),
  dbhMm,
  method
});

/**
 * Tells what grounds come to.
 * @param today ISO date
 * @param expects of the bush's trees; those of maples at large where nothing is said
 */
export function tell(
  { crownClass, tapped, readings, tapBan }: Grounds,
  today: string,
  { priors = RING_PRIOR, sizes = null }: Partial<Expectations> = {}
): Told {
  // Written out: a spread literal a reading takes longer than all that is done with it.
  const all = readings.map(({ on, dbhMm, method, confirmed }) => ({
    year: fractionalYear(on),
    dbhMm,
    method,
    confirmed
  }));
  const questions = siftReadings(all, { sizes, tapped });
  const trusted = all.filter((_, i) => questions[i] === null);
  const growth = estimateGrowth(trusted, crownClass, priors);
  const dbhIn = (year: number) => diameterAt(trusted, growth, year);
  return {
    questions,
    last: questions.lastIndexOf(null),
    growth,
    dbhMm: dbhIn(fractionalYear(today)),
    dbhIn,
    tapBan: tapBan && holdsOn(tapBan.until, today) ? tapBan : null
  };
}

/** Digits that expectations are told to: one more reading in a large bush is not to move the lines of all its trees. */
const EXPECTED_DIGITS = 3;
const rounded = (value: number) => Number(value.toPrecision(EXPECTED_DIGITS));

/**
 * What to expect of a bush's trees, from what each says by itself.
 * @param trees the grounds of all of them
 * @param today ISO date
 */
export function expectationsOf(trees: readonly Grounds[], today: string): Expectations {
  const rings: ObservedRing[] = [];
  const dbhsMm: number[] = [];
  for (const grounds of trees) {
    const { growth, dbhMm } = tell(grounds, today);
    if (growth.observed)
      rings.push({
        crownClass: grounds.crownClass,
        ringMm: growth.observed.ringMm,
        seMm: growth.observed.seMm
      });
    if (dbhMm !== null) dbhsMm.push(dbhMm);
  }
  const priors = bushRingPriors(rings);
  const sizes = sizeExpectation(dbhsMm);
  const classes = Object.entries(priors) as [CrownClass, RingPriors[CrownClass]][];
  return {
    priors: Object.fromEntries(
      classes.map(([crownClass, { meanMm, sdMm }]) => [crownClass, { meanMm: rounded(meanMm), sdMm: rounded(sdMm) }])
    ) as RingPriors,
    sizes: sizes && { medianMm: rounded(sizes.medianMm), logSd: rounded(sizes.logSd) }
  };
}
