import { normaliseBearing, toDegrees, toRadians } from '../math/index.ts';

/** A point on the ground of a bush: metres east and north of its origin. */
export interface GroundPoint {
  readonly eastM: number;
  readonly northM: number;
}

/** The point at a bearing (degrees clockwise from true north) and distance (metres) from another. */
export function offset(from: GroundPoint, bearingDeg: number, distanceM: number): GroundPoint {
  const angle = toRadians(bearingDeg);
  return { eastM: from.eastM + distanceM * Math.sin(angle), northM: from.northM + distanceM * Math.cos(angle) };
}

/** Metres between two points. */
export function distanceBetween(a: GroundPoint, b: GroundPoint): number {
  return Math.hypot(a.eastM - b.eastM, a.northM - b.northM);
}

/** Bearing from one point to another, 0 to 360 degrees clockwise from north. */
export function bearingTo(from: GroundPoint, to: GroundPoint): number {
  return normaliseBearing(toDegrees(Math.atan2(to.eastM - from.eastM, to.northM - from.northM)));
}
