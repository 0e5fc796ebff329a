import Papa from 'papaparse';

import { normaliseBearing } from '../math/index.ts';
import type { MeasureMethod } from '../measure/index.ts';
import { seasonOf, tagKey } from '../records/index.ts';
import type { PositionQuality } from '../stand/index.ts';
import { MM_PER, parseTrunkLength, UnreadableLength, type LengthUnit } from '../units/index.ts';
import { speciesByName } from './species.ts';
import {
  BadCell,
  MAX_COLUMNS,
  MAX_ROWS,
  UnreadableFile,
  type BadRow,
  type StatedHole,
  type StatedPosition,
  type StatedReading,
  type Statement,
  type StatementFile
} from './statement.ts';

export interface ReadOptions {
  /** date of readings without one of their own */
  readonly today: string;
  /** unit of girths and diameters that name none, in cell or heading */
  readonly defaultUnit: LengthUnit;
  /** what the steward says a column really holds, whatever its heading says */
  readonly sizesAre?: { readonly quantity?: 'girth' | 'diameter'; readonly unit?: 'cm' | 'in' };
}

const COLUMNS = {
  tag: /^(tag|tree|tree[ _]?(id|no|number)|no|number)$/,
  species: /^(species|kind)$/,
  stand: /^(stand|block)$/,
  girth: /^(girth|circumference|gbh|cbh)(?:[ _(]*(mm|cm|m|in|ft)\)?)?$/,
  diameter: /^(diameter|dbh|diam)(?:[ _(]*(mm|cm|m|in|ft)\)?)?$/,
  measuredOn: /^(measured_on|measured|date)$/,
  method: /^method$/,
  east: /^(east_m|east|x_m|x)$/,
  north: /^(north_m|north|y_m|y)$/,
  lat: /^(lat|latitude)$/,
  lon: /^(lon|lng|long|longitude)$/,
  quality: /^(position_quality|quality)$/,
  holes: /^(holes|tapholes)$/,
  determinedOn: /^determined(_on)?$/,
  at: /^(at|at_height)(?:[ _(]*(mm|cm|m|in|ft)\)?)?$/,
  asWritten: /^as_written$/,
  season: /^season$/,
  bearing: /^(bearing|bearing_deg|compass)$/,
  holeHeight: /^(height|hole_height)(?:[ _(]*(mm|cm|m|in|ft)\)?)?$/,
  bit: /^(bit|bit_size)(?:[ _(]*(mm|cm|m|in|ft)\)?)?$/,
  depth: /^depth(?:[ _(]*(mm|cm|m|in|ft)\)?)?$/
} as const;
type Column = keyof typeof COLUMNS;

/**
 * Reads a table that says something of trees: the trees themselves, readings, tapholes, determinations, or all in one.
 * Every bad row is named with its reason and keeps its cells; good rows stand beside them. A tag may stand in several
 * rows where these tell of different readings or holes.
 * @param text the whole file; comma, semicolon or tab separated, with a heading line
 * @throws UnreadableFile when there is no heading with a tag, or the limits are passed
 */
export function readTable(text: string, options: ReadOptions): StatementFile {
  const { heading, rows } = tableIn(text);
  return readRows(heading, rows, options);
}

/**
 * Takes a table apart: its heading, and its rows with their lines, empty ones left out.
 * @param text the whole file; comma, semicolon or tab separated
 * @throws UnreadableFile where it is no text
 */
export function tableIn(text: string): { readonly heading: readonly string[]; readonly rows: readonly Row[] } {
  if (text.includes('\u0000'))
    throw new UnreadableFile('This is not a text file. Save the table as CSV (UTF-8) and try again.');
  const content = text.replace(/^\uFEFF/, '');
  const parsed = Papa.parse<string[]>(content, {
    delimiter: delimiterOf(content),
    skipEmptyLines: false,
    preview: MAX_ROWS + 2
  });
  const lines = parsed.data.map((cells, i) => ({ cells: cells.map(unguard), line: i + 1 }));
  return {
    heading: lines[0]?.cells.map((cell) => cell.trim()) ?? [],
    rows: lines.slice(1).filter(({ cells }) => cells.some((cell) => cell.trim() !== ''))
  };
}

