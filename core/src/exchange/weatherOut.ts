import Papa from 'papaparse';

import type { SeriesDay } from '../season/index.ts';

/** Days of weather as climate archives write them, in °C, each with where it comes from. */
export function writeWeather(days: readonly SeriesDay[]): string {
  return Papa.unparse(
    {
      fields: ['DATE', 'TMIN', 'TMAX', 'SOURCE'],
      data: days.map(({ on, minC, maxC, from }) => [on, minC.toFixed(1), maxC.toFixed(1), from])
    },
    { newline: '\r\n' }
  );
}
