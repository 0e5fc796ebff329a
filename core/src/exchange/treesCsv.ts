import Papa from 'papaparse';

import { isMaple, speciesById, type SpeciesId } from '../identify/index.ts';
import type { MeasureMethod } from '../measure/index.ts';
import { knownMaple, type TreeState } from '../records/derive.ts';
import type { Tree } from '../records/schema.ts';
import type { PositionQuality } from '../stand/index.ts';
import { MM_PER, parseTrunkLength, UnreadableLength, type LengthUnit, type TrunkQuantity } from '../units/index.ts';
import { speciesByName } from './species.ts';

/** A hole as the `holes` column writes it: `2024:180:95`, season, bearing in degrees, height in cm. */
export interface CsvHole {
  readonly season: number;
  readonly bearingDeg: number;
  readonly heightMm: number;
}

/** One good row of a tree file. */
export interface CsvTree {
  /** line in the file, the heading being line 1 */
  readonly line: number;
  readonly tag: string;
  readonly stand: string | null;
  readonly species: SpeciesId | null;
  /** "maple": one of them, species open */
  readonly mapleOpen: boolean;
  readonly reading: {
    readonly quantity: TrunkQuantity;
    readonly valueMm: number;
    readonly asWritten: string;
    readonly on: string;
    readonly method: MeasureMethod;
  } | null;
  readonly position:
    | { readonly eastM: number; readonly northM: number; readonly quality: PositionQuality }
    | { readonly lat: number; readonly lon: number; readonly quality: PositionQuality }
    | null;
  readonly holes: readonly CsvHole[];
}

/** A row that cannot be taken, with the reason; its cells are kept so that nothing is lost. */
export interface BadRow {
  readonly line: number;
  readonly column: string | null;
  readonly reason: string;
  readonly cells: readonly string[];
}

export interface TreesFile {
  readonly trees: readonly CsvTree[];
  readonly bad: readonly BadRow[];
  readonly heading: readonly string[];
  /** columns that were not understood and are left out */
  readonly ignoredColumns: readonly string[];
}

/** A file that cannot be read at all; `message` can be shown. */
export class UnreadableFile extends Error {}

export const MOST_ROWS = 25_000;
const MOST_COLUMNS = 100;

export interface ReadOptions {
  /** tags that the bush has already */
  readonly knownTags: ReadonlySet<string>;
  /** date of readings without one of their own */
  readonly today: string;
  /** unit of girths and diameters that name none, in cell or heading */
  readonly defaultUnit: LengthUnit;
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
  holes: /^(holes|tapholes)$/
} as const;
type Column = keyof typeof COLUMNS;

/**
 * Reads a file of trees. Every bad row is named with its reason and keeps its cells; good rows stand beside them.
 * @param text the whole file; comma, semicolon or tab separated, with a heading line
 * @throws UnreadableFile when there is no heading with a tag, or the limits are passed
 */
export function readTreesCsv(text: string, options: ReadOptions): TreesFile {
  if (text.includes('\u0000'))
    throw new UnreadableFile('This is not a text file. Save the table as CSV (UTF-8) and try again.');
  const content = text.replace(/^\uFEFF/, '');
  const parsed = Papa.parse<string[]>(content, {
    delimiter: delimiterOf(content),
    skipEmptyLines: false,
    preview: MOST_ROWS + 2
  });
  const lines = parsed.data.map((cells, i) => ({ cells: cells.map(unguard), line: i + 1 }));
  const heading = lines[0]?.cells.map((cell) => cell.trim()) ?? [];
  if (heading.length > MOST_COLUMNS)
    throw new UnreadableFile(`The file has ${heading.length} columns; a tree needs at most ${MOST_COLUMNS}.`);
  const { at, units, ignored } = understandHeading(heading);
  if (at.tag === undefined)
    throw new UnreadableFile('The first line must name the columns, and one of them must be "tag".');
  const rows = lines.slice(1).filter(({ cells }) => cells.some((cell) => cell.trim() !== ''));
  if (rows.length > MOST_ROWS)
    throw new UnreadableFile(`The file has more than ${MOST_ROWS} rows. Split it and import the parts.`);

  const trees: CsvTree[] = [];
  const bad: BadRow[] = [];
  const seen = new Map<string, number>();
  for (const { cells, line } of rows) {
    try {
      if (cells.length > heading.length && cells.slice(heading.length).some((c) => c.trim() !== ''))
        throw new BadCell(
          null,
          `has ${cells.length} cells, but the heading names ${heading.length}. Is a comma in one of them?`
        );
      const tree = readRow(cells, line, at, units, options);
      const key = tree.tag.toLowerCase();
      if (seen.has(key)) throw new BadCell('tag', `"${tree.tag}" stands in line ${seen.get(key)} already.`);
      if (options.knownTags.has(key))
        throw new BadCell('tag', `"${tree.tag}" is in this bush already; it is left as it is.`);
      seen.set(key, line);
      trees.push(tree);
    } catch (error) {
      if (!(error instanceof BadCell)) throw error;
      bad.push({ line, column: error.column, reason: error.message, cells });
    }
  }
  return { trees, bad, heading, ignoredColumns: ignored };
}