/** A table that was taken apart already. @throws UnreadableFile */
export function readRows(heading: readonly string[], rows: readonly Row[], options: ReadOptions): StatementFile {
  if (heading.length > MAX_COLUMNS)
    throw new UnreadableFile(`The file has ${heading.length} columns; a tree needs at most ${MAX_COLUMNS}.`);
  const { at, units, ignored } = understandHeading(heading);
  if (at.tag === undefined)
    throw new UnreadableFile('The first line must name the columns, and one of them must be "tag".');
  if (rows.length > MAX_ROWS)
    throw new UnreadableFile(`The file has more than ${MAX_ROWS} rows. Split it and import the parts.`);

  const statements: Statement[] = [];
  const bad: BadRow[] = [];
  const said = new Map<string, number>();
  const firsts = new Map<string, Statement>();
  for (const { cells, line } of rows) {
    try {
      if (cells.length > heading.length && cells.slice(heading.length).some((c) => c.trim() !== ''))
        throw new BadCell(
          null,
          `has ${cells.length} cells, but the heading names ${heading.length}. Is a comma in one of them?`
        );
      const statement = readRow({ cells, line }, at, units, options);
      const keys = eventsOf(statement);
      const twice = keys.find((key) => said.has(key));
      if (twice !== undefined)
        throw new BadCell('tag', `"${statement.tag}" stands in line ${said.get(twice)} already.`);
      const first = firsts.get(tagKey(statement.tag));
      if (first && contradict(first, statement))
        throw new BadCell('tag', `"${statement.tag}" stands in line ${first.line} already, as another tree.`);
      if (!first) firsts.set(tagKey(statement.tag), statement);
      for (const key of keys) said.set(key, line);
      statements.push(statement);
    } catch (error) {
      if (!(error instanceof BadCell)) throw error;
      bad.push({ line, column: error.column, reason: error.message, cells });
    }
  }
  return { statements, stands: [], bad, heading, ignoredColumns: ignored };
}

/** Two rows of one tag that cannot be one tree: another place or stand, or another species without a day. */
function contradict(a: Statement, b: Statement): boolean {
  const differ = (x: unknown, y: unknown) => x !== null && y !== null && JSON.stringify(x) !== JSON.stringify(y);
  return (
    differ(a.position, b.position) ||
    differ(a.stand?.toLowerCase() ?? null, b.stand?.toLowerCase() ?? null) ||
    (a.determinedOn === b.determinedOn && differ(a.species, b.species))
  );
}

/** What a row tells, as texts that must not come twice: a tag has one line for each reading and each hole. */
function eventsOf({ tag, reading, holes }: Statement): string[] {
  const key = tag.toLowerCase();
  const events = [
    ...(reading ? [`${key} read ${reading.on}`] : []),
    ...holes.map((hole) => `${key} tapped ${hole.season} ${hole.bearingDeg} ${hole.heightMm}`)
  ];
  return events.length > 0 ? events : [key];
}

/** The heading alone decides: cells below may hold semicolons of their own. */
function delimiterOf(content: string): string {
  const heading = content.slice(0, content.search(/[\r\n]|$/));
  const count = (sign: string) => heading.split(sign).length;
  return [',', ';', '\t'].reduce((best, sign) => (count(sign) > count(best) ? sign : best));
}

type Units = Partial<Record<Column, LengthUnit>>;

function understandHeading(heading: readonly string[]) {
  const at: Partial<Record<Column, number>> = {};
  const units: Units = {};
  const ignored: string[] = [];
  heading.forEach((name, i) => {
    const plain = name.toLowerCase().trim();
    const found = (Object.keys(COLUMNS) as Column[]).find(
      (column) => at[column] === undefined && COLUMNS[column].test(plain)
    );
    if (!found) {
      if (plain !== '') ignored.push(name);
      return;
    }
    at[found] = i;
    const unit = COLUMNS[found].exec(plain)?.at(-1);
    if (unit && unit in MM_PER) units[found] = unit as LengthUnit;
  });
  // Without a season there is no hole to tell of: a height is the tree's own then, and is not taken.
  if (at.season === undefined)
    for (const column of ['bearing', 'holeHeight', 'bit', 'depth'] as const) {
      if (at[column] === undefined) continue;
      ignored.push(heading[at[column]]!);
      delete at[column];
    }
  return { at, units, ignored };
}

/** A row of a table, and where it stands. */
export interface Row {
  readonly cells: readonly string[];
  readonly line: number;
}

/** A cell as an error quotes it. */
export function brief(written: string): string {
  return written.length > 40 ? `${written.slice(0, 40)}…` : written;
}

