import { overByBuds, budNeedOf, BUD_BASE_C, BUD_START, type BudLook } from './buds.ts';
import type { SeasonSignKind } from './signs.ts';
import { isDrillable, runIndex, warmthAbove } from './run.ts';
import { daysBetween, type WeatherDay } from './weather.ts';
import { ageing, LITRES_AT_FULL, SUN_WARMS_C, type TapGroup } from './yield.ts';

/** Days of a year that a season may lie in: the first of January to the end of May. */
export const COURSE_DAYS = 151;
/** A year of which more days are missing teaches nothing of when to drill. */
const MOST_MISSING = 12;
/** What is missing is taken as the known days so near by gave on average. */
const NEAR_DAYS = 5;

/** Day of the year from which on a hole is worth asking for, counted from 0: the tenth of January. */
export const FIRST_START = 9;
/** The last of them: the end of April. */
export const LAST_START = 119;

/** The weather of one year by its days from the first of January, `COURSE_DAYS` of each, °C; NaN where nobody measured. */
export interface YearOfWeather {
  readonly season: number;
  readonly minC: Float64Array;
  readonly maxC: Float64Array;
}

/** The days of a season out of a series. */
export function yearOf(season: number, days: readonly WeatherDay[]): YearOfWeather {
  const first = `${season}-01-01`;
  const minC = new Float64Array(COURSE_DAYS).fill(NaN);
  const maxC = new Float64Array(COURSE_DAYS).fill(NaN);
  for (const day of days) {
    const at = day.on.startsWith(String(season)) ? daysBetween(first, day.on) : -1;
    if (at < 0 || at >= COURSE_DAYS) continue;
    minC[at] = day.minC;
    maxC[at] = day.maxC;
  }
  return { season, minC, maxC };
}

/** A group's season in one year, day by day from the first of January. */
export interface SeasonCourse {
  readonly season: number;
  /** what a fresh hole gives, 0..1; of a day that nobody measured what the days around it gave */
  readonly gives: Float64Array;
  /** is the wood not frozen hard, so that it can be drilled? */
  readonly drillable: Uint8Array;
  /** warmth that the buds had by the end of the day, degree-days */
  readonly warmth: Float64Array;
  /** days that nobody measured */
  readonly missing: number;
}

/** The first day of a year whose warmth buds feel, counted from 0. */
export const BUDS_FROM = daysBetween('2001-01-01', `2001${BUD_START}`);

/** What the days of a year mean to a group, each by itself; NaN where nobody measured. */
export interface TracedYear {
  /** run index, 0..1 */
  readonly index: Float64Array;
  /** warmth that the buds feel on the day, degree-days */
  readonly warms: Float64Array;
  readonly drillable: Uint8Array;
}

/** What a day means to a group, put into the day's place. */
export function traceDay(
  into: TracedYear,
  at: number,
  { minC, maxC }: Pick<WeatherDay, 'minC' | 'maxC'>,
  { sunny }: Pick<TapGroup, 'sunny'>
): void {
  const day = { minC, maxC: maxC + (sunny ? SUN_WARMS_C : 0) };
  const isKnown = !Number.isNaN(minC) && !Number.isNaN(maxC);
  into.index[at] = isKnown ? runIndex(day) : NaN;
  into.warms[at] = isKnown && at >= BUDS_FROM ? warmthAbove(BUD_BASE_C, day) : 0;
  into.drillable[at] = isKnown && !isDrillable(day) ? 0 : 1;
}

/** What the days of a year mean to a group. */
export function traced({ minC, maxC }: YearOfWeather, group: Pick<TapGroup, 'sunny'>): TracedYear {
  const year = {
    index: new Float64Array(COURSE_DAYS),
    warms: new Float64Array(COURSE_DAYS),
    drillable: new Uint8Array(COURSE_DAYS)
  };
  for (let at = 0; at < COURSE_DAYS; at++) traceDay(year, at, { minC: minC[at]!, maxC: maxC[at]! }, group);
  return year;
}

