import type { OtherSap } from '../identify/index.ts';
import type { SeasonCourse } from './course.ts';

/** What is known of sap that is no maple's: much less than of maple. From memory and common practice; nothing here was calibrated. */
export interface OtherSapFacts {
  /** sugar, per cent by mass: what it usually has, and between which it lies */
  readonly brix: { readonly low: number; readonly usual: number; readonly high: number };
  /** what a hole gives in a season, litres */
  readonly litresATap: { readonly low: number; readonly high: number };
  /**
   * Degree-days above `BUD_BASE_C` since `BUD_START` between which its sap rises: root pressure, from warm ground to the tree's own
   * leaves. Null where it runs by frost and thaw in the maples' own weeks.
   */
  readonly risesBetween: readonly [from: number, until: number] | null;
}

/** What is known of them, by kind. Working assumptions but for the sugar, which is common practice. */
export const OTHER_SAP_FACTS: Readonly<Record<OtherSap, OtherSapFacts>> = {
  // About when the sugar maple's buds have swollen, until its own leaves are out.
  birch: {
    brix: { low: 0.5, usual: 0.9, high: 1.5 },
    litresATap: { low: 30, high: 90 },
    risesBetween: [70, 170]
  },
  walnut: { brix: { low: 1, usual: 1.7, high: 3 }, litresATap: { low: 8, high: 25 }, risesBetween: null }
};

/** A season that needs no frost, as days of the year counted from 0; null where it does not begin, or end, within the days known. */
export interface RisingDays {
  readonly from: number | null;
  readonly until: number | null;
}

/** The days of a year in which such sap rises. */
export function risingDays(
  { warmth }: Pick<SeasonCourse, 'warmth'>,
  [from, until]: readonly [number, number]
): RisingDays {
  const first = (degreeDays: number) => {
    const at = warmth.findIndex((each) => each >= degreeDays);
    return at < 0 ? null : at;
  };
  return { from: first(from), until: first(until) };
}
