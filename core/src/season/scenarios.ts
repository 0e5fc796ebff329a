import type { Rng } from '../math/index.ts';
import {
  COURSE_DAYS,
  courseFrom,
  traceDay,
  traced,
  type DayLook,
  type TracedYear,
  type YearOfWeather
} from './course.ts';
import type { Scenario } from './drillingDay.ts';
import type { WeatherDay } from './weather.ts';
import type { TapGroup } from './yield.ts';

/** How wrong a forecast is for its first day, °C, 1 sd. Working assumption. */
export const FORECAST_SD_C = 1.2;
/** How much more it is for each day ahead, °C. Working assumption. */
export const FORECAST_SD_A_DAY_C = 0.35;
/** How alike the errors of one forecast are from one day to the next. Working assumption. */
const FORECAST_ALIKE = 0.7;

/** How wrong a forecast is usually, °C, 1 sd. @param ahead 0 for its first day */
export const forecastSd = (ahead: number): number => FORECAST_SD_C + FORECAST_SD_A_DAY_C * ahead;

/** Years count by how near the warmth that buds had by now is to this year's, degree-days, 1 sd. Working assumption. */
const LIKE_WITHIN = 20;
/** Every year counts a little: no year was ever like another. */
const LEAST_WEIGHT = 0.1;
/** Ways in which a forecast may come out, for each year that goes on after it. */
const DRAWS = 4;

/** What is known on a day, of this year and those before. */
export interface KnownWeather {
  /** this year as far as it came; what lies from today on is not looked at */
  readonly thisYear: YearOfWeather;
  /** day of the year, the first of January being 0 */
  readonly today: number;
  /** today and the days after it, one after the other, as foretold; none where there is no forecast */
  readonly forecast: readonly Pick<WeatherDay, 'minC' | 'maxC'>[];
  /** how wrong the forecast is so many days after its first, °C, 1 sd; as usual where nothing is said */
  readonly forecastSd?: (ahead: number) => number;
  /** what was seen of the group's buds this year */
  readonly looks?: readonly DayLook[];
  /** whole years before */
  readonly years: readonly YearOfWeather[];
}

/**
 * The ways in which the rest of this year may go: what came as far as somebody measured it, then the forecast with its errors, then as in each of the years
 * before, the likelier the more alike they were by now.
 * @returns none where no year before is known well enough
 */
export function scenariosOf(known: KnownWeather, group: TapGroup, rng: Rng): Scenario[] {
  const { today, thisYear, forecast, looks = [], years } = known;
  const came = traced(thisYear, group);
  const isKnown = (at: number) => !Number.isNaN(came.index[at]);
  const draws = forecast.length > 0 ? DRAWS : 1;
  return years.flatMap((other) => {
    const before = traced(other, group);
    let apart = 0;
    for (let at = 0; at < today; at++) if (isKnown(at)) apart += before.warms[at]! - came.warms[at]!;
    const weight = (LEAST_WEIGHT + Math.exp(-((apart / LIKE_WITHIN) ** 2) / 2)) / draws;
    return Array.from({ length: draws }, (): Scenario[] => {
      const year = goingOn(came, before, today);
      for (const [ahead, day] of comesOut(forecast, known.forecastSd ?? forecastSd, rng).entries())
        if (today + ahead < COURSE_DAYS) traceDay(year, today + ahead, day, group);
      const course = courseFrom(thisYear.season, year, { species: group.species, looks });
      return course ? [{ course, weight }] : [];
    }).flat();
  });
}

/** A year as it came up to a day, and then as another went on; days that nobody measured are taken as in the other one too. */
function goingOn(came: TracedYear, other: TracedYear, today: number): TracedYear {
  const year = { index: other.index.slice(), warms: other.warms.slice(), drillable: other.drillable.slice() };
  for (let at = 0; at < today; at++) {
    if (Number.isNaN(came.index[at])) continue;
    year.index[at] = came.index[at]!;
    year.warms[at] = came.warms[at]!;
    year.drillable[at] = came.drillable[at]!;
  }
  return year;
}

/**
 * A forecast as it may come out: its errors go together from one day to the next.
 * @param sdOf how wrong it is so many days ahead, °C, 1 sd
 */
export function comesOut(
  forecast: readonly Pick<WeatherDay, 'minC' | 'maxC'>[],
  sdOf: (ahead: number) => number,
  rng: Rng
): Pick<WeatherDay, 'minC' | 'maxC'>[] {
  let [low, high] = [rng.normal(0, 1), rng.normal(0, 1)];
  const own = Math.sqrt(1 - FORECAST_ALIKE ** 2);
  return forecast.map((day, ahead) => {
    const sd = sdOf(ahead);
    const [a, b] = [day.minC + sd * low, day.maxC + sd * high];
    low = FORECAST_ALIKE * low + own * rng.normal(0, 1);
    high = FORECAST_ALIKE * high + own * rng.normal(0, 1);
    return { minC: Math.min(a, b), maxC: Math.max(a, b) };
  });
}
