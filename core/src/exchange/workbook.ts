import { UnreadableFile } from './statement.ts';
import { CarefulXml } from './xml.ts';

/** One sheet of a workbook: its cells as text, from the first row and column on. */
export interface Sheet {
  readonly name: string;
  readonly rows: readonly (readonly string[])[];
}

/** Rows and columns of a sheet beyond these are not read; a file of trees has neither. */
const MOST_ROWS = 26_000;
/** See there: titles and notes stand beside a table. */
const MOST_COLUMNS = 120;
/** So much of the text of a cell is read, signs. */
const LONGEST_CELL = 2000;
/** Cells of a sheet, empty ones between them included. */
const MOST_CELLS = 1_000_000;

/** The parts of a packed workbook that hold its cells, by their names in it. */
export const WORKBOOK_PARTS =
  /^(content\.xml|xl\/(workbook\.xml|styles\.xml|sharedStrings\.xml|_rels\/workbook\.xml\.rels|worksheets\/[^/]+\.xml))$/;

/**
 * The sheets of a workbook that hold anything. Figures stand with a point, days as 2026-10-31.
 * @param parts the XML of its parts, unpacked, by their names (`WORKBOOK_PARTS`)
 * @throws UnreadableFile
 * Sources: ECMA-376 part 1, SpreadsheetML, 18.3 and 18.8; OpenDocument 1.3 part 3, 9.1 and 19.
 */
export function readWorkbook(parts: ReadonlyMap<string, string>): Sheet[] {
  const sheets = parts.has('content.xml')
    ? openDocument(parts.get('content.xml')!)
    : parts.has('xl/workbook.xml')
      ? officeOpen(parts)
      : null;
  if (!sheets) throw new UnreadableFile('This is no spreadsheet that I can read. Save it as .xlsx, .ods or CSV.');
  const filled = sheets.filter(({ rows }) => rows.some((row) => row.some((cell) => cell !== '')));
  if (filled.length === 0) throw new UnreadableFile('There is nothing in this spreadsheet.');
  return filled;
}

/** Cells put down one by one, wherever they stand. */
class Cells {
  readonly rows: string[][] = [];
  #cells = 0;

