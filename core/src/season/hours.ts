import type { WeatherDay } from './weather.ts';

/** Hours of a day. */
export const DAY_HOURS = 24;
/** The hour about which it is coldest in late winter. Common practice. */
const COLDEST_HOUR = 6;
/** The hour about which it is warmest. Common practice. */
const WARMEST_HOUR = 15;
/** Sap begins to run so many hours after the air has thawed. Working assumption. */
export const LAG_HOURS = 1;

/**
 * How warm it is hour by hour through days in a row: from each lowest to the highest and on to the next lowest, as cosines.
 * @returns °C, `DAY_HOURS` of each day, at the middle of the hours
 */
export function hourlyTemperatures(days: readonly Pick<WeatherDay, 'minC' | 'maxC'>[]): Float64Array {
  const between = (from: number, to: number, share: number) =>
    from + ((to - from) * (1 - Math.cos(Math.PI * share))) / 2;
  return Float64Array.from({ length: days.length * DAY_HOURS }, (_, at) => {
    const i = Math.floor(at / DAY_HOURS);
    const hour = (at % DAY_HOURS) + 0.5;
    const { minC, maxC } = days[i]!;
    if (hour < COLDEST_HOUR) {
      const before = days[i - 1] ?? days[i]!;
      return between(before.maxC, minC, (hour + DAY_HOURS - WARMEST_HOUR) / (COLDEST_HOUR + DAY_HOURS - WARMEST_HOUR));
    }
    if (hour < WARMEST_HOUR) return between(minC, maxC, (hour - COLDEST_HOUR) / (WARMEST_HOUR - COLDEST_HOUR));
    const next = days[i + 1] ?? days[i]!;
    return between(maxC, next.minC, (hour - WARMEST_HOUR) / (COLDEST_HOUR + DAY_HOURS - WARMEST_HOUR));
  });
}

/**
 * How a day's sap comes by its hours: with the warmth, an hour after the thaw.
 * @param temperatures of the hours of days in a row
 * @returns shares that add up to 1 for each day on which it thaws at all, and to 0 for any other
 */
export function hourlyShares(temperatures: Float64Array): Float64Array {
  const shares = temperatures.map((_, at) => Math.max(0, temperatures[Math.max(0, at - LAG_HOURS)]!));
  for (let from = 0; from < shares.length; from += DAY_HOURS) {
    const day = shares.subarray(from, from + DAY_HOURS);
    const all = day.reduce((sum, each) => sum + each, 0);
    if (all > 0) for (const at of day.keys()) day[at]! /= all;
  }
  return shares;
}
