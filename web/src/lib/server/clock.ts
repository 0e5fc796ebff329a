/** Today's date. A fixed day can be set for tests and screenshots. @returns ISO date, UTC */
export function today(): string {
  return process.env.BAUMKIN_TODAY || new Date().toISOString().slice(0, 10);
}
