/** Rings that were counted on a core or on a sawn stump. Widths in mm of wood, along one radius. */
export interface CountedRings {
  readonly source: 'core' | 'stump';
  /** width of the outermost 5, 10 and 20 rings, mm; null where it was not measured */
  readonly last5Mm: number | null;
  readonly last10Mm: number | null;
  readonly last20Mm: number | null;
}

/** What a tree itself says of its growth. */
export interface ObservedRing {
  readonly ringMm: number;
  readonly seMm: number;
}

/** What one radius says of the whole round: trunks are not round, nor is their pith in the middle. Shares of the ring, 1 sd; working assumptions. */
const ONE_RADIUS = { core: 0.15, stump: 0.1 } as const;
/** Both ends of a width are read to about this, together, mm. Working assumption. */
const EDGES_MM = 1;
/** Rings stray from one year to the next by this share: weather. Working assumption. */
const WEATHER = 0.25;
/** Growth of some years ago tells less of today's: by this share a year, back to the middle of the rings. Working assumption. */
const DRIFT = 0.015;

/**
 * Today's ring width as counted rings tell it: of the widths that were measured the one that tells it best. Few rings hang on
 * the weather and on how well their edges were read, many on years long ago.
 * @returns null where no width was measured
 */
export function ringFromWidths({ source, last5Mm, last10Mm, last20Mm }: CountedRings): ObservedRing | null {
  const told = (
    [
      [5, last5Mm],
      [10, last10Mm],
      [20, last20Mm]
    ] as const
  ).flatMap(([rings, widthMm]): ObservedRing[] => {
    if (widthMm === null) return [];
    const ringMm = widthMm / rings;
    const share = Math.hypot(ONE_RADIUS[source], WEATHER / Math.sqrt(rings), (DRIFT * rings) / 2);
    return [{ ringMm, seMm: Math.hypot(share * ringMm, EDGES_MM / rings) }];
  });
  return told.reduce<ObservedRing | null>((best, each) => (best && best.seMm <= each.seMm ? best : each), null);
}

/** What several say together, each by its precision; null where none says anything. */
export function combined(all: readonly (ObservedRing | null)[]): ObservedRing | null {
  let precision = 0;
  let sum = 0;
  for (const each of all) {
    if (!each) continue;
    precision += 1 / each.seMm ** 2;
    sum += each.ringMm / each.seMm ** 2;
  }
  return precision > 0 ? { ringMm: sum / precision, seMm: 1 / Math.sqrt(precision) } : null;
}
