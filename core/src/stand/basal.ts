/**
 * Stand figures. Basal area `pi/4 * D^2` (any mensuration text, e.g. Avery & Burkhart, Forest Measurements);
 * quadratic mean diameter; stand density index after Reineke 1933.
 */

/** Cross-section of a stem at breast height, m2. @param dbhMm diameter outside bark, mm */
export function basalArea(dbhMm: number): number {
  return (Math.PI / 4) * (dbhMm / 1000) ** 2;
}

/** Sum of basal areas, m2. */
export function totalBasalArea(dbhsMm: Iterable<number>): number {
  let sum = 0;
  for (const d of dbhsMm) sum += basalArea(d);
  return sum;
}

/** Diameter of the tree of mean basal area, mm. NaN for an empty stand. */
export function quadraticMeanDiameter(dbhsMm: readonly number[]): number {
  return Math.sqrt(dbhsMm.reduce((sum, d) => sum + d * d, 0) / dbhsMm.length);
}

/** `N * (QMD / 25.4 cm)^1.605`, stems of 25.4 cm per hectare that crowd as much (Reineke 1933). */
export function standDensityIndex(stemsPerHa: number, qmdMm: number): number {
  return stemsPerHa * (qmdMm / 254) ** 1.605;
}
