import { tagKey } from '../records/index.ts';
import { MM_PER, parseTrunkLength, UnreadableLength, type LengthUnit } from '../units/index.ts';
import { dayIn, holesIn, lengthIn, methodIn, numberIn, qualityIn, seasonIn, sideIn } from './cellsIn.ts';
import { orderOf, type DateOrder } from './dateIn.ts';
import { BadCell, type BadRow } from './faults.ts';
import { brief, tableIn, type Row } from './grid.ts';
import { understandColumns, type ColumnUse, type Role } from './roles.ts';
import { toldOf, type ImportTold } from './told.ts';
import { speciesInWord, speciesWord, type SpeciesSaid } from './species.ts';
import {
  MAX_COLUMNS,
  MAX_ROWS,
  UnreadableFile,
  type StatedHole,
  type StatedPosition,
  type StatedReading,
  type Statement,
  type StatementFile,
  type SpeciesWord,
  type TableUnderstood
} from './statement.ts';

export interface ReadOptions {
  /** days after it lie in the future */
  readonly today: string;
  /** unit of girths and diameters that name none, in cell or heading */
  readonly defaultUnit: LengthUnit;
  /** what the steward says a column really holds, whatever its heading says */
  readonly sizesAre?: { readonly quantity?: 'girth' | 'diameter'; readonly unit?: 'cm' | 'in' };
  readonly told?: ImportTold;
}

/** So many rows show how a table is understood. */
const ROWS_SHOWN = 3;

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

/** A table that was taken apart already. @throws UnreadableFile */
export function readRows(heading: readonly string[], rows: readonly Row[], options: ReadOptions): StatementFile {
  if (heading.length > MAX_COLUMNS)
    throw new UnreadableFile(`The file has ${heading.length} columns; a tree needs at most ${MAX_COLUMNS}.`);
  if (rows.length > MAX_ROWS)
    throw new UnreadableFile(`The file has more than ${MAX_ROWS} rows. Split it and import the parts.`);
  const columns = understandColumns(heading, rows, options.told?.columns ?? {}, options.today);
  if (!columns.some(({ role }) => role === 'tag'))
    throw new UnreadableFile(
      `None of the columns is seen to be the tag of a tree. The first line must name the columns, and one of them "tag".`
    );
  const reader = new RowReader(heading, columns, rows, options);
  const statements: Statement[] = [];
  const waiting: Statement[] = [];
  const bad: BadRow[] = [];
  const told = new Told(options.told?.twoSizes);
  for (const row of rows) {
    const faults: BadCell[] = [];
    const statement = reader.read(row, faults);
    // All that is to be asked of a row is asked at once.
    const mendable = faults.every(({ fault }) => fault !== 'cell');
    const said = statement && mendable ? told.hear(statement, faults) : null;
    if (said) (faults.length === 0 ? statements : waiting).push(said);
    for (const { column, message, fault, word } of faults)
      bad.push({ line: row.line, column, reason: message, cells: row.cells, fault, word });
  }
  return {
    statements,
    waiting,
    stands: [],
    bad,
    heading,
    ignoredColumns: heading.filter((name, i) => columns[i]!.role === null && name.trim() !== ''),
    table: reader.understood()
  };
}

/** What was said of the trees of a file so far, so that nothing is said twice. */
class Told {
  readonly #events = new Map<string, { readonly line: number; readonly mm: number | null }>();
  readonly #firsts = new Map<string, Statement>();

  constructor(private readonly twoSizes: ImportTold['twoSizes']) {}

  /** @returns the statement, under another tag where it is of another tree; null where it says nothing new, or has a fault */
  hear(statement: Statement, faults: BadCell[]): Statement | null {
    const key = tagKey(statement.tag);
    const first = this.#firsts.get(key);
    if (first && contradict(first, statement)) {
      faults.push(new BadCell('tag', `"${statement.tag}" stands in line ${first.line} already, as another tree.`));
      return null;
    }
    const events = eventsOf(statement);
    for (const { name, mm } of events) {
      const before = this.#events.get(name);
      if (!before) continue;
      if (mm !== null && before.mm !== null && Math.abs(mm - before.mm) < SAME_SIZE_MM) return null;
      if (mm !== null && this.twoSizes === 'first') return null;
      if (mm !== null && this.twoSizes === 'twoTrees')
        return this.hear({ ...statement, tag: nextTag(statement.tag) }, faults);
      faults.push(
        mm === null
          ? new BadCell('tag', `"${statement.tag}" stands in line ${before.line} already.`)
          : new BadCell(
              'tag',
              `"${statement.tag}" stands in line ${before.line} already, with another size of the same day.`,
              'twoSizes'
            )
      );
      return null;
    }
    if (!first) this.#firsts.set(key, statement);
    for (const { name, mm } of events) this.#events.set(name, { line: statement.line, mm });
    return statement;
  }
}

