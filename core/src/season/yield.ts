import type { SpeciesId } from '../identify/index.ts';

/** How sap leaves the tree. */
export const COLLECTING_WAYS = ['bucket', 'bag', 'tubing', 'vacuum'] as const;
export type CollectingWay = (typeof COLLECTING_WAYS)[number];

/**
 * Days after which a hole gives a good third of what it gave fresh: its own wall and microbes close it. About four weeks to the
 * half, with vacuum and clean gear twice as long. Common practice, as numbers a working assumption.
 */
export const HOLE_LIVES: Readonly<Record<CollectingWay, number>> = { bucket: 36, bag: 38, tubing: 40, vacuum: 68 };

/** What a hole gives of what it gave fresh. @param days since it was made, 0 or more @param lifeDays of `HOLE_LIVES` */
export const ageing = (days: number, lifeDays: number): number => Math.exp(-((Math.max(0, days) / lifeDays) ** 2));

/** Litres that a tap in clear wood gives on a day of index 1, with a fresh hole. About four on a good day. Common practice. */
export const LITRES_AT_FULL = 5.5;

/** Trees that run alike. */
export interface TapGroup {
  /** null where it is open */
  readonly species: SpeciesId | null;
  /** in a stand that the sun warms: its trees thaw earlier and farther */
  readonly sunny: boolean;
}

/** So much warmer is a day in a sunny stand, °C. Working assumption. */
export const SUN_WARMS_C = 1.5;
