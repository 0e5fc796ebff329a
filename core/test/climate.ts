import type { Rng } from '../src/math/index.ts';
import { COURSE_DAYS, forecastSd, type YearOfWeather } from '../src/season/index.ts';

/*
 * A climate of known law, for tests that need more years than anybody measured: the mean of a sugarbush's winter and spring as a
 * cosine, years that are warmer or colder as a whole, days that follow each other. Invented, and made without the model.
 */

/** How far years differ as a whole, °C, 1 sd. */
const YEARS_SD_C = 1.5;
/** How far days differ, °C, 1 sd, and how alike two days in a row are. */
const DAYS_SD_C = 4.5;
const ALIKE = 0.75;

/** A year of the climate. */
export function simulatedYear(season: number, rng: Rng): YearOfWeather {
  const shift = rng.normal(0, YEARS_SD_C);
  let strays = rng.normal(0, DAYS_SD_C);
  const [minC, maxC] = [new Float64Array(COURSE_DAYS), new Float64Array(COURSE_DAYS)];
  for (let day = 0; day < COURSE_DAYS; day++) {
    const middle = 6.5 - 14 * Math.cos((2 * Math.PI * (day - 18)) / 365) + shift + strays;
    const half = Math.max(1.5, rng.normal(5, 1.7));
    minC[day] = middle - half;
    maxC[day] = middle + half;
    strays = ALIKE * strays + rng.normal(0, DAYS_SD_C * Math.sqrt(1 - ALIKE ** 2));
  }
  return { season, minC, maxC };
}

/** What a forecast says of the days from one on: the truth with errors of its own. */
export function simulatedForecast(truth: YearOfWeather, { from, days }: { from: number; days: number }, rng: Rng) {
  return Array.from({ length: Math.min(days, COURSE_DAYS - from) }, (_, ahead) => {
    const a = truth.minC[from + ahead]! + rng.normal(0, forecastSd(ahead));
    const b = truth.maxC[from + ahead]! + rng.normal(0, forecastSd(ahead));
    return { minC: Math.min(a, b), maxC: Math.max(a, b) };
  });
}
