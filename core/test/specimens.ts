import type { AgeClass, Evidence, LookSeason, SpeciesId } from '../src/identify/index.ts';

/**
 * Described specimens with known names: put down from botany texts as remembered (from memory) and from facts of the
 * trade (common practice, no source), before the clue table was filled in for them and in its vocabulary.
 */
export interface Described {
  readonly what: string;
  readonly species: SpeciesId;
  readonly age: AgeClass;
  readonly season: LookSeason;
  readonly seen: Evidence;
}

/** A described tree, in a line. */
export const tree = (
  species: SpeciesId,
  what: string,
  age: AgeClass,
  season: LookSeason,
  seen: Evidence
): Described => ({
  what,
  species,
  age,
  season,
  seen
});

export const MAPLE_SPECIMENS: readonly Described[] = [
  tree('sugarMaple', 'mature: plates fastened on one side; sharp brown many-scaled buds', 'grown', 'bare', {
    arrangement: 'opposite',
    budShape: 'sharpScaly',
    budColour: 'brown',
    barkGrown: 'oneEdge',
    rub: 'holds'
  }),
  tree('sugarMaple', 'sapling: slim brown twig, three buds at the tip, fine bumps under the palm', 'young', 'bare', {
    arrangement: 'opposite',
    twigStoutness: 'slim',
    twigColour: 'brown',
    budGrouping: 'threeAtTip',
    budShape: 'sharpScaly',
    barkYoung: 'smoothBumps'
  }),
  tree('sugarMaple', 'vigorous roadside tree, still smooth at 45 cm', 'grown', 'bare', {
    arrangement: 'opposite',
    budShape: 'sharpScaly',
    budColour: 'brown',
    budGrouping: 'threeAtTip',
    twigColour: 'brown',
    barkGrown: 'smooth',
    rub: 'holds'
  }),
  tree('sugarMaple', 'old giant, thick plates curling out along one side', 'old', 'bare', {
    arrangement: 'opposite',
    barkOld: 'oneEdge',
    rub: 'holds',
    budShape: 'sharpScaly',
    budColour: 'brown',
    oldTapholes: 'yes'
  }),
  tree('sugarMaple', 'in leaf: five lobes, rounded notches, smooth margin, clear sap', 'grown', 'leaf', {
    arrangement: 'opposite',
    leafForm: 'five',
    leafNotch: 'rounded',
    leafMargin: 'smooth',
    leafUnderside: 'paleGreen',
    milkySap: 'clear'
  }),
  tree('sugarMaple', 'open-grown, keys like a horseshoe, bark firm, buds sharp', 'grown', 'fall', {
    arrangement: 'opposite',
    keysHanging: 'horseshoe',
    budShape: 'sharpScaly',
    barkGrown: 'oneEdge'
  }),
  tree('blackMaple', 'shallow three-lobed leaf, drooping, velvety below; twig greyer', 'grown', 'leaf', {
    arrangement: 'opposite',
    leafForm: 'three',
    leafNotch: 'shallow',
    leafMargin: 'smooth',
    leafUnderside: 'velvet',
    milkySap: 'clear',
    twigColour: 'grey'
  }),
  tree('blackMaple', 'winter: like sugar maple, greyer and hairier, dark furrowed bark', 'old', 'bare', {
    arrangement: 'opposite',
    budShape: 'downy',
    budColour: 'black',
    budGrouping: 'threeAtTip',
    twigColour: 'grey',
    barkOld: 'furrows',
    rub: 'holds'
  }),
  tree('redMaple', 'mature in winter: red twigs, red round buds in bunches, loose strips', 'grown', 'bare', {
    arrangement: 'opposite',
    budShape: 'rounded',
    budColour: 'red',
    budGrouping: 'bunches',
    twigColour: 'red',
    barkGrown: 'strips',
    rub: 'chips'
  }),
  tree('redMaple', 'sapling on wet ground, smooth grey, red buds', 'young', 'bare', {
    arrangement: 'opposite',
    budShape: 'rounded',
    budColour: 'red',
    twigColour: 'red',
    barkYoung: 'verySmooth',
    ground: 'wet'
  }),
  tree('redMaple', 'in leaf: sharp notches, toothed margin, whitened below', 'grown', 'leaf', {
    arrangement: 'opposite',
    leafForm: 'three',
    leafNotch: 'sharp',
    leafMargin: 'coarse',
    leafUnderside: 'whitened'
  }),
  tree('silverMaple', 'river bank: rank-smelling twig, big clusters of red buds, shaggy strips', 'old', 'bare', {
    arrangement: 'opposite',
    budShape: 'rounded',
    budColour: 'red',
    budGrouping: 'bunches',
    twigSmell: 'rank',
    barkOld: 'strips',
    rub: 'peels',
    ground: 'wet'
  }),
  tree('silverMaple', 'in leaf: deeply cut, silver below', 'grown', 'leaf', {
    arrangement: 'opposite',
    leafForm: 'five',
    leafNotch: 'deep',
    leafMargin: 'coarse',
    leafUnderside: 'silver'
  }),
  tree('norwayMaple', 'street tree in leaf: wide leaf, milky stalk', 'grown', 'leaf', {
    arrangement: 'opposite',
    leafForm: 'five',
    leafMargin: 'smooth',
    milkySap: 'milky'
  }),
  tree('norwayMaple', 'winter: large blunt green-maroon buds, regular tight ridges', 'grown', 'bare', {
    arrangement: 'opposite',
    budShape: 'largeBlunt',
    budColour: 'greenMaroon',
    budGrouping: 'threeAtTip',
    barkGrown: 'diamonds',
    rub: 'holds',
    barkTone: 'darkGrey'
  }),
  tree('boxElder', 'green waxy twigs, whitish downy buds', 'grown', 'bare', {
    arrangement: 'opposite',
    budShape: 'downy',
    twigColour: 'green',
    barkGrown: 'furrows'
  }),
  tree('boxElder', 'in leaf: leaflets in pairs, green twig, paired keys hanging', 'grown', 'leaf', {
    arrangement: 'opposite',
    leafForm: 'feather',
    twigColour: 'green',
    keysHanging: 'vee'
  }),
  tree('stripedMaple', 'green bark with white stripes, stalked buds', 'young', 'bare', {
    arrangement: 'opposite',
    budShape: 'stalked',
    barkYoung: 'stripes'
  }),
  tree('stripedMaple', 'in leaf: like a goose’s foot, finely toothed; striped bark', 'grown', 'leaf', {
    arrangement: 'opposite',
    leafForm: 'three',
    leafNotch: 'shallow',
    leafMargin: 'fine',
    barkGrown: 'stripes'
  }),
  tree('mountainMaple', 'shrubby, three coarse-toothed lobes, velvety below, stalked downy red buds', 'young', 'fall', {
    arrangement: 'opposite',
    leafForm: 'three',
    leafMargin: 'coarse',
    leafUnderside: 'velvet',
    twigColour: 'red',
    budShape: 'stalked'
  }),
  tree(
    'norwayMaple',
    'roadside in leaf: five lobes, smooth edge, milky stalk, wings in one line hanging',
    'grown',
    'leaf',
    {
      arrangement: 'opposite',
      twigsFrom: 'own',
      leafForm: 'five',
      leafNotch: 'rounded',
      leafMargin: 'smooth',
      milkySap: 'milky',
      keysHanging: 'wide'
    }
  ),
  tree('sycamoreMaple', 'planted: large green buds that stay green, flaking grown bark', 'grown', 'bare', {
    arrangement: 'opposite',
    budShape: 'largeBlunt',
    budColour: 'greenMaroon',
    budGrouping: 'threeAtTip',
    barkGrown: 'patches',
    rub: 'chips'
  }),
  tree(
    'sycamoreMaple',
    'in leaf: five coarse-toothed lobes, sharp notches, whitened below, clear stalk',
    'grown',
    'leaf',
    {
      arrangement: 'opposite',
      leafForm: 'five',
      leafNotch: 'sharp',
      leafMargin: 'coarse',
      leafUnderside: 'whitened',
      milkySap: 'clear',
      barkGrown: 'patches'
    }
  ),
  tree(
    'stripedMaple',
    'in winter: white lines on a green trunk, large stalked buds in pairs, red twig',
    'grown',
    'bare',
    {
      arrangement: 'opposite',
      budShape: 'stalked',
      budColour: 'red',
      twigColour: 'red',
      barkGrown: 'stripes'
    }
  ),
  tree(
    'amurMaple',
    'hedge row, smooth grey, three narrow toothed lobes, red in fall, keys side by side',
    'grown',
    'fall',
    {
      arrangement: 'opposite',
      leafForm: 'three',
      leafMargin: 'coarse',
      leafNotch: 'sharp',
      barkGrown: 'smooth',
      keysHanging: 'horseshoe'
    }
  ),
  tree(
    'sugarMaple',
    'old tree, no twig in reach but a shoot out of its trunk: slim, brown, sharp buds',
    'old',
    'bare',
    {
      arrangement: 'opposite',
      twigsFrom: 'own',
      twigStoutness: 'slim',
      twigColour: 'brown',
      budShape: 'sharpScaly',
      budColour: 'brown',
      barkOld: 'oneEdge'
    }
  ),
  tree('redMaple', 'late April: red keys hanging, loose ribbons of bark', 'grown', 'swelling', {
    arrangement: 'opposite',
    keysHanging: 'vee',
    barkGrown: 'strips',
    twigColour: 'red',
    rub: 'chips'
  })
];