/** The heading alone decides: cells below may hold semicolons of their own. */
function delimiterOf(content: string): string {
  const heading = content.slice(0, content.search(/[\r\n]|$/));
  const count = (sign: string) => heading.split(sign).length;
  return [',', ';', '\t'].reduce((best, sign) => (count(sign) > count(best) ? sign : best));
}

class BadCell extends Error {
  constructor(
    readonly column: string | null,
    reason: string
  ) {
    super(reason);
  }
}

function understandHeading(heading: readonly string[]) {
  const at: Partial<Record<Column, number>> = {};
  const units: { girth?: LengthUnit; diameter?: LengthUnit } = {};
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
    if (found === 'girth' || found === 'diameter') {
      const unit = COLUMNS[found].exec(plain)?.[2];
      if (unit && unit in MM_PER) units[found] = unit as LengthUnit;
    }
  });
  return { at, units, ignored };
}

function readRow(
  cells: readonly string[],
  line: number,
  at: Partial<Record<Column, number>>,
  units: { girth?: LengthUnit; diameter?: LengthUnit },
  options: ReadOptions
): CsvTree {
  const cell = (column: Column) => (at[column] === undefined ? '' : (cells[at[column]] ?? '').trim());
  const tag = cell('tag');
  if (tag === '') throw new BadCell('tag', 'has no tag.');
  if (tag.length > 20) throw new BadCell('tag', `"${tag.slice(0, 24)}…" is longer than 20 characters.`);
  const name = cell('species');
  const mapleOpen = /^maple$/i.test(name);
  const species = name === '' || mapleOpen ? null : speciesByName(name);
  if (name !== '' && !mapleOpen && !species) throw new BadCell('species', `I do not know a species called "${name}".`);
  return {
    line,
    tag,
    stand: cell('stand') || null,
    species,
    mapleOpen,
    reading: readReading(cell, units, options),
    position: readPosition(cell),
    holes: readHoles(cell('holes'))
  };
}

type Cell = (column: Column) => string;

