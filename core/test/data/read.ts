import { readFileSync } from 'node:fs';

/** Rows of a numeric test file, by column name. */
export function readTable(name: string): Record<string, number>[] {
  const [heading, ...lines] = readFileSync(new URL(name, import.meta.url), 'utf8')
    .trim()
    .split(/\r?\n/);
  const columns = heading!.split(',');
  return lines.map((line) => Object.fromEntries(line.split(',').map((cell, i) => [columns[i]!, Number(cell)])));
}