/** Sizes of one day that differ by less are the same, mm. */
const SAME_SIZE_MM = 0.6;

/** The tag of the second tree that was written under one tag: 44-2 after 44. */
function nextTag(tag: string): string {
  const match = /^(.*)-(\d+)$/.exec(tag);
  return match ? `${match[1]}-${Number(match[2]) + 1}` : `${tag}-2`;
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

/** What a row tells, each under a name that must not come twice: a tag has one line for each reading and each hole. */
function eventsOf({ tag, reading, holes, notes }: Statement): { readonly name: string; readonly mm: number | null }[] {
  const key = tagKey(tag);
  const events = [
    ...(reading ? [{ name: `${key} read ${reading.on}`, mm: reading.valueMm }] : []),
    ...holes.map((hole) => ({ name: `${key} tapped ${hole.season} ${hole.bearingDeg} ${hole.heightMm}`, mm: null })),
    ...(reading || holes.length > 0 ? [] : notes.map((note) => ({ name: `${key} noted ${note}`, mm: null })))
  ];
  return events.length > 0 ? events : [{ name: key, mm: null }];
}

/** Reads the rows of a table of which is known what its columns tell. */
class RowReader {
  readonly #at: Partial<Record<Role, number>> = {};
  readonly #notes: readonly number[];
  readonly #dates: DateOrder | null;
  readonly #words = new Map<string, SpeciesWord>();

  constructor(
    private readonly heading: readonly string[],
    private readonly columns: readonly ColumnUse[],
    private readonly rows: readonly Row[],
    private readonly options: ReadOptions
  ) {
    columns.forEach(({ role }, i) => {
      if (role && role !== 'note') this.#at[role] = i;
    });
    this.#notes = columns.flatMap(({ role }, i) => (role === 'note' ? i : []));
    const written = [this.#at.measuredOn, this.#at.determinedOn].flatMap((i) =>
      i === undefined ? [] : rows.map((row) => row.cells[i] ?? '')
    );
    this.#dates = options.told?.dates ?? orderOf(written);
  }

  /** How the table was understood. */
  understood(): TableUnderstood {
    return {
      columns: this.columns,
      shown: this.rows.slice(0, ROWS_SHOWN).map(({ cells }) => cells),
      dates: this.#dates,
      words: [...this.#words.values()].sort((a, b) => b.many - a.many)
    };
  }

  /** @param faults what is wrong with the row: all of it, so that it can be mended in one round */
  read({ cells, line }: Row, faults: BadCell[]): Statement | null {
    const attempt = <T>(read: () => T, otherwise: T): T => {
      try {
        return read();
      } catch (error) {
        if (!(error instanceof BadCell)) throw error;
        faults.push(error);
        return otherwise;
      }
    };
    const width = this.heading.length;
    if (cells.length > width && cells.slice(width).some((c) => c.trim() !== '')) {
      faults.push(
        new BadCell(null, `has ${cells.length} cells, but the heading names ${width}. Is a comma in one of them?`)
      );
      return null;
    }
    const cell: Cell = (role) => (this.#at[role] === undefined ? '' : (cells[this.#at[role]] ?? '').trim());
    const days = { order: this.#dates, today: this.options.today };
    const determined = cell('determinedOn');
    const said = attempt(() => this.#species(cell('species')), null);
    return {
      line,
      cells,
      tag: attempt(() => tagIn(cell('tag')), ''),
      stand: cell('stand') || null,
      species: said === 'mapleOpen' || said === 'open' ? null : said,
      mapleOpen: said === 'mapleOpen',
      determinedOn: determined === '' ? null : attempt(() => dayIn(determined, 'determined_on', days), null),
      reading: attempt(() => this.#reading(cell, days, faults), null),
      position: attempt(() => positionIn(cell), null),
      holes: [...attempt(() => holesIn(cell('holes'), days.today), []), ...attempt(() => this.#hole(cell), [])],
      notes: this.#notes.flatMap((i) => this.#note(i, cells[i]?.trim() ?? ''))
    };
  }

  #note(column: number, written: string): string[] {
    if (written === '') return [];
    const name = this.heading[column]!.trim();
    const plain = /^(notes?|comments?|remarks?|observations?)$/i.test(name);
    return [(plain ? written : `${name}: ${written}`).slice(0, LONGEST_NOTE)];
  }

  /** What the species column says of a tree; a word that means only perhaps something waits for the steward. */
  #species(written: string): SpeciesSaid | null {
    if (written === '') return null;
    const word = speciesWord(written);
    const told = toldOf(this.options.told?.species, word);
    const known = told ? { said: told, sure: true } : speciesInWord(word);
    const before = this.#words.get(word);
    this.#words.set(word, {
      word,
      many: (before?.many ?? 0) + 1,
      said: known?.said ?? null,
      sure: known?.sure ?? false
    });
    if (!known)
      throw new BadCell('species', `I do not know a species called "${brief(written)}".`, 'speciesWord', word);
    if (!known.sure) throw new BadCell('species', `"${brief(written)}" may mean several things.`, 'speciesWord', word);
    return known.said;
  }

  #unit(role: Role, otherwise: LengthUnit): LengthUnit {
    const index = this.#at[role];
    return (index === undefined ? null : this.columns[index]!.unit) ?? otherwise;
  }

  /** @param faults a size without a day is read all the same: it may be off in another way too */
  #reading(
    cell: Cell,
    days: { readonly order: DateOrder | null; readonly today: string },
    faults: BadCell[]
  ): StatedReading | null {
    const girth = cell('girth');
    const diameter = cell('diameter');
    if (girth !== '' && diameter !== '') throw new BadCell('girth', 'gives both girth and diameter: leave one empty.');
    if (girth === '' && diameter === '') return null;
    const column = girth !== '' ? 'girth' : 'diameter';
    const { quantity = column, unit = this.#unit(column, this.options.defaultUnit) } = this.options.sizesAre ?? {};
    const written = girth || diameter;
    const valueMm = sizeIn(written, { column, quantity, unit });
    const day = cell('measuredOn');
    const on = day === '' ? (this.options.told?.undatedOn ?? '') : dayIn(day, 'measured_on', days);
    if (on === '') faults.push(new BadCell('measured_on', 'has a size without a day.', 'undated'));
    const at = cell('at');
    return {
      quantity,
      valueMm,
      asWritten: (cell('asWritten') || written).slice(0, 80),
      on,
      method: methodIn(cell('method'), quantity),
      heightMm: at === '' ? null : lengthIn(at, 'at', this.#unit('at', 'cm'), 5000)
    };
  }

  /** A hole with a row of its own. */
  #hole(cell: Cell): StatedHole[] {
    const written = cell('season');
    if (written === '') return [];
    const season = seasonIn(written, 'season', this.options.today);
    const bearingDeg = sideIn(cell('bearing'), 'bearing_deg');
    const length = (role: 'bit' | 'depth', most: number) =>
      cell(role) === '' ? null : lengthIn(cell(role), role, this.#unit(role, 'mm'), most);
    const [bitMm, depthMm] = [length('bit', 25), length('depth', 150)];
    if (bitMm !== null && bitMm < 3) throw new BadCell('bit', `a bit of ${bitMm} mm drills no taphole.`);
    if (depthMm !== null && depthMm < 5) throw new BadCell('depth', `a hole ${depthMm} mm deep is none.`);
    const heightMm = lengthIn(cell('holeHeight'), 'height', this.#unit('holeHeight', 'cm'), 5000);
    return [{ season, bearingDeg, heightMm, bitMm, depthMm }];
  }
}

type Cell = (role: Role) => string;

/** A remark is no longer than this. */
const LONGEST_NOTE = 1000;

function tagIn(tag: string): string {
  if (tag === '') throw new BadCell('tag', 'has no tag.');
  if (tag.length > 20) throw new BadCell('tag', `"${tag.slice(0, 24)}…" is longer than 20 characters.`);
  return tag;
}

/** The girth or diameter of a trunk. @returns mm, of the quantity that is asked for */
function sizeIn(
  written: string,
  {
    column,
    quantity,
    unit
  }: { readonly column: 'girth' | 'diameter'; readonly quantity: string; readonly unit: LengthUnit }
): number {
  if (written.length > 80) throw new BadCell(column, `"${brief(written)}" is too long to be a size.`);
  try {
    const parsed = parseTrunkLength(written, unit);
    if (parsed.quantity && parsed.quantity !== column)
      throw new BadCell(column, `says ${parsed.quantity} in the ${column} column. Which is it?`);
    const dbhMm = quantity === 'girth' ? parsed.valueMm / Math.PI : parsed.valueMm;
    if (dbhMm > 2500 || dbhMm < 5)
      throw new BadCell(
        column,
        `"${brief(written)}" would be a trunk ${(dbhMm / MM_PER.cm).toFixed(1)} cm thick. Look at the unit.`
      );
    return parsed.valueMm;
  } catch (error) {
    if (error instanceof UnreadableLength) throw new BadCell(column, error.message);
    throw error;
  }
}

function positionIn(cell: Cell): StatedPosition | null {
  const written = { east: cell('east'), north: cell('north'), lat: cell('lat'), lon: cell('lon') };
  const quality = qualityIn(cell('quality'), written.lat !== '' ? 'phone' : 'paced');
  const pair = (a: 'east' | 'lat', b: 'north' | 'lon'): [number, number] | null => {
    if (written[a] === '' && written[b] === '') return null;
    if (written[a] === '' || written[b] === '')
      throw new BadCell(written[a] === '' ? a : b, `gives ${a} or ${b} without the other.`);
    return [numberIn(written[a], a), numberIn(written[b], b)];
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
