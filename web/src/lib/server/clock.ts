import { readFileSync } from 'node:fs';

/**
 * Today's date. A fixed day can be set for tests and screenshots, or a file with the day that it is now, by `@` and its name.
 * @returns ISO date, UTC
 */
export function today(): string {
  const said = process.env.BAUMKIN_TODAY ?? '';
  if (said.startsWith('@')) return readFileSync(said.slice(1), 'utf8').trim();
  return said || new Date().toISOString().slice(0, 10);
}