/** What was seen of a group on a day of the year. */
export interface DayLook {
  readonly day: number;
  readonly sign: SeasonSignKind;
}

/**
 * A group's season in one year.
 * @param until so many days of the year are what is asked about: of one that goes on, those that were
 * @returns null where too much of these is missing
 */
export function courseOf(
  year: YearOfWeather,
  group: TapGroup,
  looks: readonly DayLook[] = [],
  until = COURSE_DAYS
): SeasonCourse | null {
  return courseFrom(year.season, traced(year, group), { species: group.species, looks, until });
}

/** A group's season from what its days mean. @returns null where too many are missing */
export function courseFrom(
  season: number,
  { index, warms, drillable }: TracedYear,
  {
    species,
    looks = [],
    until = COURSE_DAYS
  }: { readonly species: TapGroup['species']; readonly looks?: readonly DayLook[]; readonly until?: number }
): SeasonCourse | null {
  const missing = index.subarray(0, until).reduce((sum, each) => sum + (Number.isNaN(each) ? 1 : 0), 0);
  if (missing > MOST_MISSING) return null;
  const gives = index.slice();
  if (missing > 0) fill(gives);
  let sum = 0;
  const warmth = warms.map((each) => (sum += each));
  const seen = looks.map(({ day, sign }): BudLook => ({ degreeDays: warmth[day]!, sign }));
  const over = overByBuds(budNeedOf(species), seen);
  for (let at = 0; at < COURSE_DAYS; at++) gives[at]! *= 1 - over(warmth[at]!);
  return { season, gives, drillable, warmth, missing };
}

/** Gives days that nobody measured what those around them have. */
function fill(values: Float64Array): void {
  const known = Float64Array.from(values);
  for (const at of values.keys()) {
    for (let near = NEAR_DAYS; Number.isNaN(values[at]); near += NEAR_DAYS) {
      const around = known.slice(Math.max(0, at - near), at + near + 1).filter((each) => !Number.isNaN(each));
      if (around.length > 0) values[at] = around.reduce((sum, each) => sum + each, 0) / around.length;
    }
  }
}

/** A round of drilling: how long it takes, and what its holes give. */
export interface DrillingRound {
  /** days of drilling, 1 or more */
  readonly days: number;
  readonly lifeDays: number;
  /** litres that a fresh hole gives on a day of index 1 */
  readonly litresAtFull?: number;
}

/** What one tap gives whose hole is made on each day of the year. @returns litres by day, `COURSE_DAYS` of them */
export function litresByHole({ gives }: Pick<SeasonCourse, 'gives'>, round: Omit<DrillingRound, 'days'>): Float64Array {
  const { lifeDays, litresAtFull = LITRES_AT_FULL } = round;
  const fades = Float64Array.from({ length: COURSE_DAYS }, (_, age) => litresAtFull * ageing(age, lifeDays));
  const litres = new Float64Array(COURSE_DAYS);
  for (let at = 0; at < COURSE_DAYS; at++) {
    const given = gives[at]!;
    if (given > 0) for (let from = 0; from <= at; from++) litres[from]! += given * fades[at - from]!;
  }
  return litres;
}

/**
 * What a tap gives on average where the round begins on each day: as many holes on each of its days. Days on which the wood is
 * frozen hard are waited out.
 * @returns litres a tap by the day on which the round begins, `COURSE_DAYS` of them
 */
export function litresByStart(course: SeasonCourse, round: DrillingRound): Float64Array {
  const byHole = litresByHole(course, round);
  return Float64Array.from({ length: COURSE_DAYS }, (_, start) => {
    let [sum, drilled] = [0, 0];
    for (let at = start; at < COURSE_DAYS && drilled < round.days; at++) {
      if (!course.drillable[at]) continue;
      sum += byHole[at]!;
      drilled += 1;
    }
    // Holes for which no day is left are not made, and give nothing.
    return sum / round.days;
  });
}
