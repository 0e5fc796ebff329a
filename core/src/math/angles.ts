/** Degrees as radians. */
export const toRadians = (degrees: number): number => (degrees * Math.PI) / 180;

/** Radians as degrees. */
export const toDegrees = (radians: number): number => (radians * 180) / Math.PI;

/** An angle brought into -180 (excluded) to 180 degrees. */
export function wrapDegrees(degrees: number): number {
  const turned = normaliseBearing(degrees);
  return turned > 180 ? turned - 360 : turned;
}

/** A bearing brought into 0 to 360 (excluded) degrees. */
export function normaliseBearing(degrees: number): number {
  return ((degrees % 360) + 360) % 360;
}

const COMPASS = ['N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW'] as const;

/** The nearest of eight compass points. */
export function compassPoint(bearingDeg: number): (typeof COMPASS)[number] {
  return COMPASS[Math.round(normaliseBearing(bearingDeg) / 45) % 8]!;
}
