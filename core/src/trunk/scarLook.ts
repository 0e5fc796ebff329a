/** How an old hole of unknown year looks on the bark. */
export const SCAR_LOOKS = ['open', 'closed', 'faint', 'unknown'] as const;
export type ScarLook = (typeof SCAR_LOOKS)[number];

/**
 * How many seasons ago a scar of such a look was drilled, from the fewest to the most. Holes close in one to two years, in a
 * weak tree in three, and then are hard to see: common practice. How long a closed one can still be told is a working assumption.
 */
export const SCAR_AGES: Readonly<Record<ScarLook, readonly [fewest: number, most: number]>> = {
  open: [1, 3],
  closed: [2, 12],
  faint: [8, 40],
  unknown: [1, 40]
};

/** From about this spring on small bits were usual; common practice. */
const SMALL_BITS_FROM = 2005;
/** What was usual before: a bit of 7/16 inch, two inches deep; common practice. */
const LARGE_HOLE = { bitMm: 11.1125, depthMm: 50.8 };

/**
 * Bit and depth that a hole of unknown year was most likely drilled with.
 * @param own what the bush drills with today, mm
 */
export function usualHole(
  fromSeason: number,
  toSeason: number,
  own: { readonly bitMm: number; readonly depthMm: number }
): { readonly bitMm: number; readonly depthMm: number } {
  const { bitMm, depthMm } = (fromSeason + toSeason) / 2 < SMALL_BITS_FROM ? LARGE_HOLE : own;
  return { bitMm, depthMm };
}
