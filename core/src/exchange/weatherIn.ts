import { mean, median } from '../math/index.ts';
import { dayProblem, type WeatherDay } from '../season/index.ts';
import { isIsoDate } from './dateIn.ts';
import { brief, tableIn, type Row } from './grid.ts';
import { BadCell, type BadRow } from './faults.ts';
import { MAX_ROWS, UnreadableFile } from './statement.ts';

/** What the temperatures of a file are written in. */
export const WEATHER_UNITS = ['c', 'f', 'tenthsC'] as const;
export type WeatherUnit = (typeof WEATHER_UNITS)[number];

/** What was understood of a file of weather. */
export interface WeatherFile {
  readonly days: readonly WeatherDay[];
  readonly bad: readonly BadRow[];
  /** days of which the file has no temperature, or only one */
  readonly without: number;
  readonly unit: WeatherUnit;
  /** who says so: whoever brought the file in, its heading, or its figures */
  readonly unitFrom: 'said' | 'heading' | 'figures';
  /** in a sentence, what the figures say against the unit; null where they say nothing */
  readonly doubt: string | null;
  /** stations that it tells of; empty where it names none */
  readonly stations: readonly string[];
}

/** A file that can be read once whoever brings it in has said which of its stations, or which unit. */
export class OpenWeatherFile extends UnreadableFile {
  constructor(
    message: string,
    readonly asks: 'station' | 'unit',
    /** what it tells of, where one has to be chosen */
    readonly stations: readonly string[] = []
  ) {
    super(message);
  }
}

export interface WeatherOptions {
  /** ISO date; later days are no measurements */
  readonly today: string;
  /** what whoever brings the file in says of its unit */
  readonly unit?: WeatherUnit;
  /** the one station to be read, where there are several */
  readonly station?: string;
}

const COLUMNS = {
  on: /^(date|day|datum)$/,
  min: /^(tmin|t_min|temp_min|min_?temp|minimum|min|low|lowest)(?:[ _(°]*(c|f|degc|degf|celsius|fahrenheit)\)?)?$/,
  max: /^(tmax|t_max|temp_max|max_?temp|maximum|max|high|highest)(?:[ _(°]*(c|f|degc|degf|celsius|fahrenheit)\)?)?$/,
  station: /^(station|station_?id|location|name|site)$/
} as const;
type Column = keyof typeof COLUMNS;

/** How archives write that a value is missing. */
const MISSING = /^(|m|na|nan|null|-|t|9999|-9999|999|-999|-99)(\.0+)?$/i;

/**
 * Reads a daily table as public climate archives give it: a day, its lowest and its highest temperature, in degrees Celsius,
 * Fahrenheit or tenths of a degree Celsius. Which of these is told by the heading, else by the figures; where they contradict what is
 * said, the file is read as said and the doubt is told. Bad rows are named and keep their cells.
 * @throws UnreadableFile where the columns are missing, there are several stations and none was chosen, or nobody can tell the unit
 */
export function readWeather(text: string, options: WeatherOptions): WeatherFile {
  if (/^\s*</.test(text)) throw new UnreadableFile('This is a web page and no table. Save the table itself as CSV.');
  const { heading, rows } = tableIn(text);
  if (rows.length > MAX_ROWS)
    throw new UnreadableFile(`The file has more than ${MAX_ROWS} rows. Split it and import the parts.`);
  const { at, unit: inHeading } = understand(heading);
  const cell = ({ cells }: Row, column: Column) => (at[column] === undefined ? '' : (cells[at[column]] ?? '').trim());
  const stations = [...new Set(rows.map((row) => cell(row, 'station')).filter((name) => name !== ''))];
  const { station } = options;
  if (stations.length > 1 && station === undefined)
    throw new OpenWeatherFile(
      `The file tells of ${stations.length} stations: ${brief(stations.join(', '))}. Choose one.`,
      'station',
      stations
    );
  const own = station === undefined ? rows : rows.filter((row) => cell(row, 'station') === station);

  const bad: BadRow[] = [];
  const read: { readonly on: string; readonly min: number; readonly max: number; readonly row: Row }[] = [];
  let without = 0;
  for (const row of own) {
    const [low, high] = [cell(row, 'min'), cell(row, 'max')];
    if (MISSING.test(low) || MISSING.test(high)) {
      without += 1;
      continue;
    }
    attempt(row, () => {
      read.push({ on: readDate(cell(row, 'on'), options.today), min: readDegrees(low), max: readDegrees(high), row });
    });
  }
  const figures = likeliestUnit(read);
  const unit = options.unit ?? inHeading ?? figures;
  if (unit === null && read.length > 0)
    throw new OpenWeatherFile(
      'These may be degrees Celsius or Fahrenheit. Say which, and read the file again.',
      'unit'
    );

  const days = new Map<string, { readonly day: WeatherDay; readonly line: number }>();
  for (const { on, min, max, row } of read)
    attempt(row, () => {
      const day = { on, minC: toCelsius(min, unit!), maxC: toCelsius(max, unit!) };
      const problem = dayProblem(day);
      if (problem) throw new BadCell('tmin', problem);
      const before = days.get(on);
      if (before && (before.day.minC !== day.minC || before.day.maxC !== day.maxC))
        throw new BadCell('date', `${on} stands in line ${before.line} already, with other temperatures.`);
      if (!before) days.set(on, { day, line: row.line });
    });
  return {
    days: [...days.values()].map(({ day }) => day).sort((a, b) => (a.on < b.on ? -1 : 1)),
    bad: bad.sort((a, b) => a.line - b.line),
    without,
    unit: unit ?? 'c',
    unitFrom: options.unit ? 'said' : inHeading ? 'heading' : 'figures',
    doubt: figures !== null && unit !== null && figures !== unit ? doubtOf(figures, unit) : null,
    stations
  };

  function attempt(row: Row, read: () => void): void {
    try {
      read();
    } catch (error) {
      if (!(error instanceof BadCell)) throw error;
      const { column, message: reason, fault, word } = error;
      bad.push({ line: row.line, column, reason, cells: row.cells, fault, word });
    }
  }
}

