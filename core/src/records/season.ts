/** Work from July on counts for the coming sap season; a season is named by the year its sap runs in. */
export function seasonOf(isoDate: string): number {
  const [year, month] = isoDate.split('-').map(Number) as [number, number];
  return month >= 7 ? year + 1 : year;
}

/** Paint colours for the mark under a season's holes, by turns, so that the years can be read off the bark. */
export const PAINTS = ['green', 'blue', 'orange', 'white', 'violet'] as const;
export type Paint = (typeof PAINTS)[number];

/** The paint colour of a season. */
export function paintOf(season: number): Paint {
  return PAINTS[((season % PAINTS.length) + PAINTS.length) % PAINTS.length]!;
}