function readRow(
  { cells, line }: Row,
  at: Partial<Record<Column, number>>,
  units: Units,
  options: ReadOptions
): Statement {
  const cell = (column: Column) => (at[column] === undefined ? '' : (cells[at[column]] ?? '').trim());
  const tag = cell('tag');
  if (tag === '') throw new BadCell('tag', 'has no tag.');
  if (tag.length > 20) throw new BadCell('tag', `"${tag.slice(0, 24)}…" is longer than 20 characters.`);
  const name = cell('species');
  const mapleOpen = /^maple$/i.test(name);
  const species = name === '' || mapleOpen ? null : speciesByName(name);
  if (name !== '' && !mapleOpen && !species)
    throw new BadCell('species', `I do not know a species called "${brief(name)}".`);
  return {
    line,
    tag,
    stand: cell('stand') || null,
    species,
    mapleOpen,
    determinedOn: cell('determinedOn') === '' ? null : readDay(cell('determinedOn'), 'determined_on', options.today),
    reading: readReading(cell, units, options),
    position: readPosition(cell),
    holes: [...readHoles(cell('holes'), options.today), ...readHole(cell, units, options.today)]
  };
}

type Cell = (column: Column) => string;

function readReading(cell: Cell, units: Units, options: ReadOptions): StatedReading | null {
  const girth = cell('girth');
  const diameter = cell('diameter');
  if (girth !== '' && diameter !== '') throw new BadCell('girth', 'gives both girth and diameter: leave one empty.');
  if (girth === '' && diameter === '') return null;
  const column = girth !== '' ? 'girth' : 'diameter';
  const written = girth || diameter;
  const on = readDay(cell('measuredOn') || options.today, 'measured_on', options.today);
  const at = cell('at');
  if (written.length > 80) throw new BadCell(column, `"${brief(written)}" is too long to be a size.`);
  try {
    const { quantity = column, unit = units[column] ?? options.defaultUnit } = options.sizesAre ?? {};
    const parsed = parseTrunkLength(written, unit);
    if (parsed.quantity && parsed.quantity !== column)
      throw new BadCell(column, `says ${parsed.quantity} in the ${column} column. Which is it?`);
    const dbhMm = quantity === 'girth' ? parsed.valueMm / Math.PI : parsed.valueMm;
    if (dbhMm > 2500 || dbhMm < 5)
      throw new BadCell(
        column,
        `"${brief(written)}" would be a trunk ${(dbhMm / 10).toFixed(1)} cm thick. Look at the unit.`
      );
    return {
      quantity,
      valueMm: parsed.valueMm,
      asWritten: (cell('asWritten') || written).slice(0, 80),
      on,
      method: readMethod(cell('method'), quantity),
      heightMm: at === '' ? null : readLength(at, 'at', units.at ?? 'cm', 5000)
    };
  } catch (error) {
    if (error instanceof UnreadableLength) throw new BadCell(column, error.message);
    throw error;
  }
}

const METHOD_WORDS: readonly [RegExp, MeasureMethod][] = [
  [/^diameter ?tape$/i, 'diameterTape'],
  [/^(girth ?tape|tape)$/i, 'girthTape'],
  [/^calipers?$/i, 'calipers'],
  [/^(biltmore|stick)$/i, 'biltmore'],
  [/^(hug|eye|bucket)$/i, 'hug']
];

function readMethod(written: string, column: 'girth' | 'diameter'): MeasureMethod {
  if (written === '') return column === 'girth' ? 'girthTape' : 'diameterTape';
  const found = METHOD_WORDS.find(([pattern]) => pattern.test(written));
  if (!found) throw new BadCell('method', `"${brief(written)}" is none of: diameter tape, tape, calipers, stick, hug.`);
  return found[1];
}

function readPosition(cell: Cell): StatedPosition | null {
  const written = { east: cell('east'), north: cell('north'), lat: cell('lat'), lon: cell('lon') };
  const quality = readQuality(cell('quality'), written.lat !== '' ? 'phone' : 'paced');
  const pair = (a: 'east' | 'lat', b: 'north' | 'lon'): [number, number] | null => {
    if (written[a] === '' && written[b] === '') return null;
    if (written[a] === '' || written[b] === '')
      throw new BadCell(written[a] === '' ? a : b, `gives ${a} or ${b} without the other.`);
    return [readNumber(written[a], a), readNumber(written[b], b)];
  };
  const metres = pair('east', 'north');
  if (metres) {
    if (Math.max(...metres.map(Math.abs)) > 100_000)
      throw new BadCell('east', 'lies more than 100 km away from the origin.');
    return { eastM: metres[0], northM: metres[1], quality };
  }
  const degrees = pair('lat', 'lon');
  if (!degrees) return null;
  const [lat, lon] = degrees;
  if (Math.abs(lat) > 89 || Math.abs(lon) > 180) throw new BadCell('lat', `${lat}, ${lon} is no place on earth.`);
  return { lat, lon, quality };
}

