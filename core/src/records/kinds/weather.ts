import { z } from 'zod';

import { WEATHER_SOURCES } from '../../season/index.ts';
import { day } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';
import { lineOfText } from '../text.ts';

/** °C; null on a day that nobody read. No weather where trees grow lies outside. */
const temperatures = z.array(z.number().min(-70).max(58).nullable()).min(1).max(366);

/** Days of weather in a row as one source has them: a whole year of a station's file, or one reading. What is written later holds for a day. */
export const weather = recordKind({
  kind: 'weather',
  table: 'weatherDays',
  label: 'weather',
  of: 'bush',
  group: 'season',
  writer: 'crew',
  fields: {
    source: z.enum(WEATHER_SOURCES),
    /** which station, service or thermometer */
    place: lineOfText(80),
    /** the first day; a forecast was made on the day of its record */
    from: day(),
    minC: temperatures,
    maxC: temperatures
  },
  rules: [
    {
      holds: ({ minC, maxC }) =>
        minC.length === maxC.length && minC.every((low, i) => (low === null) === (maxC[i] === null)),
      path: ['maxC'],
      message: 'names a highest temperature for each day that has a lowest one, and for no other'
    },
    {
      holds: ({ minC, maxC }) => minC.every((low, i) => low === null || low <= (maxC[i] ?? low)),
      path: ['minC'],
      message: 'lies above the highest temperature of its day'
    }
  ],
  holds: 'list'
});
export type WeatherRecord = RecordOf<typeof weather>;
