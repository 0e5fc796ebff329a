import { warmthAbove } from './run.ts';
import type { CollectingWay } from './yield.ts';

/** What sap runs into: a bucket or bag at the spout, a pail on the ground with a tube, a tank at the foot of lines. */
export const VESSELS = ['bucket', 'bag', 'pail', 'tank'] as const;
export type Vessel = (typeof VESSELS)[number];

/** How sap leaves the trees that run into a vessel. */
export function wayOf(vessel: Vessel, vacuum: boolean): CollectingWay {
  if (vessel === 'tank') return vacuum ? 'vacuum' : 'tubing';
  return vessel === 'bag' ? 'bag' : 'bucket';
}

/** A tube needs so much to sit on the spout and to reach into the pail, mm. Working assumption. */
const TUBE_ENDS_MM = 60;

/**
 * How high a tap may be whose sap falls through a tube into a pail on the ground.
 * @returns mm above the ground; null where the vessel sets no limit
 */
export function highestTapMm(of: {
  readonly vessel: Vessel;
  readonly rimMm: number | null;
  readonly tubeMm: number | null;
}): number | null {
  return of.vessel === 'pail' && of.rimMm !== null && of.tubeMm !== null
    ? of.rimMm + Math.max(0, of.tubeMm - TUBE_ENDS_MM)
    : null;
}

/** How sap gets from a place to the sugarhouse. */
export const CARRIERS = ['hand', 'yoke', 'sled', 'vehicle'] as const;
export type Carrier = (typeof CARRIERS)[number];

/** Litres that one person takes along at a time; a litre weighs about a kilogram. Working assumption. */
export const LOAD_LITRES: Readonly<Record<Carrier, number>> = { hand: 20, yoke: 36, sled: 80, vehicle: 400 };

/** Ground that froze at least so hard in the night bears a vehicle in the morning, °C. Working assumption. */
const BEARS_FROM_C = -3;

/** Old snow holds so much water, as a share of its depth. From memory. */
const SNOW_DENSITY = 0.3;
/** A degree-day above freezing melts so much of that, mm. From memory: 2 to 6. */
const MELT_MM = 3.5;

/**
 * Is the snow likely gone that usually lies at tapping?
 * @param snowMm its usual depth @param since the days after tapping, one after the other
 */
export function snowGone(snowMm: number, since: readonly { readonly minC: number; readonly maxC: number }[]): boolean {
  return MELT_MM * since.reduce((sum, day) => sum + warmthAbove(0, day), 0) >= SNOW_DENSITY * snowMm;
}

/**
 * What stands against a carrier on a day: thawed ground under wheels, which bears in the frost of a morning at the most, or bare
 * ground under runners.
 * @param bare is the snow likely gone?
 */
export function carrierProblem(
  carrier: Carrier,
  { minC, maxC }: { readonly minC: number; readonly maxC: number },
  bare: boolean
): 'mud' | 'frozenMornings' | 'bareGround' | null {
  if (carrier === 'sled') return bare ? 'bareGround' : null;
  if (carrier !== 'vehicle' || maxC <= 0) return null;
  return minC <= BEARS_FROM_C ? 'frozenMornings' : 'mud';
}