function understand(heading: readonly string[]): {
  readonly at: Partial<Record<Column, number>>;
  readonly unit: WeatherUnit | null;
} {
  const at: Partial<Record<Column, number>> = {};
  let unit: WeatherUnit | null = null;
  heading.forEach((name, i) => {
    const plain = name.toLowerCase();
    const found = (Object.keys(COLUMNS) as Column[]).find(
      (column) => at[column] === undefined && COLUMNS[column].test(plain)
    );
    if (!found) return;
    at[found] = i;
    const named = COLUMNS[found].exec(plain)?.[2];
    if (named) unit = /^(deg)?f/.test(named) ? 'f' : 'c';
  });
  if (at.on === undefined || at.min === undefined || at.max === undefined)
    throw new UnreadableFile('The first line must name the columns: DATE, TMIN and TMAX.');
  return { at, unit };
}

function readDegrees(written: string): number {
  const value = /^[-+−]?\d+([.,]\d+)?$/.test(written) ? Number(written.replace(',', '.').replace('−', '-')) : NaN;
  if (!Number.isFinite(value)) throw new BadCell('tmin', `"${brief(written)}" is not a temperature.`);
  return value;
}

function readDate(written: string, today: string): string {
  const on = /^\d{8}$/.test(written) ? written.replace(/^(\d{4})(\d\d)(\d\d)$/, '$1-$2-$3') : written.slice(0, 10);
  if (!isIsoDate(on)) throw new BadCell('date', `"${brief(written)}" is not a date. Write it as 2026-03-14.`);
  if (on > today) throw new BadCell('date', `${on} lies in the future: nobody measured it.`);
  return on;
}

const toCelsius = (value: number, unit: WeatherUnit): number =>
  unit === 'f' ? Number(((value - 32) / 1.8).toFixed(2)) : unit === 'tenthsC' ? value / 10 : value;

/** Mean temperature of each month where maples are tapped, °C: good enough to tell the scales apart. From memory. */
const MONTH_MEANS_C = [-5, -4, 1, 7, 13, 18, 21, 20, 16, 10, 4, -2] as const;
/** How far a place's month lies from that, °C, 1 sd. */
const MONTH_SD_C = 6;
/** How far the air goes within a day on average, °C. From memory. */
const SWING_C = 10;
/** How far places differ in that, °C, 1 sd. From memory. */
const SWING_SD_C = 2.5;
/** From so much likelier on a unit is taken without a question: one in twenty is wrong. */
const CLEARLY = Math.log(20);
/** No thermometer of these parts ever showed such figures in degrees of either scale. */
const TENTHS_FROM = 140;
/** No day is warmer than this where maples are tapped, °C: a larger figure is Fahrenheit. From memory. */
const HOTTEST_C = 50;

/** The unit in which a file's figures make sense; null where more than one does. */
function likeliestUnit(read: readonly { readonly on: string; readonly min: number; readonly max: number }[]) {
  if (read.length === 0) return null;
  const all = read.flatMap(({ min, max }) => [min, max]);
  if (all.some((value) => Math.abs(value) > TENTHS_FROM)) return 'tenthsC';
  if (Math.max(...all) > HOTTEST_C) return 'f';
  const score = (unit: WeatherUnit) => {
    const apart = read.map(({ on, min, max }) => {
      const middle = toCelsius((min + max) / 2, unit);
      return middle - MONTH_MEANS_C[Number(on.slice(5, 7)) - 1]!;
    });
    const swing = mean(read.map(({ min, max }) => toCelsius(max, unit) - toCelsius(min, unit)));
    return -((median(apart) / MONTH_SD_C) ** 2 + ((swing - SWING_C) / SWING_SD_C) ** 2) / 2;
  };
  const [c, f] = [score('c'), score('f')];
  if (Math.abs(c - f) < CLEARLY) return null;
  return c > f ? 'c' : 'f';
}

const UNIT_NAMES: Readonly<Record<WeatherUnit, string>> = {
  c: 'degrees Celsius',
  f: 'degrees Fahrenheit',
  tenthsC: 'tenths of a degree Celsius'
};

const doubtOf = (figures: WeatherUnit, unit: WeatherUnit): string =>
  `These figures read like ${UNIT_NAMES[figures]}, and were taken as ${UNIT_NAMES[unit]}. Look at the unit.`;
