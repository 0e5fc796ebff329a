import type { SeriesDay } from '../season/index.ts';
import { writeRows } from './safeCells.ts';

/** Days of weather as climate archives write them, in °C, each with where it comes from. */
export function writeWeather(days: readonly SeriesDay[]): string {
  const rows = days.map(({ on, minC, maxC, from }) => [on, minC.toFixed(1), maxC.toFixed(1), from]);
  return writeRows([['DATE', 'TMIN', 'TMAX', 'SOURCE'], ...rows], '\r\n');
}
