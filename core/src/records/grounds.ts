import type { SpeciesId } from '../identify/index.ts';
import {
  diameterAt,
  estimateGrowth,
  expectedRings,
  fractionalYear,
  siftReadings,
  sizeExpectation,
  type CountedRings,
  type CrownClass,
  type DatedDiameter,
  type GrowthEstimate,
  type MeasuredTree,
  type MeasureMethod,
  type ReadingQuestion,
  type RingExpectation,
  type SizeExpectation,
  USUAL_RINGS
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
  readonly standId: string | null;
  readonly species: SpeciesId | null;
  /** has it ever been tapped? */
  readonly tapped: boolean;
  /** in the order of time */
  readonly readings: readonly LineReading[];
  /** rings that were counted on a core or its stump */
  readonly counted: readonly CountedRings[];
  /** the last word on tapping, whether or not it still holds */
  readonly tapBan: TapBan | null;
}

/** What to expect of a tree of this bush. */
export interface Expectations {
  readonly rings: RingExpectation;
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
  { crownClass, standId, species, tapped, readings, counted, tapBan }: Grounds,
  today: string,
  { rings = USUAL_RINGS, sizes = null }: Partial<Expectations> = {}
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
  const growth = estimateGrowth(trusted, { crownClass, standId, species, counted }, rings);
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
  const measured: MeasuredTree[] = [];
  const dbhsMm: number[] = [];
  for (const grounds of trees) {
    const { growth, dbhMm } = tell(grounds, today);
    const { crownClass, standId, species } = grounds;
    if (growth.observed) measured.push({ crownClass, standId, species, ...growth.observed });
    if (dbhMm !== null) dbhsMm.push(dbhMm);
  }
  return roundedAll({ rings: expectedRings(measured), sizes: sizeExpectation(dbhsMm) });
}

/** The same with every number in it rounded. */
function roundedAll<T>(value: T): T {
  if (typeof value === 'number') return rounded(value) as T;
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, roundedAll(each as unknown)])) as T;
}
