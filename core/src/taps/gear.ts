import { inchFraction, MM_PER_INCH } from '../units/index.ts';

/** How the sap is taken. */
export type Collecting = 'buckets' | 'tubing';

/** One kind of thing to bring, with why so many. */
export interface GearLine {
  readonly what: string;
  readonly count: number;
  readonly because: string;
}

/** Spares for what is lost, split or found broken, as a share of what is set. Common practice: about one in twenty. */
export const SPARE_SHARE = 0.05;
/** Holes that a bit drills cleanly before it is sharpened or changed. Common practice: a few hundred. */
export const HOLES_PER_BIT = 300;
/** Taps on one lateral line at the most. Common practice: about five. */
export const TAPS_PER_LATERAL = 5;

const withSpares = (n: number) => n + Math.ceil(n * SPARE_SHARE);

/**
 * What follows from the count: things to have before the first day.
 * @param taps of the whole bush
 */
export function gearFor(taps: number, bitMm: number, collecting: Collecting): GearLine[] {
  if (taps === 0) return [];
  const bit = `${inchFraction(bitMm / MM_PER_INCH, 16)} in`;
  const spares = `${taps} and one spare in twenty`;
  const shared: GearLine[] = [
    { what: `spouts, ${bit}`, count: withSpares(taps), because: `${spares}; the spout must match the bit` },
    {
      what: `bits, ${bit}`,
      count: Math.max(2, Math.ceil(taps / HOLES_PER_BIT) + 1),
      because: `one for ${HOLES_PER_BIT} holes, and one in the pocket`
    }
  ];
  return collecting === 'buckets'
    ? [
        ...shared,
        { what: 'buckets', count: withSpares(taps), because: spares },
        { what: 'lids', count: withSpares(taps), because: spares }
      ]
    : [
        ...shared,
        { what: 'drop lines', count: withSpares(taps), because: `${spares}; long enough to reach fresh wood` },
        {
          what: 'lateral lines',
          count: Math.ceil(taps / TAPS_PER_LATERAL),
          because: `about ${TAPS_PER_LATERAL} taps on each, falling 2 % and more`
        }
      ];
}
