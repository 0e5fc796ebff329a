/** A spot on a trunk: the side it is on, degrees clockwise from north, and its height above the ground, mm. */
export interface BarkSpot {
  readonly bearingDeg: number;
  readonly heightMm: number;
}
