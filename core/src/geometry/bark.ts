import { toRadians, wrapDegrees } from '../math/index.ts';

/** A spot on a trunk: the side it is on, degrees clockwise from north, and its height above the ground, mm. */
export interface BarkSpot {
  readonly bearingDeg: number;
  readonly heightMm: number;
}

/** How far two spots are from each other along the bark, mm. */
export function barkDistance(a: BarkSpot, b: BarkSpot, barkRadiusMm: number): number {
  return Math.hypot(toRadians(wrapDegrees(a.bearingDeg - b.bearingDeg)) * barkRadiusMm, a.heightMm - b.heightMm);
}

/** A spot as it is written down: to a tenth of a degree and a millimetre. */
export function writtenSpot<T extends BarkSpot>(spot: T): T {
  return {
    ...spot,
    bearingDeg: (Math.round(10 * spot.bearingDeg) / 10) % 360,
    heightMm: Math.round(spot.heightMm)
  };
}
