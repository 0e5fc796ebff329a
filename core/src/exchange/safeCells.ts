import Papa from 'papaparse';

/**
 * Signs with which a spreadsheet begins a formula, in the wide forms of East Asian keyboards too (OWASP, "CSV Injection"). A cell begins
 * at its first sign; where another sign than the comma divides cells, as in half the world's locales, one begins behind every
 * semicolon, tab and line break as well, and quotes inside a cell bind nothing.
 */
const BEGINS = /(?<=^|[;\t\r\n])([ \u00a0"]*)('*)(?=[=+\-@\t\r＝＋－＠])/g;
/** One apostrophe fewer where `guard` set one. */
const GUARDED = /(?<=^|[;\t\r\n])([ \u00a0"]*)'('*)(?=[=+\-@\t\r＝＋－＠])/g;
const PLAIN_NUMBER = /^-?\d+(?:[.,]\d+)?$/;

/** A cell that no spreadsheet runs; plain numbers stay numbers. `unguard` gives it back. */
const guard = (cell: string): string => (PLAIN_NUMBER.test(cell) ? cell : cell.replace(BEGINS, "$1'$2"));

/** Takes off what a safe table puts before the sign of a formula. */
export const unguard = (cell: string): string => cell.replace(GUARDED, '$1$2');

/**
 * Rows as CSV, divided by commas, that no spreadsheet runs as formulas, whatever divides cells where it is opened.
 * @param rows the heading first
 */
export function writeRows(rows: readonly (readonly string[])[], newline: '\n' | '\r\n' = '\n'): string {
  const safe = rows.map((row) => row.map(guard));
  return Papa.unparse(safe, { newline }) + newline;
}
