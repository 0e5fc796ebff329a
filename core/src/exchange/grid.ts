import Papa from 'papaparse';

import { unguard } from './safeCells.ts';
import { MAX_ROWS, UnreadableFile } from './statement.ts';

/** A row of a table, and where it stands. */
export interface Row {
  readonly cells: readonly string[];
  readonly line: number;
}

/** A table taken apart: its heading, and its rows with their lines, empty ones left out. */
export interface Grid {
  readonly heading: readonly string[];
  readonly rows: readonly Row[];
}

/**
 * Takes a table apart.
 * @param text the whole file; comma, semicolon or tab separated
 * @throws UnreadableFile where it is no text
 */
export function tableIn(text: string): Grid {
  if (text.includes('\u0000'))
    throw new UnreadableFile('This is not a text file. Save the table as CSV (UTF-8) and try again.');
  const content = text.replace(/^\uFEFF/, '');
  const parsed = Papa.parse<string[]>(content, {
    delimiter: delimiterOf(content),
    skipEmptyLines: false,
    preview: MAX_ROWS + 2
  });
  const lines = parsed.data.map((cells, i) => ({ cells: cells.map(unguard), line: i + 1 }));
  const at = headingAt(lines);
  return {
    heading: lines[at]?.cells.map((cell) => cell.trim()) ?? [],
    rows: lines.slice(at + 1).filter(({ cells }) => cells.some((cell) => cell.trim() !== ''))
  };
}

/** A heading stands among the first lines: above it may be a title. */
const HEADING_WITHIN = 10;

/** The first line that is about as full as the fullest of those that follow: a title fills a cell or two. */
function headingAt(lines: readonly Row[]): number {
  const filled = lines
    .slice(0, 2 * HEADING_WITHIN)
    .map(({ cells }) => cells.filter((cell) => cell.trim() !== '').length);
  const fullest = Math.max(1, ...filled);
  return Math.max(
    0,
    filled.slice(0, HEADING_WITHIN).findIndex((many) => many >= fullest / 2)
  );
}

/** The heading alone decides: cells below may hold semicolons of their own. Lines above it hold no sign at all. */
function delimiterOf(content: string): string {
  const first = content.split(/\r\n|\r|\n/, HEADING_WITHIN);
  const heading = first.find((line) => /[,;\t]/.test(line)) ?? '';
  const count = (sign: string) => heading.split(sign).length;
  return [',', ';', '\t'].reduce((best, sign) => (count(sign) > count(best) ? sign : best));
}

/** Rows of a sheet as a table's text, so that both are read the same way. */
export const tableText = (rows: readonly (readonly string[])[]): string => Papa.unparse(rows as string[][]);

/** A cell as an error quotes it. */
export function brief(written: string): string {
  return written.length > 40 ? `${written.slice(0, 40)}…` : written;
}
