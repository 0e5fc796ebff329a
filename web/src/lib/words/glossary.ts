/**
 * The terms of the trade that the screens use, each explained once. The page of help lists them all; a screen that
 * uses one lets it be tapped.
 */
export const GLOSSARY = {
  dbh: ['DBH', 'Diameter at breast height, outside the bark: 1.30 m above the ground, 4.5 ft in US practice.'],
  girth: ['girth', 'The way round the trunk with a tape. Divided by pi it is the diameter.'],
  taphole: ['taphole', 'The hole that a spout sits in.'],
  stained: [
    'stained wood',
    'The brown column that a tree walls off behind an old hole, above and below it. It never gives sap again; each year a new ring of clear wood grows over it. Shavings from it are brown, shavings of clear wood are cream.'
  ],
  sapwood: ['sapwood', 'The outer wood that carries sap. Under it lies dark heartwood, which gives none.'],
  qmd: ['quadratic mean diameter', 'The diameter of the tree of mean basal area: thick trees count more in it.'],
  sdi: [
    'stand density index',
    'How crowded a stand is: the number of trees of 25 cm (10 in) on the same ground that would press on each other as much.'
  ],
  rootPlate: [
    'root plate',
    'The roots with their earth that come up when a tree is thrown. Under tension they snap back.'
  ],
  school: [
    'rule',
    'One of the ways in which experienced people do it. The bush follows one; the others stand beside it.'
  ],
  basalArea: [
    'basal area',
    'The cross-section of the trunks at breast height, added up over a hectare or an acre: how full a stand is, and the measure of how much a thinning takes.'
  ],
  crownCover: ['crown cover', 'How much of the ground lies under a crown, seen from above.'],
  cropTree: ['crop tree', 'A tree that the stand is managed for. What crowds it is taken; it stays.'],
  release: [
    'crown release',
    'Taking what touches a crop tree’s crown, so that the crown has light and room from three or four sides.'
  ],
  codominant: [
    'crown class',
    'How high a crown stands among its neighbours: above them, level with them, reaching up between them, or under them.'
  ],
  liveCrown: ['live crown', 'The part of the tree’s height that carries living branches.'],
  dieback: ['dieback', 'Dead twigs and branches at the outside of the crown, as a share of it.'],
  includedBark: [
    'fork with included bark',
    'A tight fork with bark grown in between its two stems, so that they are not joined by wood and may split.'
  ],
  conk: ['conk', 'A shelf-like fungus on the trunk: decay stands behind it.'],
  girdled: ['girdled', 'Ringed through the bark so that the tree dies standing. It stays up for years.'],
  hungUp: ['hung-up', 'A tree that was felled or fell and hangs in another one.'],
  windthrow: ['windthrow', 'Trees laid over by wind, roots and all; commonest on wet or shallow ground after a cut.'],
  keys: ['keys', 'The winged seeds of maples and ashes.'],
  opposite: ['opposite', 'Two twigs or buds face each other across the stem, as in maple and ash.'],
  alternate: ['alternate', 'Twigs or buds stand one at a time, by turns along the stem, as in oak, cherry and beech.'],
  dropLine: ['drop', 'The short piece of tube from a spout down to the line.'],
  ladder: ['thresholds', 'The diameters from which a tree may carry one tap, two, or more.'],
  likely: [
    'chance of clear wood',
    'Out of 100 trunks with this tree’s history, in how many a hole here meets clear wood all the way in.'
  ]
} as const satisfies Record<string, readonly [string, string]>;

export type Term = keyof typeof GLOSSARY;