  put(row: number, column: number, text: string): void {
    if (text === '') return;
    if (row >= MOST_ROWS || column >= MOST_COLUMNS)
      throw new UnreadableFile(
        `A sheet has cells beyond row ${MOST_ROWS} or column ${MOST_COLUMNS}. Take what is of trees into a sheet of its own.`
      );
    while (this.rows.length <= row) this.rows.push([]);
    const into = this.rows[row]!;
    this.#cells += Math.max(0, column + 1 - into.length);
    if (this.#cells > MOST_CELLS) throw new UnreadableFile('A sheet has more cells than a file of trees needs.');
    while (into.length <= column) into.push('');
    into[column] = text;
  }
}

/** A figure as one writes it: what binary fractions add at the end is taken off. */
function figure(written: string): string {
  const value = Number(written);
  return written !== '' && Number.isFinite(value) ? String(Number(value.toPrecision(12))) : written;
}

/** Milliseconds of a day. */
const MS_PER_DAY = 86_400_000;
/** The day before the first of a workbook's days: counted from 1900, as if that had been a leap year, or from 1904. */
const DAY_ZERO = { 1900: Date.UTC(1899, 11, 30), 1904: Date.UTC(1904, 0, 1) } as const;

function dayOf(serial: string, from: number): string {
  const days = Math.floor(Number(serial));
  const date = new Date(from + days * MS_PER_DAY);
  return Number.isFinite(days) && !Number.isNaN(date.getTime()) ? date.toISOString().slice(0, 10) : serial;
}

/** Numbers of formats that show a day, of those that every workbook has; ECMA-376 part 1, 18.8.30. */
const DAY_FORMATS = new Set([14, 15, 16, 17, 22, 27, 28, 29, 30, 31, 36, 50, 51, 52, 53, 54, 55, 56, 57, 58]);
/** Does a format code show a day: d, m and y outside of quotes and brackets? */
const showsDay = (code: string) => /d/i.test(code.replace(/"[^"]*"|\[[^\]]*\]|\\./g, '')) || /yy/i.test(code);

function officeOpen(parts: ReadonlyMap<string, string>): Sheet[] {
  const shared = sharedStrings(parts.get('xl/sharedStrings.xml'));
  const isDay = dayStyles(parts.get('xl/styles.xml'));
  const targets = new Map<string, string>();
  each(parts.get('xl/_rels/workbook.xml.rels'), (name, { Id, Target }) => {
    if (name === 'Relationship' && Id && Target) targets.set(Id, Target.replace(/^\/?(xl\/)?/, 'xl/'));
  });
  const sheets: { name: string; part: string }[] = [];
  let from: number = DAY_ZERO[1900];
  each(parts.get('xl/workbook.xml'), (name, attributes) => {
    if (name === 'workbookPr' && /^(1|true)$/.test(attributes.date1904 ?? '')) from = DAY_ZERO[1904];
    if (name === 'sheet')
      sheets.push({ name: attributes.name ?? '', part: targets.get(attributes['r:id'] ?? '') ?? '' });
  });
  return sheets.flatMap(({ name, part }) => {
    const xml = parts.get(part);
    return xml === undefined ? [] : [{ name, rows: sheetRows(xml, shared, (style) => (isDay(style) ? from : null)) }];
  });
}

function sheetRows(
  xml: string,
  shared: readonly string[],
  dayFrom: (style: number) => number | null
): readonly (readonly string[])[] {
  const cells = new Cells();
  let [row, column, type, style, text, open] = [-1, -1, '', 0, '', false];
  each(
    xml,
    (name, attributes) => {
      if (name === 't' || name === 'v') open = true;
      if (name === 'row') [row, column] = [attributes.r ? Number(attributes.r) - 1 : row + 1, -1];
      if (name !== 'c') return;
      column = attributes.r ? columnOf(attributes.r) : column + 1;
      [type, style, text] = [attributes.t ?? 'n', Number(attributes.s ?? 0), ''];
    },
    (name) => {
      if (name === 't' || name === 'v') open = false;
      if (name !== 'c') return;
      const from = type === 'n' && text !== '' ? dayFrom(style) : null;
      const said =
        type === 's'
          ? (shared[Number(text)] ?? '')
          : type === 'n'
            ? from === null
              ? figure(text)
              : dayOf(text, from)
            : type === 'd'
              ? text.slice(0, 10)
              : text;
      cells.put(row, column, said.trim());
    },
    (part) => {
      if (open && text.length < LONGEST_CELL) text += part;
    }
  );
  return cells.rows;
}

/** Column letters as an index: A is 0, AA 26. */
function columnOf(reference: string): number {
  let index = 0;
  for (const letter of /^[A-Z]*/.exec(reference)![0]) index = 26 * index + letter.charCodeAt(0) - 64;
  return index - 1;
}

function sharedStrings(xml: string | undefined): string[] {
  const all: string[] = [];
  let [text, phonetic, open] = ['', false, false];
  each(
    xml,
    (name) => {
      if (name === 'si') text = '';
      if (name === 'rPh') phonetic = true;
      if (name === 't') open = !phonetic;
    },
    (name) => {
      if (name === 't') open = false;
      if (name === 'rPh') phonetic = false;
      if (name === 'si') all.push(text);
    },
    (part) => {
      if (open && text.length < LONGEST_CELL) text += part;
    }
  );
  return all;
}

/** Which styles of cells show a day. */
function dayStyles(xml: string | undefined): (style: number) => boolean {
  const own = new Map<number, string>();
  const formats: number[] = [];
  let inCells = false;
  each(
    xml,
    (name, attributes) => {
      if (name === 'numFmt') own.set(Number(attributes.numFmtId), attributes.formatCode ?? '');
      if (name === 'cellXfs') inCells = true;
      if (name === 'xf' && inCells) formats.push(Number(attributes.numFmtId ?? 0));
    },
    (name) => {
      if (name === 'cellXfs') inCells = false;
    }
  );
  return (style) => {
    const format = formats[style] ?? 0;
    return own.has(format) ? showsDay(own.get(format)!) : DAY_FORMATS.has(format);
  };
}

const CELLS = ['table:table-cell', 'table:covered-table-cell'];

function openDocument(xml: string): Sheet[] {
  const sheets: Sheet[] = [];
  let cells = new Cells();
  let [name, row, column, rowTimes, cellTimes] = ['', 0, 0, 1, 1];
  let [value, text, open]: [string | null, string, boolean] = [null, '', false];
  /** A row that stands several times is written down once, and read so many times once it holds anything. */
  let filled: { column: number; text: string }[] = [];
  each(
    xml,
    (tag, attributes) => {
      if (tag === 'table:table') [name, row, cells] = [attributes['table:name'] ?? '', 0, new Cells()];
      if (tag === 'table:table-row') [rowTimes, column, filled] = [repeated(attributes, 'rows'), 0, []];
      if (tag === 'text:p') [text, open] = [text === '' ? '' : `${text} `, true];
      if (tag === 'text:s') text += ' ';
      if (!CELLS.includes(tag)) return;
      cellTimes = repeated(attributes, 'columns');
      text = '';
      const type = attributes['office:value-type'];
      value =
        type === 'date'
          ? (attributes['office:date-value'] ?? '').slice(0, 10)
          : type === 'float'
            ? figure(attributes['office:value'] ?? '')
            : null;
    },
    (tag) => {
      if (tag === 'text:p') open = false;
      if (CELLS.includes(tag)) {
        const said = value ?? text.trim();
        if (said !== '')
          for (let i = 0; i < Math.min(cellTimes, MOST_COLUMNS + 1); i++)
            filled.push({ column: column + i, text: said });
        column += cellTimes;
      }
      if (tag === 'table:table-row') {
        if (filled.length > 0)
          for (let i = 0; i < Math.min(rowTimes, MOST_ROWS + 1); i++)
            for (const cell of filled) cells.put(row + i, cell.column, cell.text);
        row += rowTimes;
      }
      if (tag === 'table:table') sheets.push({ name, rows: cells.rows });
    },
    (part) => {
      if (open && text.length < LONGEST_CELL) text += part;
    }
  );
  return sheets;
}

function repeated(attributes: Readonly<Record<string, string>>, what: 'rows' | 'columns'): number {
  return Math.max(1, Math.floor(Number(attributes[`table:number-${what}-repeated`] ?? 1)) || 1);
}

function each(
  xml: string | undefined,
  begins: (name: string, attributes: Readonly<Record<string, string>>) => void,
  ends: (name: string) => void = () => {},
  says: (text: string) => void = () => {}
): void {
  if (xml !== undefined) new CarefulXml({ begins, ends, says }, 'a spreadsheet').read(xml);
}
