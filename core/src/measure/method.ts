/** How a trunk was measured. */
export type MeasureMethod = 'diameterTape' | 'girthTape' | 'calipers' | 'biltmore' | 'hug';

/** One standard deviation of the diameter, mm. Working assumptions; calibrate with your own repeated readings. */
export const METHOD_SD_MM: Readonly<Record<MeasureMethod, number>> = {
  diameterTape: 2,
  girthTape: 3,
  calipers: 3,
  biltmore: 12,
  hug: 30
};

/**
 * Where on a Biltmore stick held at arm's reach the mark for a diameter lies: `S = D * sqrt(A / (A + D))`.
 * Avery & Burkhart, Forest Measurements. Any one unit of length throughout.
 */
export function biltmoreMark(diameter: number, reach: number): number {
  return diameter * Math.sqrt(reach / (reach + diameter));
}