function readQuality(written: string, otherwise: PositionQuality): PositionQuality {
  if (written === '') return otherwise;
  const plain = written.toLowerCase();
  if (plain === 'surveyed' || plain === 'paced' || plain === 'phone') return plain;
  throw new BadCell('position_quality', `"${brief(written)}" is none of: surveyed, paced, phone.`);
}

function readNumber(written: string, column: string): number {
  const value = /^[-+]?\d+([.,]\d+)?$/.test(written) ? Number(written.replace(',', '.')) : NaN;
  if (!Number.isFinite(value)) throw new BadCell(column, `"${brief(written)}" is not a number.`);
  return value;
}

/** A season in which a hole was made, or is being made. */
function readSeason(season: number, written: string, column: string, today: string): number {
  const last = seasonOf(today);
  if (!Number.isInteger(season) || season < 1900 || season > last)
    throw new BadCell(column, `"${brief(written)}" is no season from 1900 to ${last}.`);
  return season;
}

function readHoles(written: string, today: string): StatedHole[] {
  if (written === '') return [];
  return written.split(';').map((part) => {
    const match = /^\s*(\d{4}):(\d+(?:\.\d+)?):(\d+(?:\.\d+)?)\s*$/.exec(part);
    if (!match)
      throw new BadCell('holes', `"${brief(part.trim())}" is not season:bearing:height in cm, such as 2024:180:95.`);
    const [season, bearing, height] = [Number(match[1]), Number(match[2]), Number(match[3])];
    if (bearing > 360)
      throw new BadCell('holes', `a bearing runs from 0 to 360 degrees; "${brief(part.trim())}" does not.`);
    if (height > 500)
      throw new BadCell('holes', `"${brief(part.trim())}" is a hole more than 5 m up. Heights are in cm.`);
    readSeason(season, part.trim(), 'holes', today);
    return { season, bearingDeg: normaliseBearing(bearing), heightMm: height * 10, bitMm: null, depthMm: null };
  });
}

/** A hole with a row of its own. */
function readHole(cell: Cell, units: Units, today: string): StatedHole[] {
  const written = cell('season');
  if (written === '') return [];
  const season = readSeason(readNumber(written, 'season'), written, 'season', today);
  const bearing = readNumber(cell('bearing'), 'bearing_deg');
  if (bearing < 0 || bearing > 360) throw new BadCell('bearing_deg', `a bearing runs from 0 to 360 degrees.`);
  const length = (column: 'bit' | 'depth', most: number) =>
    cell(column) === '' ? null : readLength(cell(column), column, units[column] ?? 'mm', most);
  const [bitMm, depthMm] = [length('bit', 25), length('depth', 150)];
  if (bitMm !== null && bitMm < 3) throw new BadCell('bit', `a bit of ${bitMm} mm drills no taphole.`);
  if (depthMm !== null && depthMm < 5) throw new BadCell('depth', `a hole ${depthMm} mm deep is none.`);
  return [
    {
      season,
      bearingDeg: normaliseBearing(bearing),
      heightMm: readLength(cell('holeHeight'), 'height', units.holeHeight ?? 'cm', 5000),
      bitMm,
      depthMm
    }
  ];
}

function readLength(written: string, column: string, unit: LengthUnit, mostMm: number): number {
  const mm = readNumber(written, column) * MM_PER[unit];
  if (mm < 0 || mm > mostMm) throw new BadCell(column, `"${brief(written)}" ${unit} is out of range.`);
  return mm;
}

function readDay(written: string, column: string, today: string): string {
  if (!isIsoDate(written)) throw new BadCell(column, `"${brief(written)}" is not a date. Write it as 2026-10-31.`);
  if (written > today) throw new BadCell(column, `${written} lies in the future.`);
  return written;
}

/** Is a text a day, as in 2026-10-31? */
export function isIsoDate(text: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text)) return false;
  const date = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(date.getTime()) && date.toISOString().slice(0, 10) === text;
}

/** Takes off the guard that a safe export puts before a formula sign. */
function unguard(cell: string): string {
  return /^'[=+@\t\r-]/.test(cell) ? cell.slice(1) : cell;
}
