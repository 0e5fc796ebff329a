import { growthBalance } from '@baumkin/core/taps';

/** A usual tree, to show what a habit does: mm. */
export const USUAL = { dbhMm: 400, ringMm: 1.4, ringSeMm: 0 };

/** How a bush drills, as far as its growth has to carry it: mm, and the accepted share. */
export interface Drilling {
  readonly bitMm: number;
  readonly depthMm: number;
  readonly lowestMm: number;
  readonly highestMm: number;
  readonly acceptedShare: number;
}

/** Holes a year that a usual tree carries, drilled so. */
export const usuallyCarried = (drilling: Drilling): number =>
  growthBalance({ ...USUAL, ...drilling, bandMm: drilling.highestMm - drilling.lowestMm }).tapsCarried;
