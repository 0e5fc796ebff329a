import { FORECAST_SD_A_DAY_C, FORECAST_SD_C } from './scenarios.ts';
import { daysBetween, type WeatherDay } from './weather.ts';

/** A forecast as it was kept: what was said on a day of the days after it. */
export interface KeptForecast {
  /** ISO date on which it was made */
  readonly madeOn: string;
  readonly days: readonly WeatherDay[];
}

/** How wrong a service's forecasts are here: °C, 1 sd, for the first day and more for each day ahead; and by how much on average. */
export interface ForecastError {
  readonly firstC: number;
  readonly aDayC: number;
  /** what it says is so much warmer than what came, °C */
  readonly tooWarmC: number;
  /** days of forecasts that were held against what came */
  readonly days: number;
}

/** What is assumed counts like so many days of forecasts. Working assumption. */
const ASSUMED_DAYS = 20;

/** How wrong a forecast is so many days ahead by what was learned, °C, 1 sd. @param ahead 0 for its first day */
export const forecastError = ({ firstC, aDayC }: Pick<ForecastError, 'firstC' | 'aDayC'>, ahead: number): number =>
  firstC + aDayC * ahead;

/**
 * Learns how wrong forecasts are here from those that were kept and what came: a straight line through how far they missed by the
 * days ahead, drawn towards what is assumed as long as there are few.
 */
export function learnForecasts(kept: readonly KeptForecast[], came: readonly WeatherDay[]): ForecastError {
  const byDay = new Map(came.map((day) => [day.on, day]));
  const missed = kept.flatMap(({ madeOn, days }) =>
    days.flatMap((day) => {
      const truth = byDay.get(day.on);
      const ahead = daysBetween(madeOn, day.on);
      return truth && ahead >= 0 ? [day.minC - truth.minC, day.maxC - truth.maxC].map((by) => ({ ahead, by })) : [];
    })
  );
  const tooWarmC = missed.reduce((sum, { by }) => sum + by, 0) / (missed.length + 2 * ASSUMED_DAYS);
  // Least squares of how far it missed, which of a normal error is 0.798 of its sd on average; what is assumed as days of its own.
  const assumed = Array.from({ length: 2 * ASSUMED_DAYS }, (_, i) => {
    const ahead = i % 10;
    return { ahead, far: FORECAST_SD_C + FORECAST_SD_A_DAY_C * ahead };
  });
  const points = [
    ...assumed,
    ...missed.map(({ ahead, by }) => ({ ahead, far: Math.abs(by - tooWarmC) / MEAN_OF_NORMAL }))
  ];
  const many = points.length;
  const [x, y] = [points.reduce((sum, p) => sum + p.ahead, 0) / many, points.reduce((sum, p) => sum + p.far, 0) / many];
  const across = points.reduce((sum, p) => sum + (p.ahead - x) ** 2, 0);
  const aDayC = Math.max(0, points.reduce((sum, p) => sum + (p.ahead - x) * (p.far - y), 0) / across);
  return { firstC: Math.max(0.1, y - aDayC * x), aDayC, tooWarmC, days: missed.length / 2 };
}

/** How far a standard normal lies from nought on average: the square root of 2/π. */
const MEAN_OF_NORMAL = 0.7979;
