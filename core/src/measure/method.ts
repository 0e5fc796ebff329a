/** How a trunk was measured. */
export type MeasureMethod = 'diameterTape' | 'girthTape' | 'calipers' | 'biltmore' | 'plainStick' | 'hug';

/** One standard deviation of the diameter, mm. Working assumptions; calibrate with your own repeated readings. */
export const METHOD_SD_MM: Readonly<Record<MeasureMethod, number>> = {
  diameterTape: 2,
  girthTape: 3,
  calipers: 3,
  biltmore: 12,
  plainStick: 15,
  hug: 30
};

/**
 * Where on a Biltmore stick held at arm's reach the mark for a diameter lies: `S = D * sqrt(A / (A + D))`.
 * Avery & Burkhart, Forest Measurements. Any one unit of length throughout.
 */
export function biltmoreMark(diameter: number, reach: number): number {
  return diameter * Math.sqrt(reach / (reach + diameter));
}

/**
 * The diameter of a trunk across which a plain stick was held: it seems thinner than it is, since its edges lie behind the stick. The
 * inverse of `biltmoreMark`. Any one unit of length throughout.
 * @param seen what the stick showed between the two edges, both sighted with one eye
 * @param reach from the eye to the stick, which touches the trunk
 * @throws RangeError where either is not above 0
 */
export function diameterFromStick(seen: number, reach: number): number {
  if (!(seen > 0 && reach > 0)) throw new RangeError('What a stick showed and the reach are lengths above nought.');
  return (seen ** 2 + seen * Math.sqrt(seen ** 2 + 4 * reach ** 2)) / (2 * reach);
}
