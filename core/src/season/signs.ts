/** What is seen of the season's beginning and end. Common practice. */
export const SEASON_SIGNS = [
  'squirrels',
  'brokenTwigs',
  'budsClosed',
  'budsSwollen',
  'moths',
  'smell',
  'greenish'
] as const;
export type SeasonSignKind = (typeof SEASON_SIGNS)[number];

/** Signs that the season of the trees which show them is over. */
export const SIGNS_OF_END: readonly SeasonSignKind[] = ['budsSwollen', 'moths', 'smell', 'greenish'];
/**
 * How many times likelier a sign is seen of trees whose season is over than of those whose it is not: one looks at buds and smells
 * sap, and is rarely mistaken; a moth flies on any warm day. Working assumptions.
 */
export const SIGN_ODDS: Readonly<Partial<Record<SeasonSignKind, number>>> = {
  budsClosed: 1 / 200,
  budsSwollen: 200,
  smell: 100,
  greenish: 100,
  moths: 4
};
/** Signs that it has begun, whatever the thermometer says. */
export const SIGNS_OF_START: readonly SeasonSignKind[] = ['squirrels', 'brokenTwigs'];
