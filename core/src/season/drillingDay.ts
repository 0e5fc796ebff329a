import { quantiles } from '../math/index.ts';
import {
  COURSE_DAYS,
  FIRST_START,
  LAST_START,
  litresByStart,
  type DrillingRound,
  type SeasonCourse
} from './course.ts';

/** What beginning the round on a day brings, over the years that are known. */
export interface StartOutlook {
  /** day of the year, the first of January being 0 */
  readonly day: number;
  /** litres a tap, on average over the years */
  readonly litres: number;
  /** of ten years one brings less, and one more */
  readonly low: number;
  readonly high: number;
}

/** When to begin, over all years that are known. */
export interface DrillingDay {
  /** by the day on which the round begins */
  readonly starts: readonly StartOutlook[];
  readonly best: StartOutlook;
  /** litres a tap that beginning a week before or after the best day costs on average */
  readonly weekEarlierCosts: number;
  readonly weekLaterCosts: number;
  /** each year by itself: litres a tap by the day of `starts`, and its own best day */
  readonly years: readonly { readonly season: number; readonly litres: readonly number[]; readonly best: number }[];
  /** the first and the last day on which beginning costs no more than a twentieth of the best */
  readonly window: readonly [first: number, last: number];
}

/** A day counts as good as the best where it brings at least this share of it. */
const AS_GOOD = 0.95;
/** Days by which a round may be early or late. */
const WEEK = 7;

/**
 * What each day on which the round may begin brings on average over the years that are known, and the best of them.
 * @param weights how much each year counts; all alike where nothing is said
 * @throws RangeError without a year
 */
export function drillingDay(
  courses: readonly SeasonCourse[],
  round: DrillingRound,
  weights: readonly number[] = courses.map(() => 1)
): DrillingDay {
  if (courses.length === 0) throw new RangeError('A year of weather is needed.');
  const byYear = courses.map((course) => litresByStart(course, round));
  const all = weights.reduce((sum, each) => sum + each, 0);
  const starts = Array.from({ length: LAST_START - FIRST_START + 1 }, (_, i): StartOutlook => {
    const day = FIRST_START + i;
    const litres = byYear.map((year) => year[day]!);
    const [low, high] = quantiles(litres, [0.1, 0.9]);
    return { day, litres: litres.reduce((sum, each, k) => sum + each * weights[k]!, 0) / all, low, high };
  });
  const best = bestOf(starts);
  const at = (day: number) => starts[Math.min(Math.max(day, FIRST_START), LAST_START) - FIRST_START]!.litres;
  const good = starts.filter(({ litres }) => litres >= AS_GOOD * best.litres);
  return {
    starts,
    best,
    weekEarlierCosts: best.litres - at(best.day - WEEK),
    weekLaterCosts: best.litres - at(best.day + WEEK),
    years: courses.map(({ season }, k) => {
      const litres = starts.map(({ day }) => byYear[k]![day]!);
      return { season, litres, best: FIRST_START + litres.indexOf(Math.max(...litres)) };
    }),
    window: [good[0]!.day, good.at(-1)!.day]
  };
}

const bestOf = (starts: readonly StartOutlook[]): StartOutlook =>
  starts.reduce((best, start) => (start.litres > best.litres ? start : best));

/** How the rest of this year may go: a course of which the days up to today are what came. */
export interface Scenario {
  readonly course: SeasonCourse;
  readonly weight: number;
}

/** Is the round begun today, or is waiting worth more? */
export interface DrillNow {
  /** day of the year to begin, today's or a later one */
  readonly day: number;
  /** litres a tap expected where it begins today, and on the best day from today on */
  readonly todayLitres: number;
  readonly bestLitres: number;
}

/**
 * What is expected of beginning today against any later day, over the ways in which the rest of the year may go. Asked anew every
 * day: what came is known by then.
 * @param today day of the year, the first of January being 0
 */
export function drillNow(scenarios: readonly Scenario[], today: number, round: DrillingRound): DrillNow {
  const byScenario = scenarios.map(({ course, weight }) => ({ litres: litresByStart(course, round), weight }));
  const all = scenarios.reduce((sum, { weight }) => sum + weight, 0);
  const expected = (day: number) =>
    byScenario.reduce((sum, { litres, weight }) => sum + weight * litres[day]!, 0) / all;
  const from = Math.min(today, COURSE_DAYS - 1);
  let [day, bestLitres] = [from, expected(from)];
  const todayLitres = bestLitres;
  for (let later = from + 1; later <= Math.max(from, LAST_START); later++) {
    const litres = expected(later);
    if (litres > bestLitres) [day, bestLitres] = [later, litres];
  }
  return { day, todayLitres, bestLitres };
}
