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
/** Signs that it has begun, whatever the thermometer says. */
export const SIGNS_OF_START: readonly SeasonSignKind[] = ['squirrels', 'brokenTwigs'];
