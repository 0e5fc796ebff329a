/**
 * Diameter, girth and inside-bark diameter.
 * Breast height: 1.37 m (4.5 ft) in US practice (US Forest Service FIA field guide), 1.30 m elsewhere.
 */
import type { TrunkQuantity } from '../units/index.ts';

/** Breast height where inches are used: 4.5 ft. */
export const BREAST_HEIGHT_US_MM = 1371.6;
/** Breast height where centimetres are used: 1.3 m. */
export const BREAST_HEIGHT_METRIC_MM = 1300;

/** Diameter inside bark over diameter outside bark, sugar maple. From memory; a species constant. */
export const INSIDE_BARK_RATIO = 0.95;

/** Diameter from girth: `D = girth / pi`. */
export function diameterFromGirth(girthMm: number): number {
  return girthMm / Math.PI;
}

/** Girth of a round trunk, mm. @param diameterMm of the trunk */
export function girthFromDiameter(diameterMm: number): number {
  return diameterMm * Math.PI;
}

/** The diameter that a written quantity means. */
export function toDiameter(valueMm: number, quantity: TrunkQuantity): number {
  switch (quantity) {
    case 'girth':
      return diameterFromGirth(valueMm);
    case 'diameter':
      return valueMm;
    case 'radius':
      return 2 * valueMm;
  }
}

/** Diameter of the wood under the bark. */
export function insideBark(dbhMm: number): number {
  return INSIDE_BARK_RATIO * dbhMm;
}

/** Thickness of the bark on one side: what the bit goes through before it meets wood. */
export function barkThickness(dbhMm: number): number {
  return (dbhMm - insideBark(dbhMm)) / 2;
}

/** Several stems of one base as one figure: `sqrt(sum D^2)`, the diameter of the same basal area. */
export function combinedDiameter(stemsMm: readonly number[]): number {
  return Math.sqrt(stemsMm.reduce((sum, d) => sum + d * d, 0));
}