function readReading(
  cell: Cell,
  units: { girth?: LengthUnit; diameter?: LengthUnit },
  options: ReadOptions
): CsvTree['reading'] {
  const girth = cell('girth');
  const diameter = cell('diameter');
  if (girth !== '' && diameter !== '') throw new BadCell('girth', 'gives both girth and diameter: leave one empty.');
  if (girth === '' && diameter === '') return null;
  const column = girth !== '' ? 'girth' : 'diameter';
  const written = girth || diameter;
  const on = cell('measuredOn') || options.today;
  if (!isIsoDate(on)) throw new BadCell('measured_on', `"${on}" is not a date. Write it as 2026-10-31.`);
  if (on > options.today) throw new BadCell('measured_on', `${on} lies in the future.`);
  try {
    const parsed = parseTrunkLength(written, units[column] ?? options.defaultUnit);
    if (parsed.quantity && parsed.quantity !== column)
      throw new BadCell(column, `says ${parsed.quantity} in the ${column} column. Which is it?`);
    const dbhMm = column === 'girth' ? parsed.valueMm / Math.PI : parsed.valueMm;
    if (dbhMm > 2500 || dbhMm < 5)
      throw new BadCell(column, `"${written}" would be a trunk ${(dbhMm / 10).toFixed(1)} cm thick. Look at the unit.`);
    return {
      quantity: column,
      valueMm: parsed.valueMm,
      asWritten: written.slice(0, 80),
      on,
      method: readMethod(cell('method'), column)
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
  if (!found) throw new BadCell('method', `"${written}" is none of: diameter tape, tape, calipers, stick, hug.`);
  return found[1];
}

function readPosition(cell: Cell): CsvTree['position'] {
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
  throw new BadCell('position_quality', `"${written}" is none of: surveyed, paced, phone.`);
}

function readNumber(written: string, column: string): number {
  const value = /^[-+]?\d+([.,]\d+)?$/.test(written) ? Number(written.replace(',', '.')) : NaN;
  if (!Number.isFinite(value)) throw new BadCell(column, `"${written}" is not a number.`);
  return value;
}

function readHoles(written: string): CsvHole[] {
  if (written === '') return [];
  return written.split(';').map((part) => {
    const match = /^\s*(\d{4}):(\d+(?:\.\d+)?):(\d+(?:\.\d+)?)\s*$/.exec(part);
    if (!match) throw new BadCell('holes', `"${part.trim()}" is not season:bearing:height in cm, such as 2024:180:95.`);
    const [season, bearing, height] = [Number(match[1]), Number(match[2]), Number(match[3])];
    if (bearing > 360) throw new BadCell('holes', `a bearing runs from 0 to 360 degrees; "${part.trim()}" does not.`);
    if (height > 500) throw new BadCell('holes', `"${part.trim()}" is a hole more than 5 m up. Heights are in cm.`);
    if (season < 1800 || season > 2200) throw new BadCell('holes', `"${part.trim()}" is no season.`);
    return { season, bearingDeg: bearing % 360, heightMm: height * 10 };
  });
}

function isIsoDate(text: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text)) return false;
  const date = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(date.getTime()) && date.toISOString().slice(0, 10) === text;
}

export const TREES_CSV_HEADING = [
  'tag',
  'stand',
  'species',
  'diameter_cm',
  'measured_on',
  'method',
  'east_m',
  'north_m',
  'position_quality',
  'holes'
] as const;

const METHOD_WORD: Readonly<Record<MeasureMethod, string>> = {
  diameterTape: 'diameter tape',
  girthTape: 'tape',
  calipers: 'calipers',
  biltmore: 'stick',
  hug: 'hug'
};

/** Cells that a spreadsheet would run as a formula; plain numbers, negative ones too, are not. */
const FORMULA = /^[=+@\t\r]|^-(?!\d)/;

/** Writes trees as the same file that `readTreesCsv` reads: last reading as diameter, all standing holes. */
export function writeTreesCsv(
  trees: readonly {
    readonly tree: Tree;
    readonly stand: string | null;
    readonly state: TreeState;
    readonly lastDbhMm: number | null;
  }[]
): string {
  const rows = trees.map(({ tree, stand, state, lastDbhMm }) => [
    tree.tag,
    stand ?? '',
    speciesWord(state),
    lastDbhMm === null ? '' : String(round(lastDbhMm / 10, 2)),
    state.lastReading?.on ?? '',
    state.lastReading ? METHOD_WORD[state.lastReading.method] : '',
    tree.eastM === null ? '' : String(round(tree.eastM, 2)),
    tree.northM === null ? '' : String(round(tree.northM, 2)),
    tree.positionQuality ?? '',
    state.holes.map((h) => `${h.season}:${round(h.bearingDeg, 1)}:${round(h.heightMm / 10, 1)}`).join(';')
  ]);
  return Papa.unparse([[...TREES_CSV_HEADING], ...rows], { escapeFormulae: FORMULA, newline: '\n' }) + '\n';
}

/** Bad rows as a file of their own, with the reason in front, to be mended and imported again. */
export function writeBadRows(file: TreesFile): string {
  return Papa.unparse([['reason', ...file.heading], ...file.bad.map((row) => [row.reason, ...row.cells])], {
    escapeFormulae: FORMULA,
    newline: '\n'
  });
}

function speciesWord(state: TreeState): string {
  const determination = state.determination;
  if (!determination) return '';
  const maple = knownMaple(determination);
  if (determination.verdict === 'mapleOpen') return 'maple';
  if (maple === null || !determination.species) return '';
  return maple === isMaple(determination.species) ? speciesById(determination.species).name : '';
}

function round(value: number, digits: number): number {
  return Number(value.toFixed(digits));
}

/** Takes off the guard that a safe export puts before a formula sign. */
function unguard(cell: string): string {
  return /^'[=+@\t\r-]/.test(cell) ? cell.slice(1) : cell;
}
