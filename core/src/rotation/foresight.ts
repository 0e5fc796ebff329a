/**
 * How far ahead a bush plans: what a loss in this season counts for against one in a season when today's holes are buried.
 * Between the two it changes evenly.
 */
export const FORESIGHTS = { now: 30, generation: 3, grandchildren: 0.5 } as const;
/** How far ahead a bush plans, by name. */
export type Foresight = keyof typeof FORESIGHTS;
/** The names of them, the nearest first. */
export const FORESIGHT_IDS = Object.keys(FORESIGHTS) as [Foresight, ...Foresight[]];

/**
 * What a loss counts for, by season.
 * @param seasons how many
 * @param burialSeasons seasons after which a hole of today is under so much new wood that no drill meets its column
 * @param early what a loss now counts for against one then
 */
export function seasonWeights(seasons: number, burialSeasons: number, early: number): number[] {
  return Array.from({ length: seasons }, (_, season) => early + (1 - early) * Math.min(1, season / burialSeasons));
}
