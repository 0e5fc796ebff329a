/** How the sap is taken. */
export type Collecting = 'buckets' | 'tubing';

/** Things to have before the first day. */
export type Gear = 'spouts' | 'bits' | 'buckets' | 'lids' | 'dropLines' | 'lateralLines';

/** Spares for what is lost, split or found broken, as a share of what is set. Common practice: about one in twenty. */
export const SPARE_SHARE = 0.05;
/** Holes that a bit drills cleanly before it is sharpened or changed. Common practice: a few hundred. */
export const HOLES_PER_BIT = 300;
/** Taps on one lateral line at the most. Common practice: about five. */
export const TAPS_PER_LATERAL = 5;

/** What follows from the count, spares included. @param taps of the whole bush */
export function gearFor(taps: number, collecting: Collecting): { readonly what: Gear; readonly count: number }[] {
  if (taps === 0) return [];
  const withSpares = taps + Math.ceil(taps * SPARE_SHARE);
  const own: readonly (readonly [Gear, number])[] =
    collecting === 'buckets'
      ? [
          ['buckets', withSpares],
          ['lids', withSpares]
        ]
      : [
          ['dropLines', withSpares],
          ['lateralLines', Math.ceil(taps / TAPS_PER_LATERAL)]
        ];
  const shared: readonly (readonly [Gear, number])[] = [
    ['spouts', withSpares],
    // One spare bit.
    ['bits', Math.max(2, Math.ceil(taps / HOLES_PER_BIT) + 1)]
  ];
  return [...shared, ...own].map(([what, count]) => ({ what, count }));
}
