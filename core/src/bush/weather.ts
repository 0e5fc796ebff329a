import type { BushRecord, WeatherRecord } from '../records/index.ts';
import {
  COURSE_DAYS,
  courseOf,
  dayAfter,
  daysBetween,
  forecastError,
  learnForecasts,
  offsetOf,
  runIndex,
  RUNS_FROM,
  seriesOf,
  yearOf,
  type ForecastError,
  type KeptForecast,
  type Offset,
  type SeriesDay,
  type SourcedDay,
  type WeatherDay,
  type YearOfWeather
} from '../season/index.ts';

/** The days that a record tells of. */
export function daysOf({
  source,
  from,
  minC,
  maxC
}: Pick<WeatherRecord, 'source' | 'from' | 'minC' | 'maxC'>): SourcedDay[] {
  return minC.flatMap((low, i) => {
    const high = maxC[i] ?? null;
    return low === null || high === null ? [] : [{ on: dayAfter(from, i), minC: low, maxC: high, from: source }];
  });
}

/** Days as records of weather want them: one a year, with gaps where nobody read. @param days in any order, each once */
export function asRecords<D extends WeatherDay>(days: readonly D[]): Pick<WeatherRecord, 'from' | 'minC' | 'maxC'>[] {
  const byYear = new Map<string, D[]>();
  for (const day of days) {
    const year = day.on.slice(0, 4);
    byYear.set(year, [...(byYear.get(year) ?? []), day]);
  }
  const years = [...byYear].sort(([a], [b]) => (a < b ? -1 : 1));
  return years.map(([, own]) => {
    const sorted = own.sort((a, b) => (a.on < b.on ? -1 : 1));
    const from = sorted[0]!.on;
    const many = daysBetween(from, sorted.at(-1)!.on) + 1;
    const minC: (number | null)[] = Array.from({ length: many }, () => null);
    const maxC = minC.slice();
    for (const day of sorted) {
      const at = daysBetween(from, day.on);
      minC[at] = day.minC;
      maxC[at] = day.maxC;
    }
    return { from, minC, maxC };
  });
}

/** A day that lies ahead, and how wrong what is said of it may be. */
export interface DayAhead extends WeatherDay {
  /** °C, 1 sd */
  readonly sdC: number;
}

/** What a bush knows of its weather. */
export interface BushWeather {
  /** every day until yesterday that anybody measured, or whose forecast alone is known; where both sides agree filled */
  readonly past: readonly SeriesDay[];
  /** today and what is foretold after it, as it is in the bush */
  readonly ahead: readonly DayAhead[];
  /** who foretold it, and when; null where nobody did, or where it does not reach to today */
  readonly foretold: { readonly by: string; readonly on: string } | null;
  /** the bush's own thermometer against the station */
  readonly offset: Offset;
  readonly misses: ForecastError;
}

/**
 * What the records of a bush say of its weather, up to today and on.
 * @param records of the bush that hold
 * @param today ISO date
 */
export function weatherOf(records: readonly BushRecord[], today: string): BushWeather {
  const told = records.filter((record) => record.kind === 'weather');
  const measured = told.filter(({ source }) => source !== 'forecast').flatMap(daysOf);
  const of = (...sources: SourcedDay['from'][]) => measured.filter(({ from }) => sources.includes(from));
  const offset = offsetOf(of('typed', 'thermometer'), of('station'));
  const forecasts = told.filter(({ source, on }) => source === 'forecast' && on <= today);
  const kept = forecasts.map((record): KeptForecast => ({ madeOn: record.on, days: daysOf(record) }));
  const came = seriesOf(
    measured.filter(({ on }) => on < today),
    offset
  );
  // What a service says is of its station: it is held against what came in the bush less what is known of the place.
  const misses = learnForecasts(
    kept,
    came.map((day) => ({ ...day, minC: day.minC - offset.minC, maxC: day.maxC - offset.maxC }))
  );
  const series = seriesOf(
    [
      ...measured.filter(({ on, from }) => on < today || (on === today && from === 'typed')),
      ...forecasts.flatMap(daysOf)
    ],
    offset
  );
  const last = forecasts.at(-1) ?? null;
  const ahead = series.flatMap((day): DayAhead[] => {
    if (day.on < today) return [];
    if (day.from !== 'forecast') return [{ ...day, sdC: 0 }];
    return [
      {
        on: day.on,
        minC: day.minC - misses.tooWarmC,
        maxC: day.maxC - misses.tooWarmC,
        sdC: Math.hypot(forecastError(misses, Math.max(0, daysBetween(last!.on, day.on))), offset.maxSeC)
      }
    ];
  });
  return {
    past: series.filter(({ on }) => on < today),
    // Days ahead are one after the other from today: what lies behind a gap is no forecast.
    ahead: ahead.filter((day, i) => day.on === dayAfter(today, i)),
    foretold: last && ahead.length > 0 ? { by: last.place, on: last.on } : null,
    offset,
    misses
  };
}

/** A group that any season can be told of: of its weather alone. */
const ANY = { species: null, sunny: false };

/** The seasons before one whose weather is known well enough to learn from. */
export function yearsKnown(past: readonly WeatherDay[], season: number): YearOfWeather[] {
  const seasons = [...new Set(past.map(({ on }) => Number(on.slice(0, 4))))].filter((year) => year < season);
  return seasons
    .sort((a, b) => a - b)
    .map((year) => yearOf(year, past))
    .filter((year) => courseOf(year, ANY) !== null);
}

/** What one source has told so far. */
export interface ToldBy {
  readonly source: WeatherRecord['source'];
  readonly place: string;
  readonly days: number;
  /** ISO dates of the first and the last of them */
  readonly first: string;
  readonly last: string;
}

/** The sources of a bush's weather, each with the days that it told. @param records of the bush that hold */
export function toldBy(records: readonly BushRecord[]): ToldBy[] {
  const bySource = new Map<string, { source: WeatherRecord['source']; place: string; days: Set<string> }>();
  for (const record of records) {
    if (record.kind !== 'weather') continue;
    const { source, place } = record;
    const key = `${source} ${place}`;
    const known = bySource.get(key) ?? { source, place, days: new Set<string>() };
    for (const { on } of daysOf(record)) known.days.add(on);
    bySource.set(key, known);
  }
  return [...bySource.values()].flatMap(({ source, place, days }) => {
    const sorted = [...days].sort();
    const [first, last] = [sorted[0], sorted.at(-1)];
    return first && last ? [{ source, place, days: sorted.length, first, last }] : [];
  });
}

/**
 * In how many of the known years it ran on each day of the year.
 * @returns shares by day, the first of January being 0; NaN where no year knows it
 */
export function usualRuns(years: readonly YearOfWeather[]): Float64Array {
  return Float64Array.from({ length: COURSE_DAYS }, (_, at) => {
    const known = years.filter(({ minC }) => !Number.isNaN(minC[at]));
    const ran = known.filter(({ minC, maxC }) => runIndex({ minC: minC[at]!, maxC: maxC[at]! }) >= RUNS_FROM);
    return ran.length / known.length;
  });
}
