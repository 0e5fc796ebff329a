import { readFileSync } from 'node:fs';

/** Rows of a numeric test file, by column name. */
export function readTable(name: string): Record<string, number>[] {
  return readRows(name).map((row) => Object.fromEntries(Object.entries(row).map(([key, cell]) => [key, Number(cell)])));
}

/** Rows of a test file as they are written, by column name. */
export function readRows(name: string): Record<string, string>[] {
  const [heading, ...lines] = readFileSync(new URL(name, import.meta.url), 'utf8')
    .trim()
    .split(/\r?\n/);
  const cells = (line: string) => line.split(',').map((cell) => cell.replace(/^"(.*)"$/, '$1'));
  const columns = cells(heading!);
  return lines.map((line) => Object.fromEntries(cells(line).map((cell, i) => [columns[i]!, cell])));
}
