import { mean, sampleDeviation } from '../math/index.ts';

/** Where a day's weather was learned, what is trusted most first: read off by hand in the bush, its own thermometer, a station, a forecast. */
export const WEATHER_SOURCES = ['typed', 'thermometer', 'station', 'forecast'] as const;
export type WeatherSourceKind = (typeof WEATHER_SOURCES)[number];

/** A day of weather, as climate archives keep it: its minimum is that of the night which led into it. */
export interface WeatherDay {
  /** ISO date */
  readonly on: string;
  /** °C */
  readonly minC: number;
  /** °C */
  readonly maxC: number;
}

/** A day, and where it comes from. */
export interface SourcedDay extends WeatherDay {
  readonly from: WeatherSourceKind;
}

/** A day of the series that everything is told from. */
export interface SeriesDay extends WeatherDay {
  /** `filled`: nobody measured it, and the days on both sides agree */
  readonly from: WeatherSourceKind | 'filled';
}

/** No weather where trees grow is colder than this, °C. From memory. */
const COLDEST_C = -70;
/** None is warmer than this, °C: the record of the earth is 57. From memory. */
const WARMEST_C = 58;
/** Within a day the air seldom goes farther than this, °C; farther is asked about. Working assumption. */
const WIDEST_SWING_C = 35;

/** What is wrong with a day, in a sentence; null where nothing is. */
export function dayProblem({ minC, maxC }: Pick<WeatherDay, 'minC' | 'maxC'>): string | null {
  if (!Number.isFinite(minC) || !Number.isFinite(maxC)) return 'A day has a lowest and a highest temperature.';
  if (minC > maxC) return `The lowest, ${minC} °C, is above the highest, ${maxC} °C. Are the two columns exchanged?`;
  if (minC < COLDEST_C || maxC > WARMEST_C)
    return `${minC} to ${maxC} °C is no weather of this earth. Look at the unit.`;
  if (maxC - minC > WIDEST_SWING_C)
    return `${minC} to ${maxC} °C within one day is more than ${WIDEST_SWING_C} °C. Look at both.`;
  return null;
}

/** A day so many days after another. @param on ISO date */
export function dayAfter(on: string, days = 1): string {
  return new Date(Date.parse(`${on}T00:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10);
}

/** How many days from one to another. @param from ISO date @param to ISO date */
export function daysBetween(from: string, to: string): number {
  return Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / DAY_MS);
}
/** Milliseconds of a day. */
const DAY_MS = 86_400_000;

/** How far a thermometer in the bush stands from the station, °C: added to what the station says. */
export interface Offset {
  readonly minC: number;
  readonly maxC: number;
  /** what is unknown of each, 1 sd */
  readonly minSeC: number;
  readonly maxSeC: number;
  /** how far a single day strays besides, 1 sd */
  readonly scatterC: number;
  /** days on which both were read */
  readonly days: number;
}

/** How far a hill or a hollow usually lies from its station, °C, 1 sd. Working assumption. */
const OFFSET_SD_C = 2;
/** How far a day usually strays from that, °C, until some are known. Working assumption. */
const SCATTER_C = 1.2;
/** So many days tell the scatter by themselves. */
const DAYS_FOR_SCATTER = 8;

/**
 * What the bush's own thermometer shows against the station, learned from the days on which both were read: the mean difference,
 * drawn towards none as long as there are few. Minima and maxima by themselves: cold air lies in hollows by night alone.
 */
export function offsetOf(own: readonly WeatherDay[], station: readonly WeatherDay[]): Offset {
  const byDay = new Map(station.map((day) => [day.on, day]));
  const both = own.flatMap((day) => {
    const there = byDay.get(day.on);
    return there ? { min: day.minC - there.minC, max: day.maxC - there.maxC } : [];
  });
  const told = (differences: readonly number[]) => {
    const many = differences.length;
    const scatter = many < DAYS_FOR_SCATTER ? SCATTER_C : Math.max(0.1, sampleDeviation(differences));
    const precision = 1 / OFFSET_SD_C ** 2 + many / scatter ** 2;
    return {
      offset: many === 0 ? 0 : (mean(differences) * many) / scatter ** 2 / precision,
      se: Math.sqrt(1 / precision),
      scatter
    };
  };
  const min = told(both.map((day) => day.min));
  const max = told(both.map((day) => day.max));
  return {
    minC: min.offset,
    maxC: max.offset,
    minSeC: min.se,
    maxSeC: max.se,
    scatterC: (min.scatter + max.scatter) / 2,
    days: both.length
  };
}

/** A station's day as it is in the bush. */
export function inTheBush<D extends WeatherDay>(day: D, { minC, maxC }: Pick<Offset, 'minC' | 'maxC'>): D {
  const [low, high] = [day.minC + minC, day.maxC + maxC];
  return { ...day, minC: Math.min(low, high), maxC: Math.max(low, high) };
}

/** A gap of more days than this is left open. */
const LONGEST_GAP = 2;
/** Both sides of a gap agree where neither their minima nor their maxima lie farther apart, °C. Working assumption. */
const SIDES_AGREE_C = 4;

/**
 * One series of a bush: for each day what is trusted most, a station's and a forecast's days as they are in the bush. A gap of a
 * day or two is filled where the days on both sides agree, and says so; a longer one stays open.
 * @param days in any order; of one source the later in the list holds for a day
 */
export function seriesOf(days: readonly SourcedDay[], offset: Pick<Offset, 'minC' | 'maxC'>): SeriesDay[] {
  const trust = (day: SourcedDay) => WEATHER_SOURCES.indexOf(day.from);
  const chosen = new Map<string, SourcedDay>();
  for (const day of days) {
    const before = chosen.get(day.on);
    if (!before || trust(day) <= trust(before)) chosen.set(day.on, day);
  }
  const known = [...chosen.values()]
    .map((day): SeriesDay => (day.from === 'station' || day.from === 'forecast' ? inTheBush(day, offset) : day))
    .sort((a, b) => (a.on < b.on ? -1 : 1));
  return known.flatMap((day, i) => {
    const next = known[i + 1];
    return next ? [day, ...filledBetween(day, next)] : [day];
  });
}

function filledBetween(before: SeriesDay, after: SeriesDay): SeriesDay[] {
  const gap = daysBetween(before.on, after.on) - 1;
  const apart = Math.max(Math.abs(after.minC - before.minC), Math.abs(after.maxC - before.maxC));
  const foretold = before.from === 'forecast' || after.from === 'forecast';
  if (gap < 1 || gap > LONGEST_GAP || apart > SIDES_AGREE_C || foretold) return [];
  return Array.from({ length: gap }, (_, i) => {
    const share = (i + 1) / (gap + 1);
    return {
      on: dayAfter(before.on, i + 1),
      minC: before.minC + share * (after.minC - before.minC),
      maxC: before.maxC + share * (after.maxC - before.maxC),
      from: 'filled'
    };
  });
}
