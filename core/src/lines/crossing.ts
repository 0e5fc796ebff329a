/** How a line gets across a path. */
export const CROSSING_WAYS = ['overhead', 'culvert'] as const;
export type CrossingWay = (typeof CROSSING_WAYS)[number];

/** What was decided of a crossing. */
export interface DecidedCrossing {
  readonly how: CrossingWay;
  /** is it wrapped, so that it freezes later and thaws earlier? */
  readonly insulated: boolean;
}

/** What one crossing takes: metres of culvert and of sleeve, tall posts for one overhead, and person-hours. Working assumptions. */
export const CROSSING_TAKES = { culvertM: 5, sleeveM: 7, tallPosts: 2, hours: 3 } as const;
