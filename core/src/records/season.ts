/** Work from July on counts for the coming sap season; a season is named by the year its sap runs in. */
export function seasonOf(isoDate: string): number {
  const [year, month] = isoDate.split('-').map(Number) as [number, number];
  return month >= 7 ? year + 1 : year;
}

/** The middle of the days on which holes are drilled, as a share of the year: the first of March. Working assumption. */
const TAPPING = 59 / 365;

/** When the holes of a season are drilled, as a fractional year. */
export function tappingYear(season: number): number {
  return season + TAPPING;
}

/** Colours that a season's holes may be marked with, so that the years can be read off the bark. */
export const PAINTS = [
  'blue',
  'white',
  'violet',
  'green',
  'orange',
  'yellow',
  'pink',
  'brown',
  'black',
  'red'
] as const;
export type Paint = (typeof PAINTS)[number];

/** Where a mark sits against its hole. Common practice: below it. */
export const PAINT_PLACES = ['below', 'above', 'left', 'right', 'round'] as const;
export type PaintPlace = (typeof PAINT_PLACES)[number];

/** How a bush paints its holes. */
export interface PaintHabit {
  /** by turns, season by season; none where nobody paints */
  readonly paints: readonly Paint[];
  /** the season in which the first of them was used; null: they were always used */
  readonly paintSince: number | null;
  /** seasons after which a mark can no longer be seen; null where it lasts */
  readonly paintLasts: number | null;
}

/**
 * The paint that can be seen under a season's holes; null where there is none.
 * @param now the season being planned
 */
export function paintOf(season: number, { paints, paintSince, paintLasts }: PaintHabit, now: number): Paint | null {
  const many = paints.length;
  if (many === 0 || (paintSince !== null && season < paintSince)) return null;
  if (paintLasts !== null && season <= now - paintLasts) return null;
  return paints[(((season - (paintSince ?? 0)) % many) + many) % many]!;
}

/** Paints of the bush that the words for the marks of felling name as well: nobody could tell the two apart. */
export function paintClash(paints: readonly Paint[], markPaint: string): Paint[] {
  const words = markPaint.toLowerCase();
  return paints.filter((paint) => new RegExp(`\\b${paint}\\b`).test(words));
}
