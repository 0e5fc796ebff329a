/** Sap just above freezing keeps for a week, hours. Working assumption. */
const KEEPS_HOURS = 168;
/** The temperature that this holds for, °C. Working assumption. */
const KEEPS_AT_C = 1;
/** How much faster sap turns by a degree, as a logarithm. Working assumption: a day at 10 °C. */
const FASTER_A_DEGREE = 0.216;

/**
 * How long closed, clean sap keeps at a temperature: about a week at 0 to 2 °C, two to three days at 4 to 7, a day at 10. Working
 * assumption.
 * @returns hours
 */
export const keepsHours = (tempC: number): number =>
  KEEPS_HOURS * Math.exp(-FASTER_A_DEGREE * (Math.max(0, tempC) - KEEPS_AT_C));

/**
 * How far sap has turned, by what it went through: 1 is spoiled.
 * @param through temperatures that it had, and for how long
 */
export const turned = (through: readonly { readonly tempC: number; readonly hours: number }[]): number =>
  through.reduce((sum, { tempC, hours }) => sum + hours / keepsHours(tempC), 0);
