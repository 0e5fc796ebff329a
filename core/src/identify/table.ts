/**
 * The clue table: species, characters, their states and how often each species shows them. This is the one file to read
 * or to change; everything else computes from it.
 *
 * Shares are percentages of trees of the species. They are working assumptions, written down from common botanical
 * descriptions of these trees (from memory), with the trade's own marks where it has them; calibrate them with the bush's
 * own settled trees. A species left out of a character says nothing about it. "Reliability" is the chance that an honest
 * look by an ordinary steward reports what is there; the rest is spread evenly over the states, so that no single slip
 * rules a species out.
 */

/** How old the tree's bark looks; bark is judged by the table of its age. */
export const AGE_CLASSES = ['young', 'grown', 'old'] as const;
export type AgeClass = (typeof AGE_CLASSES)[number];

/** What the year lets one see. */
export const LOOK_SEASONS = ['bare', 'swelling', 'leaf', 'fall'] as const;
export type LookSeason = (typeof LOOK_SEASONS)[number];

/** What can be done with a tree, as far as its species goes. */
export type SapClass =
  /** sugar and black maple: the sweetest sap */
  | 'sweet'
  /** any other maple: can be tapped, more to boil */
  | 'other'
  /** not a maple */
  | 'none';

/** Trees that are no maples and whose sap is boiled by itself. */
export const OTHER_SAPS = ['birch', 'walnut'] as const;
export type OtherSap = (typeof OTHER_SAPS)[number];

/** A species, as it is written down below. */
interface SpeciesEntry {
  readonly id: string;
  readonly name: string;
  readonly latin: string;
  readonly sap: SapClass;
  /** of what kind its sap is, where it is no maple and yet tapped by some; common practice */
  readonly otherSap?: OtherSap;
  /** twigs, buds and leaf scars in opposite pairs */
  readonly opposite: boolean;
  /** a shrub: its stems hardly ever grow thick enough to bear the bark of a grown tree */
  readonly shrub?: true;
  /** how common it is in and beside a north-country sugarbush, per cent, before anything is known of the stand */
  readonly regionalShare: number;
  /** usual sugar in the sap, per cent of its weight, low and high; maples alone */
  readonly sapSugarPct?: readonly [low: number, high: number];
  /** sugar in the sap of open-grown trees, where it is known to differ */
  readonly openGrownSugarPct?: readonly [low: number, high: number];
  /** days that its buds break after sugar maple's, about; maples alone */
  readonly budBreakDays?: number;
}

/**
 * Regional shares: working assumptions. Sap sugar of sugar, black, red and silver maple: common practice; of the other
 * maples and all days of bud break: working assumptions, except that red and silver maple are ahead (common practice).
 */
const SPECIES_ENTRIES = [
  {
    id: 'sugarMaple',
    name: 'sugar maple',
    latin: 'Acer saccharum',
    sap: 'sweet',
    opposite: true,
    regionalShare: 31,
    sapSugarPct: [2, 2.5],
    openGrownSugarPct: [3, 4],
    budBreakDays: 0
  },
  {
    id: 'blackMaple',
    name: 'black maple',
    latin: 'Acer nigrum',
    sap: 'sweet',
    opposite: true,
    regionalShare: 1.3,
    sapSugarPct: [2, 2.5],
    openGrownSugarPct: [3, 4],
    budBreakDays: 0
  },
  {
    id: 'redMaple',
    name: 'red maple',
    latin: 'Acer rubrum',
    sap: 'other',
    opposite: true,
    regionalShare: 12.8,
    sapSugarPct: [1.5, 2],
    budBreakDays: -10
  },
  {
    id: 'silverMaple',
    name: 'silver maple',
    latin: 'Acer saccharinum',
    sap: 'other',
    opposite: true,
    regionalShare: 1.6,
    sapSugarPct: [1.5, 2],
    budBreakDays: -14
  },
  {
    id: 'norwayMaple',
    name: 'Norway maple',
    latin: 'Acer platanoides',
    sap: 'other',
    opposite: true,
    regionalShare: 1.6,
    sapSugarPct: [1.5, 2],
    budBreakDays: -2
  },
  {
    id: 'boxElder',
    name: 'box elder',
    latin: 'Acer negundo',
    sap: 'other',
    opposite: true,
    regionalShare: 1.6,
    sapSugarPct: [1, 1.7],
    budBreakDays: -5
  },
  {
    id: 'stripedMaple',
    name: 'striped maple',
    latin: 'Acer pensylvanicum',
    sap: 'other',
    opposite: true,
    regionalShare: 2.2,
    sapSugarPct: [1, 1.7],
    budBreakDays: 0
  },
  {
    id: 'mountainMaple',
    name: 'mountain maple',
    latin: 'Acer spicatum',
    sap: 'other',
    opposite: true,
    regionalShare: 0.9,
    sapSugarPct: [1, 1.7],
    budBreakDays: 4
  },
  {
    id: 'hedgeMaple',
    name: 'hedge maple',
    latin: 'Acer campestre',
    sap: 'other',
    opposite: true,
    regionalShare: 0.1,
    sapSugarPct: [1.5, 2],
    budBreakDays: 2
  },
  {
    id: 'amurMaple',
    name: 'Amur maple',
    latin: 'Acer ginnala',
    sap: 'other',
    opposite: true,
    regionalShare: 0.2,
    sapSugarPct: [1, 1.7],
    budBreakDays: -7
  },
  {
    id: 'sycamoreMaple',
    name: 'sycamore maple',
    latin: 'Acer pseudoplatanus',
    sap: 'other',
    opposite: true,
    regionalShare: 0.2,
    sapSugarPct: [1.5, 2],
    budBreakDays: 0
  },
  {
    id: 'whiteAsh',
    name: 'white or green ash',
    latin: 'Fraxinus americana, F. pennsylvanica',
    sap: 'none',
    opposite: true,
    regionalShare: 6
  },
  { id: 'blackAsh', name: 'black ash', latin: 'Fraxinus nigra', sap: 'none', opposite: true, regionalShare: 1.3 },
  {
    id: 'horseChestnut',
    name: 'horse-chestnut or buckeye',
    latin: 'Aesculus',
    sap: 'none',
    opposite: true,
    regionalShare: 0.7
  },
  { id: 'dogwood', name: 'dogwood', latin: 'Cornus', sap: 'none', opposite: true, regionalShare: 0.8 },
  { id: 'redOak', name: 'red oak', latin: 'Quercus rubra', sap: 'none', opposite: false, regionalShare: 4 },
  { id: 'basswood', name: 'basswood', latin: 'Tilia americana', sap: 'none', opposite: false, regionalShare: 3.4 },
  {
    id: 'beech',
    name: 'American beech',
    latin: 'Fagus grandifolia',
    sap: 'none',
    opposite: false,
    regionalShare: 6
  },
  {
    id: 'yellowBirch',
    name: 'yellow birch',
    latin: 'Betula alleghaniensis',
    sap: 'none',
    otherSap: 'birch',
    opposite: false,
    regionalShare: 3.5
  },
  {
    id: 'paperBirch',
    name: 'paper birch',
    latin: 'Betula papyrifera',
    sap: 'none',
    otherSap: 'birch',
    opposite: false,
    regionalShare: 1.5
  },
  {
    id: 'blackCherry',
    name: 'black cherry',
    latin: 'Prunus serotina',
    sap: 'none',
    opposite: false,
    regionalShare: 2.6
  },
  {
    id: 'hophornbeam',
    name: 'hophornbeam',
    latin: 'Ostrya virginiana',
    sap: 'none',
    opposite: false,
    regionalShare: 1.6
  },
  { id: 'hickory', name: 'hickory', latin: 'Carya', sap: 'none', opposite: false, regionalShare: 0.5 },
  {
    id: 'aspen',
    name: 'aspen or poplar',
    latin: 'Populus tremuloides, P. grandidentata',
    sap: 'none',
    opposite: false,
    regionalShare: 1.2
  },
  { id: 'elm', name: 'elm', latin: 'Ulmus', sap: 'none', opposite: false, regionalShare: 0.8 },
  { id: 'viburnum', name: 'viburnum', latin: 'Viburnum', sap: 'none', opposite: true, shrub: true, regionalShare: 0.8 },
  { id: 'elder', name: 'elder', latin: 'Sambucus', sap: 'none', opposite: true, shrub: true, regionalShare: 0.4 },
  {
    id: 'honeysuckle',
    name: 'bush honeysuckle',
    latin: 'Lonicera',
    sap: 'none',
    opposite: true,
    shrub: true,
    regionalShare: 0.5
  },
  {
    id: 'spindle',
    name: 'spindle or burning bush',
    latin: 'Euonymus',
    sap: 'none',
    opposite: true,
    shrub: true,
    regionalShare: 0.2
  },
  {
    id: 'buckthorn',
    name: 'buckthorn',
    latin: 'Rhamnus cathartica',
    sap: 'none',
    opposite: true,
    shrub: true,
    regionalShare: 0.8
  },
  {
    id: 'musclewood',
    name: 'musclewood',
    latin: 'Carpinus caroliniana',
    sap: 'none',
    opposite: false,
    regionalShare: 1
  },
  {
    id: 'walnut',
    name: 'black walnut',
    latin: 'Juglans nigra',
    sap: 'none',
    otherSap: 'walnut',
    opposite: false,
    regionalShare: 0.4
  },
  {
    id: 'butternut',
    name: 'butternut',
    latin: 'Juglans cinerea',
    sap: 'none',
    otherSap: 'walnut',
    opposite: false,
    regionalShare: 0.3
  },
  {
    id: 'planeTree',
    name: 'plane tree',
    latin: 'Platanus occidentalis',
    sap: 'none',
    opposite: false,
    regionalShare: 0.2
  },
  { id: 'whitePoplar', name: 'white poplar', latin: 'Populus alba', sap: 'none', opposite: false, regionalShare: 0.1 },
  { id: 'mulberry', name: 'mulberry', latin: 'Morus', sap: 'none', opposite: false, regionalShare: 0.1 },
  {
    id: 'tulipTree',
    name: 'tulip tree',
    latin: 'Liriodendron tulipifera',
    sap: 'none',
    opposite: false,
    regionalShare: 0.2
  },
  {
    id: 'whiteOak',
    name: 'white or bur oak',
    latin: 'Quercus alba, Q. macrocarpa',
    sap: 'none',
    opposite: false,
    regionalShare: 0.6
  },
  { id: 'hawthorn', name: 'hawthorn', latin: 'Crataegus', sap: 'none', opposite: false, regionalShare: 0.6 },
  { id: 'sassafras', name: 'sassafras', latin: 'Sassafras albidum', sap: 'none', opposite: false, regionalShare: 0.2 },
  {
    id: 'blackLocust',
    name: 'black locust',
    latin: 'Robinia pseudoacacia',
    sap: 'none',
    opposite: false,
    regionalShare: 0.3
  },
  {
    id: 'conifer',
    name: 'hemlock, pine, spruce or fir',
    latin: 'Tsuga, Pinus, Picea, Abies',
    sap: 'none',
    opposite: false,
    regionalShare: 5.9
  }
] as const satisfies readonly SpeciesEntry[];

/** How likely a shrub is to bear bark that looks grown or old, beside a tree. Working assumption. */
export const SHRUB_GROWN = 0.02;

export type SpeciesId = (typeof SPECIES_ENTRIES)[number]['id'];
export type Species = SpeciesEntry & { readonly id: SpeciesId };
/** The species that the clue table tells apart, with what a tapper has to know of each. */
export const SPECIES: readonly Species[] = SPECIES_ENTRIES;

/**
 * How far a character may be trusted. A *gate* must be seen before any maple verdict; *strong* clues decide; all *weak*
 * clues together can only nudge; *context* says nothing of the species but changes how far others may be trusted.
 */
export type CharacterStrength = 'gate' | 'strong' | 'weak' | 'context';

export interface CharacterState {
  readonly id: string;
  readonly label: string;
  readonly description: string;
}

/** Share of trees that show each state, per cent, by species. */
export type Shares = Readonly<Partial<Record<SpeciesId, Readonly<Record<string, number>>>>>;

export interface Character {
  readonly id: CharacterId;
  readonly name: string;
  /** what the steward is asked */
  readonly question: string;
  readonly strength: CharacterStrength;
  /** characters of one block see much the same thing and are not counted as if independent */
  readonly block: string | null;
  /** the age classes it holds for */
  readonly ages: readonly AgeClass[];
  readonly seasons: readonly LookSeason[];
  /** read off twigs, buds or leaves: where these lie on the ground or belong to a sapling, they may be a neighbour's */
  readonly fromTwigs?: true;
  /** how often there is anything to look at, 0..1: a maple bears no keys in most years; 1 by default */
  readonly found?: number;
  /** how much of that a species shows in a season, 0..1; seasons left out of its line: hardly anything. 1 by default */
  readonly hangs?: Readonly<Partial<Record<SpeciesId, Readonly<Partial<Record<LookSeason, number>>>>>>;
  /** chance that an honest look reports what is there, 0..1 */
  readonly reliability: number;
  readonly states: readonly CharacterState[];
  readonly seen: Shares;
}

export type CharacterId =
  | 'arrangement'
  | 'twigStoutness'
  | 'budShape'
  | 'budColour'
  | 'budGrouping'
  | 'twigColour'
  | 'twigSmell'
  | 'barkYoung'
  | 'barkGrown'
  | 'barkOld'
  | 'rub'
  | 'barkTone'
  | 'leafForm'
  | 'leafNotch'
  | 'leafMargin'
  | 'leafUnderside'
  | 'milkySap'
  | 'keysHanging'
  | 'keys'
  | 'heldLeaves'
  | 'lichen'
  | 'staining'
  | 'elbows'
  | 'oldTapholes'
  | 'ground'
  | 'budStage'
  | 'twigsFrom';

const ALL_AGES = AGE_CLASSES;
const ALL_YEAR = LOOK_SEASONS;
/** Winter buds stand from leaf fall until they open. */
const BUD_SEASONS = ['bare', 'swelling', 'fall'] as const;
const LEAF_SEASONS = ['leaf', 'fall'] as const;

/** What can be looked at on a tree, and the states in which it is found. */
export const CHARACTERS: readonly Character[] = [
  {
    id: 'arrangement',
    name: 'Branching',
    question: 'How do twigs and buds sit on the branch? Look in several places: a lost partner leaves a scar.',
    fromTwigs: true,
    strength: 'gate',
    block: null,
    ages: ALL_AGES,
    seasons: ALL_YEAR,
    reliability: 0.97,
    states: [
      { id: 'opposite', label: 'Opposite', description: 'in pairs, facing each other' },
      { id: 'alternate', label: 'Alternate', description: 'one by one, left and right by turns' }
    ],
    seen: {
      sugarMaple: { opposite: 100 },
      blackMaple: { opposite: 100 },
      redMaple: { opposite: 100 },
      silverMaple: { opposite: 100 },
      norwayMaple: { opposite: 100 },
      boxElder: { opposite: 100 },
      stripedMaple: { opposite: 100 },
      mountainMaple: { opposite: 100 },
      whiteAsh: { opposite: 100 },
      blackAsh: { opposite: 100 },
      horseChestnut: { opposite: 100 },
      dogwood: { opposite: 90, alternate: 10 },
      redOak: { alternate: 100 },
      basswood: { alternate: 100 },
      beech: { alternate: 100 },
      yellowBirch: { alternate: 100 },
      paperBirch: { alternate: 100 },
      blackCherry: { alternate: 100 },
      hophornbeam: { alternate: 100 },
      hickory: { alternate: 100 },
      aspen: { alternate: 100 },
      elm: { alternate: 100 },
      hedgeMaple: { opposite: 100 },
      amurMaple: { opposite: 100 },
      sycamoreMaple: { opposite: 100 },
      viburnum: { opposite: 100 },
      elder: { opposite: 100 },
      honeysuckle: { opposite: 100 },
      spindle: { opposite: 100 },
      buckthorn: { opposite: 60, alternate: 40 },
      musclewood: { alternate: 100 },
      walnut: { alternate: 100 },
      butternut: { alternate: 100 },
      planeTree: { alternate: 100 },
      whitePoplar: { alternate: 100 },
      mulberry: { alternate: 100 },
      tulipTree: { alternate: 100 },
      whiteOak: { alternate: 100 },
      hawthorn: { alternate: 100 },
      sassafras: { alternate: 100 },
      blackLocust: { alternate: 100 },
      conifer: { alternate: 90, opposite: 10 }
    }
  },
  {
    id: 'twigStoutness',
    name: 'Stoutness of the twigs',
    question: 'How thick are the last twigs at their tips?',
    fromTwigs: true,
    strength: 'strong',
    block: 'bud',
    ages: ALL_AGES,
    seasons: ALL_YEAR,
    reliability: 0.85,
    states: [
      { id: 'slim', label: 'Slim', description: 'like a knitting needle, tapering' },
      { id: 'medium', label: 'Medium', description: 'between the two' },
      { id: 'stout', label: 'Stout, blunt', description: 'thick as a pencil to the very end' }
    ],
    seen: {
      sugarMaple: { slim: 75, medium: 25 },
      blackMaple: { slim: 45, medium: 55 },
      redMaple: { slim: 85, medium: 15 },
      silverMaple: { slim: 80, medium: 20 },
      norwayMaple: { slim: 5, medium: 65, stout: 30 },
      boxElder: { slim: 15, medium: 60, stout: 25 },
      stripedMaple: { slim: 5, medium: 55, stout: 40 },
      mountainMaple: { slim: 80, medium: 20 },
      whiteAsh: { medium: 20, stout: 80 },
      blackAsh: { medium: 12, stout: 88 },
      horseChestnut: { medium: 2, stout: 98 },
      dogwood: { slim: 85, medium: 15 },
      redOak: { slim: 15, medium: 65, stout: 20 },
      basswood: { slim: 20, medium: 80 },
      beech: { slim: 95, medium: 5 },
      yellowBirch: { slim: 95, medium: 5 },
      paperBirch: { slim: 88, medium: 12 },
      blackCherry: { slim: 75, medium: 25 },
      hophornbeam: { slim: 97, medium: 3 },
      hickory: { medium: 30, stout: 70 },
      aspen: { slim: 40, medium: 60 },
      elm: { slim: 75, medium: 25 },
      hedgeMaple: { slim: 80, medium: 20 },
      amurMaple: { slim: 95, medium: 5 },
      sycamoreMaple: { medium: 65, stout: 30, slim: 5 },
      viburnum: { slim: 55, medium: 45 },
      elder: { stout: 70, medium: 30 },
      honeysuckle: { slim: 97, medium: 3 },
      spindle: { slim: 75, medium: 25 },
      buckthorn: { slim: 60, medium: 40 },
      musclewood: { slim: 97, medium: 3 },
      walnut: { stout: 92, medium: 8 },
      butternut: { stout: 90, medium: 10 },
      planeTree: { medium: 70, slim: 20, stout: 10 },
      whitePoplar: { medium: 65, slim: 30, stout: 5 },
      mulberry: { slim: 55, medium: 45 },
      tulipTree: { medium: 70, stout: 25, slim: 5 },
      whiteOak: { medium: 70, slim: 20, stout: 10 },
      hawthorn: { slim: 70, medium: 30 },
      sassafras: { slim: 55, medium: 45 },
      blackLocust: { medium: 70, slim: 30 },
      conifer: { slim: 70, medium: 30 }
    }
  },
  {
    id: 'budShape',
    name: 'Bud shape',
    question: 'What shape is the bud at the tip of the twig?',
    fromTwigs: true,
    strength: 'strong',
    block: 'bud',
    ages: ALL_AGES,
    seasons: BUD_SEASONS,
    reliability: 0.92,
    states: [
      { id: 'sharpScaly', label: 'Sharp, many scales', description: 'slim and pointed, scales like roof tiles' },
      { id: 'rounded', label: 'Blunt and round', description: 'a little ball or egg' },
      { id: 'largeBlunt', label: 'Large and blunt', description: 'thick, few broad scales, dry' },
      { id: 'sticky', label: 'Large and sticky', description: 'shining with gum, sticks to the glove' },
      { id: 'domed', label: 'Dark dome', description: 'broad, low and leathery, almost black' },
      { id: 'stalked', label: 'On a stalk', description: 'few scales, set on a short stalk' },
      { id: 'downy', label: 'Downy', description: 'covered in whitish down' },
      { id: 'longSpear', label: 'Long spear', description: 'very long, thin as a thorn' },
      { id: 'lopsided', label: 'Lopsided', description: 'plump, one side bulges further than the other' }
    ],
    seen: {
      sugarMaple: { sharpScaly: 95, rounded: 3, largeBlunt: 2 },
      blackMaple: { sharpScaly: 82, downy: 13, largeBlunt: 5 },
      redMaple: { rounded: 94, sharpScaly: 4, largeBlunt: 2 },
      silverMaple: { rounded: 96, sharpScaly: 4 },
      norwayMaple: { largeBlunt: 92, rounded: 5, sharpScaly: 3 },
      boxElder: { downy: 88, largeBlunt: 7, rounded: 5 },
      stripedMaple: { stalked: 95, largeBlunt: 5 },
      mountainMaple: { stalked: 75, downy: 15, sharpScaly: 10 },
      whiteAsh: { domed: 95, rounded: 3, largeBlunt: 2 },
      blackAsh: { domed: 92, sharpScaly: 4, rounded: 4 },
      horseChestnut: { sticky: 65, largeBlunt: 33, domed: 2 },
      dogwood: { stalked: 50, sharpScaly: 20, rounded: 18, downy: 12 },
      redOak: { sharpScaly: 60, rounded: 40 },
      basswood: { lopsided: 88, rounded: 8, largeBlunt: 4 },
      beech: { longSpear: 98, sharpScaly: 2 },
      yellowBirch: { sharpScaly: 88, rounded: 12 },
      paperBirch: { sharpScaly: 75, rounded: 15, sticky: 10 },
      blackCherry: { sharpScaly: 75, rounded: 25 },
      hophornbeam: { sharpScaly: 75, rounded: 25 },
      hickory: { largeBlunt: 70, downy: 15, longSpear: 15 },
      aspen: { sharpScaly: 65, sticky: 30, largeBlunt: 5 },
      elm: { sharpScaly: 45, lopsided: 40, rounded: 15 },
      hedgeMaple: { rounded: 60, sharpScaly: 20, downy: 20 },
      amurMaple: { rounded: 65, sharpScaly: 35 },
      sycamoreMaple: { largeBlunt: 88, rounded: 10, sharpScaly: 2 },
      viburnum: { stalked: 45, longSpear: 25, downy: 15, rounded: 15 },
      elder: { rounded: 55, sharpScaly: 30, largeBlunt: 15 },
      honeysuckle: { sharpScaly: 60, rounded: 25, downy: 15 },
      spindle: { sharpScaly: 55, rounded: 45 },
      buckthorn: { sharpScaly: 92, rounded: 8 },
      musclewood: { sharpScaly: 85, rounded: 15 },
      walnut: { downy: 70, largeBlunt: 25, rounded: 5 },
      butternut: { downy: 65, longSpear: 20, largeBlunt: 15 },
      planeTree: { largeBlunt: 60, rounded: 25, sharpScaly: 15 },
      whitePoplar: { downy: 75, sharpScaly: 25 },
      mulberry: { sharpScaly: 70, lopsided: 30 },
      tulipTree: { largeBlunt: 60, stalked: 20, rounded: 20 },
      whiteOak: { rounded: 90, sharpScaly: 10 },
      hawthorn: { rounded: 97, sharpScaly: 3 },
      sassafras: { largeBlunt: 55, rounded: 45 },
      blackLocust: { rounded: 60, downy: 40 },
      conifer: { sharpScaly: 55, rounded: 45 }
    }
  },
  {
    id: 'budColour',
    name: 'Bud colour',
    question: 'What colour is the bud?',
    fromTwigs: true,
    strength: 'strong',
    block: 'bud',
    ages: ALL_AGES,
    seasons: BUD_SEASONS,
    reliability: 0.88,
    states: [
      { id: 'brown', label: 'Brown', description: 'cinnamon to grey-brown' },
      { id: 'red', label: 'Red', description: 'clear red to wine red' },
      { id: 'greenMaroon', label: 'Green to maroon', description: 'green, or green and purple' },
      { id: 'black', label: 'Dark brown to black', description: 'almost black, dull' }
    ],
    seen: {
      sugarMaple: { brown: 93, red: 2, black: 4, greenMaroon: 1 },
      blackMaple: { brown: 83, black: 15, greenMaroon: 2 },
      redMaple: { red: 94, brown: 4, greenMaroon: 2 },
      silverMaple: { red: 88, brown: 8, greenMaroon: 4 },
      norwayMaple: { greenMaroon: 85, red: 8, brown: 7 },
      boxElder: { greenMaroon: 80, brown: 15, red: 5 },
      stripedMaple: { greenMaroon: 45, red: 50, brown: 5 },
      mountainMaple: { red: 55, greenMaroon: 35, brown: 10 },
      whiteAsh: { brown: 45, black: 55 },
      blackAsh: { brown: 10, black: 90 },
      horseChestnut: { brown: 78, black: 22 },
      dogwood: { red: 40, greenMaroon: 40, brown: 20 },
      redOak: { brown: 90, red: 10 },
      basswood: { red: 55, greenMaroon: 35, brown: 10 },
      beech: { brown: 100 },
      yellowBirch: { brown: 80, greenMaroon: 20 },
      paperBirch: { brown: 75, greenMaroon: 25 },
      blackCherry: { brown: 80, red: 15, black: 5 },
      hophornbeam: { brown: 60, greenMaroon: 40 },
      hickory: { brown: 80, greenMaroon: 20 },
      aspen: { brown: 90, red: 10 },
      elm: { brown: 70, black: 30 },
      hedgeMaple: { brown: 85, red: 10, greenMaroon: 5 },
      amurMaple: { brown: 60, red: 40 },
      sycamoreMaple: { greenMaroon: 97, brown: 3 },
      viburnum: { brown: 60, red: 25, greenMaroon: 15 },
      elder: { greenMaroon: 55, red: 30, brown: 15 },
      honeysuckle: { brown: 90, greenMaroon: 10 },
      spindle: { greenMaroon: 92, red: 8 },
      buckthorn: { black: 65, brown: 35 },
      musclewood: { brown: 70, red: 20, greenMaroon: 10 },
      walnut: { brown: 97, black: 3 },
      butternut: { brown: 95, greenMaroon: 5 },
      planeTree: { brown: 70, red: 25, greenMaroon: 5 },
      whitePoplar: { brown: 90, greenMaroon: 10 },
      mulberry: { brown: 75, greenMaroon: 25 },
      tulipTree: { red: 45, greenMaroon: 45, brown: 10 },
      whiteOak: { brown: 80, red: 20 },
      hawthorn: { red: 70, brown: 30 },
      sassafras: { greenMaroon: 95, brown: 5 },
      blackLocust: { brown: 100 },
      conifer: { brown: 95, red: 5 }
    }
  },
  {
    id: 'budGrouping',
    name: 'Grouping of the buds',
    question: 'How do the buds stand at the tip?',
    fromTwigs: true,
    strength: 'strong',
    block: 'bud',
    ages: ALL_AGES,
    seasons: BUD_SEASONS,
    reliability: 0.85,
    states: [
      { id: 'threeAtTip', label: 'Three at the tip', description: 'a big one between two small, level with it' },
      { id: 'bunches', label: 'In bunches', description: 'round clusters along the twig' },
      { id: 'single', label: 'One alone', description: 'one at the tip, the next well below' },
      { id: 'crowded', label: 'A crowd at the tip', description: 'four or more jostling at the end' },
      { id: 'thorn', label: 'A thorn', description: 'the twig ends in a thorn, or thorns stand along it' }
    ],
    seen: {
      sugarMaple: { threeAtTip: 92, single: 5, bunches: 3 },
      blackMaple: { threeAtTip: 88, single: 10, bunches: 2 },
      redMaple: { bunches: 65, threeAtTip: 30, single: 5 },
      silverMaple: { bunches: 88, threeAtTip: 12 },
      norwayMaple: { threeAtTip: 85, single: 15 },
      boxElder: { threeAtTip: 55, single: 30, bunches: 15 },
      stripedMaple: { single: 65, threeAtTip: 35 },
      mountainMaple: { single: 70, threeAtTip: 30 },
      whiteAsh: { threeAtTip: 75, single: 20, bunches: 5 },
      blackAsh: { single: 75, threeAtTip: 25 },
      horseChestnut: { single: 65, threeAtTip: 35 },
      dogwood: { single: 60, threeAtTip: 25, bunches: 15 },
      redOak: { crowded: 92, single: 8 },
      basswood: { single: 95, bunches: 5 },
      beech: { single: 95, crowded: 5 },
      yellowBirch: { single: 97, bunches: 3 },
      paperBirch: { single: 97, bunches: 3 },
      blackCherry: { single: 85, crowded: 15 },
      hophornbeam: { single: 97, crowded: 3 },
      hickory: { single: 85, threeAtTip: 15 },
      aspen: { single: 80, crowded: 10, bunches: 10 },
      elm: { single: 70, bunches: 30 },
      hedgeMaple: { threeAtTip: 70, single: 30 },
      amurMaple: { single: 75, threeAtTip: 25 },
      sycamoreMaple: { threeAtTip: 80, single: 20 },
      viburnum: { single: 55, threeAtTip: 45 },
      elder: { single: 85, bunches: 15 },
      honeysuckle: { single: 80, bunches: 20 },
      spindle: { single: 70, threeAtTip: 30 },
      buckthorn: { thorn: 75, single: 25 },
      musclewood: { single: 97, bunches: 3 },
      walnut: { single: 85, crowded: 15 },
      butternut: { single: 85, crowded: 15 },
      planeTree: { single: 98, crowded: 2 },
      whitePoplar: { single: 75, bunches: 15, crowded: 10 },
      mulberry: { single: 98, bunches: 2 },
      tulipTree: { single: 98, bunches: 2 },
      whiteOak: { crowded: 92, single: 8 },
      hawthorn: { thorn: 60, single: 35, bunches: 5 },
      sassafras: { single: 90, crowded: 10 },
      blackLocust: { thorn: 50, single: 50 },
      conifer: { crowded: 60, single: 40 }
    }
  },
  {
    id: 'twigColour',
    name: 'Colour of the twig',
    question: 'What colour is last year’s twig?',
    fromTwigs: true,
    strength: 'strong',
    block: 'bud',
    ages: ALL_AGES,
    seasons: ALL_YEAR,
    reliability: 0.82,
    states: [
      { id: 'brown', label: 'Brown', description: 'shining or dull brown' },
      { id: 'red', label: 'Red', description: 'clear red, strongest on the sunny side' },
      { id: 'green', label: 'Green to purple', description: 'green, often waxy, with purple' },
      { id: 'grey', label: 'Grey', description: 'ash-grey, dull' }
    ],
    seen: {
      sugarMaple: { brown: 85, red: 8, grey: 7 },
      blackMaple: { brown: 60, grey: 35, green: 5 },
      redMaple: { red: 88, brown: 10, grey: 2 },
      silverMaple: { red: 60, brown: 40 },
      norwayMaple: { brown: 60, green: 35, red: 5 },
      boxElder: { green: 88, brown: 8, red: 4 },
      stripedMaple: { green: 55, red: 40, brown: 5 },
      mountainMaple: { red: 60, brown: 20, green: 15, grey: 5 },
      whiteAsh: { grey: 65, green: 20, brown: 15 },
      blackAsh: { grey: 70, brown: 30 },
      horseChestnut: { brown: 75, grey: 25 },
      dogwood: { red: 45, green: 40, brown: 15 },
      redOak: { brown: 75, red: 20, grey: 5 },
      basswood: { red: 45, brown: 25, green: 25, grey: 5 },
      beech: { brown: 60, grey: 40 },
      yellowBirch: { brown: 80, green: 20 },
      paperBirch: { brown: 75, red: 25 },
      blackCherry: { brown: 55, red: 30, grey: 15 },
      hophornbeam: { brown: 90, red: 10 },
      hickory: { brown: 60, grey: 40 },
      aspen: { brown: 60, green: 20, grey: 20 },
      elm: { brown: 75, grey: 25 },
      hedgeMaple: { brown: 95, grey: 5 },
      amurMaple: { brown: 85, red: 15 },
      sycamoreMaple: { brown: 50, grey: 30, green: 20 },
      viburnum: { brown: 55, grey: 35, red: 10 },
      elder: { grey: 70, brown: 30 },
      honeysuckle: { brown: 55, grey: 45 },
      spindle: { green: 90, brown: 10 },
      buckthorn: { grey: 60, brown: 40 },
      musclewood: { brown: 75, red: 25 },
      walnut: { brown: 80, grey: 20 },
      butternut: { brown: 60, green: 20, grey: 20 },
      planeTree: { brown: 85, grey: 15 },
      whitePoplar: { grey: 75, brown: 25 },
      mulberry: { brown: 80, grey: 20 },
      tulipTree: { red: 50, brown: 50 },
      whiteOak: { grey: 40, red: 30, brown: 30 },
      hawthorn: { brown: 60, grey: 40 },
      sassafras: { green: 97, brown: 3 },
      blackLocust: { brown: 75, red: 15, grey: 10 },
      conifer: { brown: 80, grey: 20 }
    }
  },
  {
    id: 'twigSmell',
    name: 'Smell of a broken twig',
    question: 'Break a twig and smell it. What is it like?',
    fromTwigs: true,
    strength: 'strong',
    block: null,
    ages: ALL_AGES,
    seasons: ALL_YEAR,
    reliability: 0.82,
    states: [
      { id: 'none', label: 'Nothing much', description: 'green wood, no more' },
      { id: 'rank', label: 'Rank', description: 'sour and unpleasant' },
      { id: 'wintergreen', label: 'Wintergreen', description: 'sweet, cool or spicy' },
      { id: 'almond', label: 'Bitter almond', description: 'sharp, as from a crushed cherry stone' }
    ],
    seen: {
      sugarMaple: { none: 97, rank: 3 },
      blackMaple: { none: 97, rank: 3 },
      redMaple: { none: 90, rank: 10 },
      silverMaple: { rank: 85, none: 15 },
      norwayMaple: { none: 97, rank: 3 },
      boxElder: { none: 72, rank: 28 },
      stripedMaple: { none: 97, rank: 3 },
      mountainMaple: { none: 95, rank: 5 },
      whiteAsh: { none: 97, rank: 3 },
      blackAsh: { none: 85, rank: 15 },
      horseChestnut: { none: 60, rank: 40 },
      dogwood: { none: 97, rank: 3 },
      redOak: { none: 97, rank: 3 },
      basswood: { none: 98, rank: 2 },
      beech: { none: 98, rank: 2 },
      yellowBirch: { wintergreen: 95, none: 5 },
      paperBirch: { none: 94, wintergreen: 6 },
      blackCherry: { almond: 92, none: 8 },
      hophornbeam: { none: 98, rank: 2 },
      hickory: { none: 90, rank: 10 },
      aspen: { none: 85, rank: 15 },
      elm: { none: 97, rank: 3 },
      hedgeMaple: { none: 97, rank: 3 },
      amurMaple: { none: 97, rank: 3 },
      sycamoreMaple: { none: 97, rank: 3 },
      viburnum: { none: 75, rank: 25 },
      elder: { rank: 80, none: 20 },
      honeysuckle: { none: 97, rank: 3 },
      spindle: { none: 97, rank: 3 },
      buckthorn: { none: 80, rank: 20 },
      musclewood: { none: 97, rank: 3 },
      walnut: { none: 60, rank: 40 },
      butternut: { none: 70, rank: 30 },
      planeTree: { none: 97, rank: 3 },
      whitePoplar: { none: 97, rank: 3 },
      mulberry: { none: 97, rank: 3 },
      tulipTree: { none: 85, wintergreen: 15 },
      whiteOak: { none: 97, rank: 3 },
      hawthorn: { none: 97, rank: 3 },
      sassafras: { none: 60, wintergreen: 40 },
      blackLocust: { none: 97, rank: 3 },
      conifer: { none: 90, rank: 10 }
    }
  },
  {
    id: 'barkYoung',
    name: 'Bark of a young tree',
    question: 'What is the bark like? Feel it with the palm.',
    strength: 'strong',
    block: 'bark',
    ages: ['young'],
    seasons: ALL_YEAR,
    reliability: 0.85,
    states: [
      { id: 'smoothBumps', label: 'Smooth, fine bumps', description: 'grey, fine rough bumps under the palm' },
      { id: 'verySmooth', label: 'Very smooth', description: 'silvery or blue-grey, without a bump' },
      { id: 'stripes', label: 'Green, white stripes', description: 'lines run up and down' },
      { id: 'diamonds', label: 'Shallow diamonds', description: 'a net of fine ridges already' },
      { id: 'papery', label: 'Papery curls', description: 'thin bright sheets roll off' },
      { id: 'dashes', label: 'Cross dashes', description: 'short level lines on dark, shiny bark' },
      { id: 'greenish', label: 'Greenish and smooth', description: 'green-grey, chalky or waxy' }
    ],
    seen: {
      sugarMaple: { smoothBumps: 78, verySmooth: 17, diamonds: 5 },
      blackMaple: { smoothBumps: 70, verySmooth: 15, diamonds: 15 },
      redMaple: { verySmooth: 62, smoothBumps: 33, diamonds: 5 },
      silverMaple: { verySmooth: 65, smoothBumps: 30, diamonds: 5 },
      norwayMaple: { diamonds: 55, smoothBumps: 35, verySmooth: 10 },
      boxElder: { greenish: 40, diamonds: 40, smoothBumps: 20 },
      stripedMaple: { stripes: 97, greenish: 3 },
      mountainMaple: { smoothBumps: 45, greenish: 35, verySmooth: 15, diamonds: 5 },
      whiteAsh: { diamonds: 72, smoothBumps: 13, greenish: 15 },
      blackAsh: { smoothBumps: 40, diamonds: 35, greenish: 25 },
      horseChestnut: { smoothBumps: 50, verySmooth: 30, diamonds: 20 },
      dogwood: { smoothBumps: 40, greenish: 30, diamonds: 30 },
      redOak: { verySmooth: 40, smoothBumps: 30, greenish: 30 },
      basswood: { verySmooth: 35, greenish: 35, smoothBumps: 20, diamonds: 10 },
      beech: { verySmooth: 98, smoothBumps: 2 },
      yellowBirch: { papery: 85, dashes: 15 },
      paperBirch: { papery: 70, dashes: 30 },
      blackCherry: { dashes: 95, smoothBumps: 5 },
      hophornbeam: { dashes: 40, smoothBumps: 40, papery: 20 },
      hickory: { smoothBumps: 35, diamonds: 35, verySmooth: 30 },
      aspen: { greenish: 80, verySmooth: 20 },
      elm: { diamonds: 50, smoothBumps: 50 },
      hedgeMaple: { diamonds: 60, smoothBumps: 40 },
      amurMaple: { verySmooth: 60, smoothBumps: 30, diamonds: 10 },
      sycamoreMaple: { smoothBumps: 55, verySmooth: 40, diamonds: 5 },
      viburnum: { smoothBumps: 65, diamonds: 20, greenish: 15 },
      elder: { smoothBumps: 55, diamonds: 45 },
      honeysuckle: { papery: 55, smoothBumps: 30, diamonds: 15 },
      spindle: { greenish: 95, smoothBumps: 5 },
      buckthorn: { dashes: 85, smoothBumps: 15 },
      musclewood: { verySmooth: 97, smoothBumps: 3 },
      walnut: { smoothBumps: 45, diamonds: 45, verySmooth: 10 },
      butternut: { verySmooth: 55, diamonds: 45 },
      planeTree: { greenish: 60, verySmooth: 40 },
      whitePoplar: { greenish: 65, verySmooth: 20, diamonds: 15 },
      mulberry: { smoothBumps: 60, diamonds: 40 },
      tulipTree: { verySmooth: 60, diamonds: 30, greenish: 10 },
      whiteOak: { smoothBumps: 60, diamonds: 40 },
      hawthorn: { smoothBumps: 70, diamonds: 30 },
      sassafras: { greenish: 60, diamonds: 40 },
      blackLocust: { smoothBumps: 60, diamonds: 40 },
      conifer: { smoothBumps: 60, verySmooth: 40 }
    }
  },
  {
    id: 'barkGrown',
    name: 'Bark of a grown tree',
    question: 'How are the plates of the bark fastened?',
    strength: 'strong',
    block: 'bark',
    ages: ['grown'],
    seasons: ALL_YEAR,
    reliability: 0.85,
    states: [
      { id: 'oneEdge', label: 'Plates lift at one edge', description: 'firm, fastened along the other edge' },
      { id: 'strips', label: 'Upright ribbons', description: 'narrow, run straight up, both long edges free' },
      { id: 'diamonds', label: 'Tight diamonds', description: 'interlaced or barred ridges, nothing lifts' },
      { id: 'smooth', label: 'Still smooth', description: 'grey and tight, hardly a crack' },
      { id: 'furrows', label: 'Deep furrows', description: 'hard flat ridges with dark grooves' },
      { id: 'papery', label: 'Papery curls', description: 'thin bright sheets roll off' },
      { id: 'burnt', label: 'Burnt scales', description: 'dark, thick flakes with upturned edges' },
      { id: 'shreds', label: 'Fine shreds', description: 'many narrow strips, thin as ribbon, loose at the ends' },
      { id: 'shaggy', label: 'Shaggy', description: 'long stiff plates, free at both ends' },
      { id: 'corky', label: 'Soft and corky', description: 'flaky; rubs to powder' },
      { id: 'checkered', label: 'Small square blocks', description: 'split both ways into blocks a finger wide' },
      { id: 'stripes', label: 'Green with stripes', description: 'white lines run up and down' },
      { id: 'patches', label: 'Patches', description: 'thin flakes fall off and leave paler patches' }
    ],
    seen: {
      sugarMaple: { oneEdge: 74, strips: 6, smooth: 12, furrows: 8 },
      blackMaple: { oneEdge: 58, furrows: 32, smooth: 5, strips: 5 },
      redMaple: { strips: 70, oneEdge: 10, smooth: 18, furrows: 2 },
      silverMaple: { strips: 80, oneEdge: 8, smooth: 6, furrows: 6 },
      norwayMaple: { diamonds: 86, furrows: 12, oneEdge: 2 },
      boxElder: { diamonds: 48, furrows: 44, strips: 8 },
      stripedMaple: { stripes: 88, smooth: 12 },
      mountainMaple: { smooth: 55, furrows: 30, strips: 15 },
      whiteAsh: { diamonds: 90, furrows: 8, checkered: 2 },
      blackAsh: { corky: 65, diamonds: 15, strips: 10, furrows: 10 },
      horseChestnut: { oneEdge: 25, smooth: 25, strips: 20, furrows: 20, checkered: 10 },
      dogwood: { checkered: 60, smooth: 15, furrows: 15, diamonds: 10 },
      redOak: { furrows: 82, smooth: 18 },
      basswood: { furrows: 75, strips: 15, diamonds: 10 },
      beech: { smooth: 92, checkered: 8 },
      yellowBirch: { papery: 80, burnt: 8, strips: 7, oneEdge: 5 },
      paperBirch: { papery: 96, burnt: 4 },
      blackCherry: { burnt: 95, furrows: 5 },
      hophornbeam: { shreds: 94, strips: 6 },
      hickory: { shaggy: 45, diamonds: 40, furrows: 15 },
      aspen: { smooth: 45, furrows: 55 },
      elm: { furrows: 60, diamonds: 30, strips: 10 },
      hedgeMaple: { diamonds: 70, furrows: 30 },
      amurMaple: { smooth: 85, strips: 10, furrows: 5 },
      sycamoreMaple: { patches: 45, smooth: 45, oneEdge: 10 },
      viburnum: { checkered: 55, smooth: 30, furrows: 15 },
      elder: { furrows: 50, corky: 50 },
      honeysuckle: { shreds: 95, strips: 5 },
      spindle: { smooth: 60, furrows: 40 },
      buckthorn: { burnt: 50, papery: 20, furrows: 15, smooth: 15 },
      musclewood: { smooth: 98, furrows: 2 },
      walnut: { diamonds: 60, furrows: 40 },
      butternut: { diamonds: 70, furrows: 30 },
      planeTree: { patches: 97, smooth: 3 },
      whitePoplar: { smooth: 60, diamonds: 20, furrows: 20 },
      mulberry: { furrows: 70, strips: 30 },
      tulipTree: { furrows: 60, diamonds: 40 },
      whiteOak: { furrows: 40, strips: 30, oneEdge: 20, shaggy: 10 },
      hawthorn: { checkered: 40, strips: 40, furrows: 20 },
      sassafras: { furrows: 97, checkered: 3 },
      blackLocust: { furrows: 70, diamonds: 30 },
      conifer: { furrows: 55, burnt: 20, smooth: 15, checkered: 10 }
    }
  },
  {
    id: 'barkOld',
    name: 'Bark of an old tree',
    question: 'How does the old bark hold together?',
    strength: 'strong',
    block: 'bark',
    ages: ['old'],
    seasons: ALL_YEAR,
    reliability: 0.82,
    states: [
      { id: 'oneEdge', label: 'Thick plates, one edge out', description: 'long and firm, curling out along one side' },
      { id: 'strips', label: 'Long loose ribbons', description: 'held along the middle, both long edges free' },
      { id: 'diamonds', label: 'Barred ridges', description: 'deep, tight, crossing like a net' },
      { id: 'furrows', label: 'Deep hard furrows', description: 'a hand’s edge fits into the grooves' },
      { id: 'smooth', label: 'Smooth even now', description: 'grey and tight at any age' },
      { id: 'papery', label: 'Ragged paper', description: 'curls and torn sheets, some left in plates' },
      { id: 'burnt', label: 'Burnt scales', description: 'dark, thick flakes with upturned edges' },
      { id: 'shreds', label: 'Fine shreds', description: 'many narrow strips, thin as ribbon, loose at the ends' },
      { id: 'shaggy', label: 'Shaggy', description: 'long stiff plates, free at both ends' },
      { id: 'corky', label: 'Soft and corky', description: 'flaky; rubs to powder' },
      { id: 'checkered', label: 'Small square blocks', description: 'split both ways into blocks a finger wide' },
      { id: 'patches', label: 'Patches', description: 'thin flakes fall off and leave paler patches' }
    ],
    seen: {
      sugarMaple: { oneEdge: 62, furrows: 28, strips: 10 },
      blackMaple: { furrows: 62, oneEdge: 33, strips: 5 },
      redMaple: { strips: 80, furrows: 12, oneEdge: 8 },
      silverMaple: { strips: 90, furrows: 6, shaggy: 4 },
      norwayMaple: { diamonds: 70, furrows: 30 },
      boxElder: { furrows: 72, diamonds: 28 },
      stripedMaple: { furrows: 55, smooth: 45 },
      mountainMaple: { furrows: 60, strips: 20, smooth: 20 },
      whiteAsh: { diamonds: 82, furrows: 18 },
      blackAsh: { corky: 80, furrows: 15, strips: 5 },
      horseChestnut: { strips: 40, oneEdge: 30, furrows: 30 },
      dogwood: { checkered: 90, furrows: 10 },
      redOak: { furrows: 97, strips: 3 },
      basswood: { furrows: 92, strips: 8 },
      beech: { smooth: 85, checkered: 15 },
      yellowBirch: { papery: 40, strips: 25, burnt: 20, oneEdge: 15 },
      paperBirch: { papery: 80, burnt: 10, furrows: 10 },
      blackCherry: { burnt: 96, furrows: 4 },
      hophornbeam: { shreds: 95, strips: 5 },
      hickory: { shaggy: 55, diamonds: 25, furrows: 20 },
      aspen: { furrows: 85, smooth: 15 },
      elm: { furrows: 78, diamonds: 22 },
      hedgeMaple: { diamonds: 55, furrows: 45 },
      amurMaple: { furrows: 55, smooth: 45 },
      sycamoreMaple: { patches: 65, oneEdge: 20, furrows: 15 },
      viburnum: { checkered: 85, furrows: 15 },
      elder: { corky: 55, furrows: 45 },
      honeysuckle: { shreds: 96, strips: 4 },
      spindle: { furrows: 70, smooth: 30 },
      buckthorn: { burnt: 55, furrows: 35, papery: 10 },
      musclewood: { smooth: 90, furrows: 10 },
      walnut: { diamonds: 55, furrows: 45 },
      butternut: { diamonds: 60, furrows: 40 },
      planeTree: { patches: 90, smooth: 5, furrows: 5 },
      whitePoplar: { furrows: 90, diamonds: 10 },
      mulberry: { furrows: 75, strips: 25 },
      tulipTree: { furrows: 70, diamonds: 30 },
      whiteOak: { furrows: 45, strips: 30, oneEdge: 15, shaggy: 10 },
      hawthorn: { strips: 50, checkered: 30, furrows: 20 },
      sassafras: { furrows: 98, checkered: 2 },
      blackLocust: { furrows: 75, diamonds: 25 },
      conifer: { furrows: 60, burnt: 20, checkered: 15, smooth: 5 }
    }
  },
  {
    id: 'rub',
    name: 'Rub test',
    question: 'Rub the bark hard with a glove. What happens?',
    strength: 'strong',
    block: 'bark',
    ages: ['grown', 'old'],
    seasons: ALL_YEAR,
    reliability: 0.85,
    states: [
      { id: 'holds', label: 'It holds', description: 'firm; nothing comes off' },
      { id: 'chips', label: 'Chips come off', description: 'pieces crumble or snap away' },
      { id: 'peels', label: 'It peels', description: 'thin sheets or shreds pull off' }
    ],
    seen: {
      sugarMaple: { holds: 88, chips: 11, peels: 1 },
      blackMaple: { holds: 90, chips: 10 },
      redMaple: { chips: 80, holds: 17, peels: 3 },
      silverMaple: { chips: 75, peels: 15, holds: 10 },
      norwayMaple: { holds: 97, chips: 3 },
      boxElder: { holds: 85, chips: 15 },
      stripedMaple: { holds: 100 },
      mountainMaple: { holds: 85, chips: 15 },
      whiteAsh: { holds: 90, chips: 10 },
      blackAsh: { chips: 90, holds: 10 },
      horseChestnut: { chips: 60, holds: 40 },
      dogwood: { holds: 60, chips: 40 },
      redOak: { holds: 98, chips: 2 },
      basswood: { holds: 85, chips: 15 },
      beech: { holds: 100 },
      yellowBirch: { peels: 90, chips: 10 },
      paperBirch: { peels: 97, chips: 3 },
      blackCherry: { chips: 75, holds: 25 },
      hophornbeam: { peels: 75, chips: 25 },
      hickory: { holds: 60, peels: 25, chips: 15 },
      aspen: { holds: 100 },
      elm: { holds: 80, chips: 20 },
      hedgeMaple: { holds: 90, chips: 10 },
      amurMaple: { holds: 97, chips: 3 },
      sycamoreMaple: { chips: 65, holds: 35 },
      viburnum: { holds: 80, chips: 20 },
      elder: { chips: 80, holds: 20 },
      honeysuckle: { peels: 92, chips: 8 },
      spindle: { holds: 97, chips: 3 },
      buckthorn: { chips: 45, peels: 35, holds: 20 },
      musclewood: { holds: 100 },
      walnut: { holds: 92, chips: 8 },
      butternut: { holds: 90, chips: 10 },
      planeTree: { chips: 75, peels: 20, holds: 5 },
      whitePoplar: { holds: 97, chips: 3 },
      mulberry: { holds: 85, chips: 15 },
      tulipTree: { holds: 93, chips: 7 },
      whiteOak: { chips: 60, holds: 40 },
      hawthorn: { chips: 60, holds: 40 },
      sassafras: { holds: 90, chips: 10 },
      blackLocust: { holds: 96, chips: 4 },
      conifer: { chips: 65, holds: 35 }
    }
  },
  {
    id: 'barkTone',
    name: 'Tone of the bark',
    question: 'What colour is the bark as a whole, dry, from five paces?',
    strength: 'strong',
    block: 'bark',
    ages: ['grown', 'old'],
    seasons: ALL_YEAR,
    reliability: 0.75,
    states: [
      { id: 'brownGrey', label: 'Brown-grey to tan', description: 'warm grey' },
      { id: 'darkGrey', label: 'Dull dark grey', description: 'cold, no shine' },
      { id: 'paleGrey', label: 'Pale grey', description: 'light ash or silver' },
      { id: 'blackBrown', label: 'Nearly black', description: 'dark brown to black' },
      { id: 'bronze', label: 'Yellow to bronze', description: 'golden, with a sheen' },
      { id: 'white', label: 'White', description: 'chalk white' },
      { id: 'green', label: 'Greenish', description: 'olive or grey-green' }
    ],
    seen: {
      sugarMaple: { brownGrey: 60, paleGrey: 22, darkGrey: 18 },
      blackMaple: { darkGrey: 55, brownGrey: 35, blackBrown: 10 },
      redMaple: { darkGrey: 60, paleGrey: 25, brownGrey: 15 },
      silverMaple: { paleGrey: 45, brownGrey: 35, darkGrey: 20 },
      norwayMaple: { darkGrey: 75, paleGrey: 15, blackBrown: 10 },
      boxElder: { brownGrey: 50, paleGrey: 35, darkGrey: 15 },
      stripedMaple: { green: 80, darkGrey: 20 },
      mountainMaple: { brownGrey: 60, darkGrey: 30, green: 10 },
      whiteAsh: { paleGrey: 60, brownGrey: 25, darkGrey: 15 },
      blackAsh: { paleGrey: 80, brownGrey: 20 },
      horseChestnut: { brownGrey: 50, darkGrey: 50 },
      dogwood: { darkGrey: 45, brownGrey: 40, blackBrown: 15 },
      redOak: { darkGrey: 60, blackBrown: 30, brownGrey: 10 },
      basswood: { brownGrey: 50, darkGrey: 35, paleGrey: 15 },
      beech: { paleGrey: 90, darkGrey: 10 },
      yellowBirch: { bronze: 85, darkGrey: 15 },
      paperBirch: { white: 92, bronze: 8 },
      blackCherry: { blackBrown: 90, darkGrey: 10 },
      hophornbeam: { brownGrey: 80, darkGrey: 20 },
      hickory: { paleGrey: 45, brownGrey: 35, darkGrey: 20 },
      aspen: { green: 55, paleGrey: 30, darkGrey: 15 },
      elm: { darkGrey: 50, brownGrey: 50 },
      hedgeMaple: { brownGrey: 60, darkGrey: 30, paleGrey: 10 },
      amurMaple: { paleGrey: 50, brownGrey: 30, darkGrey: 20 },
      sycamoreMaple: { paleGrey: 45, brownGrey: 40, darkGrey: 15 },
      viburnum: { brownGrey: 45, darkGrey: 40, blackBrown: 15 },
      elder: { brownGrey: 60, paleGrey: 40 },
      honeysuckle: { brownGrey: 60, paleGrey: 40 },
      spindle: { green: 45, darkGrey: 35, brownGrey: 20 },
      buckthorn: { blackBrown: 55, darkGrey: 45 },
      musclewood: { darkGrey: 60, paleGrey: 40 },
      walnut: { blackBrown: 55, darkGrey: 45 },
      butternut: { paleGrey: 80, darkGrey: 20 },
      planeTree: { white: 55, paleGrey: 25, green: 20 },
      whitePoplar: { white: 45, paleGrey: 35, darkGrey: 20 },
      mulberry: { brownGrey: 80, bronze: 20 },
      tulipTree: { paleGrey: 60, darkGrey: 40 },
      whiteOak: { paleGrey: 90, brownGrey: 10 },
      hawthorn: { brownGrey: 60, darkGrey: 40 },
      sassafras: { brownGrey: 85, darkGrey: 15 },
      blackLocust: { darkGrey: 60, brownGrey: 40 },
      conifer: { brownGrey: 50, blackBrown: 25, darkGrey: 25 }
    }
  },
  {
    id: 'leafForm',
    name: 'Leaf',
    question: 'How is the leaf built?',
    fromTwigs: true,
    strength: 'strong',
    block: 'leaf',
    ages: ALL_AGES,
    seasons: LEAF_SEASONS,
    reliability: 0.975,
    states: [
      { id: 'five', label: 'Five lobes', description: 'ribs from one point, five main tips' },
      { id: 'three', label: 'Three lobes', description: 'ribs from one point, three main tips' },
      { id: 'feather', label: 'Leaflets in pairs', description: 'several along one stalk' },
      { id: 'hand', label: 'Leaflets in a fan', description: 'all from the end of one stalk' },
      { id: 'alongRib', label: 'Lobes along a rib', description: 'left and right of one long rib' },
      { id: 'simple', label: 'One plain blade', description: 'no lobes' },
      { id: 'needles', label: 'Needles', description: 'needles or green scales' }
    ],
    seen: {
      sugarMaple: { five: 92, three: 8 },
      blackMaple: { three: 70, five: 30 },
      redMaple: { three: 75, five: 25 },
      silverMaple: { five: 95, three: 5 },
      norwayMaple: { five: 96, three: 4 },
      boxElder: { feather: 97, three: 3 },
      stripedMaple: { three: 97, five: 3 },
      mountainMaple: { three: 85, five: 15 },
      whiteAsh: { feather: 100 },
      blackAsh: { feather: 100 },
      horseChestnut: { hand: 100 },
      dogwood: { simple: 100 },
      redOak: { alongRib: 100 },
      basswood: { simple: 100 },
      beech: { simple: 100 },
      yellowBirch: { simple: 100 },
      paperBirch: { simple: 100 },
      blackCherry: { simple: 100 },
      hophornbeam: { simple: 100 },
      hickory: { feather: 100 },
      aspen: { simple: 100 },
      elm: { simple: 100 },
      hedgeMaple: { five: 90, three: 10 },
      amurMaple: { three: 85, simple: 15 },
      sycamoreMaple: { five: 96, three: 4 },
      viburnum: { simple: 65, three: 35 },
      elder: { feather: 100 },
      honeysuckle: { simple: 100 },
      spindle: { simple: 100 },
      buckthorn: { simple: 100 },
      musclewood: { simple: 100 },
      walnut: { feather: 100 },
      butternut: { feather: 100 },
      planeTree: { three: 55, five: 45 },
      whitePoplar: { five: 45, simple: 30, three: 25 },
      mulberry: { simple: 55, three: 25, alongRib: 20 },
      tulipTree: { five: 50, three: 30, alongRib: 20 },
      whiteOak: { alongRib: 100 },
      hawthorn: { alongRib: 70, three: 20, simple: 10 },
      sassafras: { three: 55, simple: 45 },
      blackLocust: { feather: 100 },
      conifer: { needles: 100 }
    }
  },
  {
    id: 'leafNotch',
    name: 'Notch between the lobes',
    question: 'What is the notch between two lobes like? (No lobes: can’t tell.)',
    fromTwigs: true,
    strength: 'strong',
    block: 'leaf',
    ages: ALL_AGES,
    seasons: LEAF_SEASONS,
    reliability: 0.9,
    states: [
      { id: 'rounded', label: 'Rounded', description: 'like the letter U' },
      { id: 'sharp', label: 'Sharp', description: 'like the letter V' },
      { id: 'deep', label: 'Deep and narrow', description: 'more than half-way in' },
      { id: 'shallow', label: 'Shallow', description: 'hardly a notch' }
    ],
    seen: {
      sugarMaple: { rounded: 90, shallow: 6, sharp: 4 },
      blackMaple: { shallow: 75, rounded: 25 },
      redMaple: { sharp: 90, rounded: 5, shallow: 5 },
      silverMaple: { deep: 95, sharp: 5 },
      norwayMaple: { rounded: 85, shallow: 10, sharp: 5 },
      stripedMaple: { shallow: 60, sharp: 40 },
      mountainMaple: { shallow: 55, sharp: 45 },
      redOak: { rounded: 60, deep: 30, sharp: 10 },
      hedgeMaple: { rounded: 80, deep: 10, shallow: 10 },
      amurMaple: { sharp: 60, deep: 15, shallow: 25 },
      sycamoreMaple: { sharp: 85, shallow: 15 },
      viburnum: { sharp: 60, shallow: 40 },
      planeTree: { shallow: 60, rounded: 30, sharp: 10 },
      whitePoplar: { shallow: 60, rounded: 40 },
      mulberry: { rounded: 60, sharp: 20, shallow: 20 },
      tulipTree: { shallow: 60, sharp: 40 },
      whiteOak: { rounded: 90, deep: 10 },
      hawthorn: { sharp: 80, deep: 20 },
      sassafras: { rounded: 90, shallow: 10 }
    }
  },
  {
    id: 'leafMargin',
    name: 'Edge of the leaf',
    question: 'Is the edge smooth or toothed?',
    fromTwigs: true,
    strength: 'strong',
    block: 'leaf',
    ages: ALL_AGES,
    seasons: LEAF_SEASONS,
    reliability: 0.9,
    states: [
      { id: 'smooth', label: 'Smooth', description: 'a few long points at the most' },
      { id: 'coarse', label: 'Coarse teeth', description: 'uneven, like a worn saw' },
      { id: 'fine', label: 'Fine teeth', description: 'close and even' }
    ],
    seen: {
      sugarMaple: { smooth: 95, coarse: 5 },
      blackMaple: { smooth: 97, coarse: 3 },
      redMaple: { coarse: 75, fine: 25 },
      silverMaple: { coarse: 75, fine: 25 },
      norwayMaple: { smooth: 92, coarse: 8 },
      boxElder: { coarse: 75, smooth: 25 },
      stripedMaple: { fine: 97, coarse: 3 },
      mountainMaple: { coarse: 92, fine: 8 },
      whiteAsh: { smooth: 60, fine: 40 },
      blackAsh: { fine: 85, smooth: 15 },
      horseChestnut: { fine: 60, coarse: 40 },
      dogwood: { smooth: 99, fine: 1 },
      redOak: { smooth: 85, coarse: 15 },
      basswood: { fine: 60, coarse: 40 },
      beech: { coarse: 85, smooth: 15 },
      yellowBirch: { fine: 95, coarse: 5 },
      paperBirch: { fine: 60, coarse: 40 },
      blackCherry: { fine: 97, smooth: 3 },
      hophornbeam: { fine: 95, coarse: 5 },
      hickory: { fine: 90, coarse: 10 },
      aspen: { fine: 60, coarse: 40 },
      elm: { fine: 65, coarse: 35 },
      hedgeMaple: { smooth: 95, coarse: 5 },
      amurMaple: { coarse: 80, fine: 20 },
      sycamoreMaple: { coarse: 95, fine: 5 },
      viburnum: { coarse: 60, fine: 30, smooth: 10 },
      elder: { fine: 75, coarse: 25 },
      honeysuckle: { smooth: 100 },
      spindle: { fine: 92, smooth: 8 },
      buckthorn: { fine: 95, smooth: 5 },
      musclewood: { fine: 97, coarse: 3 },
      walnut: { fine: 97, coarse: 3 },
      butternut: { fine: 97, coarse: 3 },
      planeTree: { coarse: 90, smooth: 10 },
      whitePoplar: { coarse: 85, smooth: 15 },
      mulberry: { coarse: 90, fine: 10 },
      tulipTree: { smooth: 100 },
      whiteOak: { smooth: 98, coarse: 2 },
      hawthorn: { coarse: 70, fine: 30 },
      sassafras: { smooth: 100 },
      blackLocust: { smooth: 100 },
      conifer: { smooth: 95, fine: 5 }
    }
  },
  {
    id: 'leafUnderside',
    name: 'Underside of the leaf',
    question: 'Turn the leaf over. What is the underside like?',
    fromTwigs: true,
    strength: 'strong',
    block: 'leaf',
    ages: ALL_AGES,
    seasons: LEAF_SEASONS,
    reliability: 0.85,
    states: [
      { id: 'paleGreen', label: 'Pale green', description: 'a little lighter than above' },
      { id: 'whitened', label: 'Whitened', description: 'as if chalked' },
      { id: 'silver', label: 'Silver', description: 'bright, flashes in the wind' },
      { id: 'velvet', label: 'Velvety', description: 'soft hairs under the thumb' }
    ],
    seen: {
      sugarMaple: { paleGreen: 85, whitened: 15 },
      blackMaple: { velvet: 75, paleGreen: 25 },
      redMaple: { whitened: 88, paleGreen: 12 },
      silverMaple: { silver: 95, whitened: 5 },
      norwayMaple: { paleGreen: 97, whitened: 3 },
      boxElder: { paleGreen: 90, velvet: 10 },
      stripedMaple: { paleGreen: 85, velvet: 15 },
      mountainMaple: { velvet: 65, paleGreen: 20, whitened: 15 },
      whiteAsh: { whitened: 60, paleGreen: 40 },
      blackAsh: { paleGreen: 92, velvet: 8 },
      horseChestnut: { paleGreen: 95, velvet: 5 },
      dogwood: { whitened: 55, paleGreen: 45 },
      redOak: { paleGreen: 96, velvet: 4 },
      basswood: { paleGreen: 80, velvet: 15, whitened: 5 },
      beech: { paleGreen: 95, velvet: 5 },
      yellowBirch: { paleGreen: 88, velvet: 12 },
      paperBirch: { paleGreen: 90, velvet: 10 },
      blackCherry: { paleGreen: 80, velvet: 20 },
      hophornbeam: { paleGreen: 70, velvet: 30 },
      hickory: { paleGreen: 80, velvet: 20 },
      aspen: { paleGreen: 70, whitened: 30 },
      elm: { paleGreen: 75, velvet: 25 },
      hedgeMaple: { paleGreen: 75, velvet: 25 },
      amurMaple: { paleGreen: 95, velvet: 5 },
      sycamoreMaple: { whitened: 80, paleGreen: 20 },
      viburnum: { velvet: 60, paleGreen: 40 },
      elder: { paleGreen: 90, velvet: 10 },
      honeysuckle: { velvet: 50, paleGreen: 50 },
      spindle: { paleGreen: 90, velvet: 10 },
      buckthorn: { paleGreen: 95, velvet: 5 },
      musclewood: { paleGreen: 92, velvet: 8 },
      walnut: { paleGreen: 60, velvet: 40 },
      butternut: { velvet: 65, paleGreen: 35 },
      planeTree: { paleGreen: 55, velvet: 45 },
      whitePoplar: { velvet: 45, silver: 35, whitened: 20 },
      mulberry: { paleGreen: 60, velvet: 40 },
      tulipTree: { paleGreen: 80, whitened: 20 },
      whiteOak: { whitened: 60, paleGreen: 40 },
      hawthorn: { paleGreen: 80, velvet: 20 },
      sassafras: { whitened: 60, paleGreen: 40 },
      blackLocust: { paleGreen: 95, whitened: 5 },
      conifer: { paleGreen: 70, whitened: 30 }
    }
  },
  {
    id: 'milkySap',
    name: 'Sap of the leaf stalk',
    question: 'Break a leaf stalk. What comes out?',
    fromTwigs: true,
    strength: 'strong',
    block: null,
    ages: ALL_AGES,
    seasons: ['leaf'],
    reliability: 0.97,
    states: [
      { id: 'milky', label: 'Milky', description: 'white drops' },
      { id: 'clear', label: 'Clear or none', description: 'nothing white' }
    ],
    seen: {
      sugarMaple: { clear: 99.9, milky: 0.1 },
      blackMaple: { clear: 99.9, milky: 0.1 },
      redMaple: { clear: 99.9, milky: 0.1 },
      silverMaple: { clear: 99.9, milky: 0.1 },
      norwayMaple: { milky: 97, clear: 3 },
      boxElder: { clear: 99.9, milky: 0.1 },
      stripedMaple: { clear: 99.9, milky: 0.1 },
      mountainMaple: { clear: 99.9, milky: 0.1 },
      whiteAsh: { clear: 100 },
      blackAsh: { clear: 100 },
      horseChestnut: { clear: 100 },
      dogwood: { clear: 99, milky: 1 },
      redOak: { clear: 100 },
      basswood: { clear: 100 },
      beech: { clear: 100 },
      yellowBirch: { clear: 100 },
      paperBirch: { clear: 100 },
      blackCherry: { clear: 100 },
      hophornbeam: { clear: 100 },
      hickory: { clear: 100 },
      aspen: { clear: 100 },
      elm: { clear: 100 },
      hedgeMaple: { milky: 95, clear: 5 },
      amurMaple: { clear: 99.9, milky: 0.1 },
      sycamoreMaple: { clear: 99.9, milky: 0.1 },
      viburnum: { clear: 100 },
      elder: { clear: 100 },
      honeysuckle: { clear: 100 },
      spindle: { clear: 100 },
      buckthorn: { clear: 100 },
      musclewood: { clear: 100 },
      walnut: { clear: 100 },
      butternut: { clear: 100 },
      planeTree: { clear: 100 },
      whitePoplar: { clear: 100 },
      mulberry: { milky: 90, clear: 10 },
      tulipTree: { clear: 100 },
      whiteOak: { clear: 100 },
      hawthorn: { clear: 100 },
      sassafras: { clear: 100 },
      blackLocust: { clear: 100 },
      conifer: { clear: 100 }
    }
  },
  {
    id: 'keysHanging',
    name: 'Winged seeds on the tree',
    question: 'Do seeds hang in its own crown? What are they like? (Those on the ground may be a neighbour’s.)',
    strength: 'strong',
    block: null,
    ages: ['grown', 'old'],
    seasons: ALL_YEAR,
    found: 0.35,
    // Red and silver maple shed in May and June, box elder and ash keep theirs into winter (common practice).
    hangs: {
      redMaple: { swelling: 0.8, leaf: 0.3 },
      silverMaple: { swelling: 0.8, leaf: 0.3 },
      sugarMaple: { leaf: 1, fall: 0.7, bare: 0.05 },
      blackMaple: { leaf: 1, fall: 0.7, bare: 0.05 },
      norwayMaple: { leaf: 1, fall: 0.8, bare: 0.15 },
      hedgeMaple: { leaf: 1, fall: 0.8, bare: 0.15 },
      sycamoreMaple: { leaf: 1, fall: 0.8, bare: 0.3 },
      stripedMaple: { leaf: 1, fall: 0.6, bare: 0.05 },
      mountainMaple: { leaf: 1, fall: 0.6, bare: 0.05 }
    },
    reliability: 0.85,
    states: [
      { id: 'horseshoe', label: 'Pair, wings side by side', description: 'bent round, nearly level with each other' },
      { id: 'vee', label: 'Pair, narrow angle', description: 'two small wings, like the letter V' },
      { id: 'wide', label: 'Pair, spread wide', description: 'two wings almost in one line' },
      { id: 'paddle', label: 'Single paddles', description: 'one seed, one blade, in bunches' },
      { id: 'other', label: 'Something else', description: 'nuts, berries, catkins, pods' }
    ],
    seen: {
      sugarMaple: { horseshoe: 85, vee: 15 },
      blackMaple: { horseshoe: 80, vee: 10, wide: 10 },
      redMaple: { vee: 85, horseshoe: 15 },
      silverMaple: { wide: 55, vee: 45 },
      norwayMaple: { wide: 95, vee: 5 },
      boxElder: { vee: 85, horseshoe: 15 },
      stripedMaple: { wide: 55, horseshoe: 30, vee: 15 },
      mountainMaple: { vee: 60, horseshoe: 30, wide: 10 },
      whiteAsh: { paddle: 97, other: 3 },
      blackAsh: { paddle: 97, other: 3 },
      horseChestnut: { other: 100 },
      dogwood: { other: 100 },
      redOak: { other: 100 },
      basswood: { other: 97, paddle: 3 },
      beech: { other: 100 },
      yellowBirch: { other: 100 },
      paperBirch: { other: 100 },
      blackCherry: { other: 100 },
      hophornbeam: { other: 100 },
      hickory: { other: 100 },
      aspen: { other: 100 },
      elm: { other: 97, paddle: 3 },
      hedgeMaple: { wide: 97, vee: 3 },
      amurMaple: { horseshoe: 55, vee: 45 },
      sycamoreMaple: { vee: 70, horseshoe: 30 },
      viburnum: { other: 100 },
      elder: { other: 100 },
      honeysuckle: { other: 100 },
      spindle: { other: 100 },
      buckthorn: { other: 100 },
      musclewood: { other: 95, paddle: 5 },
      walnut: { other: 100 },
      butternut: { other: 100 },
      planeTree: { other: 100 },
      whitePoplar: { other: 100 },
      mulberry: { other: 100 },
      tulipTree: { other: 85, paddle: 15 },
      whiteOak: { other: 100 },
      hawthorn: { other: 100 },
      sassafras: { other: 100 },
      blackLocust: { other: 100 },
      conifer: { other: 100 }
    }
  },
  {
    id: 'keys',
    name: 'Winged seeds under it',
    question: 'What winged seeds lie under it? (They may be a neighbour’s: a weak clue.)',
    strength: 'weak',
    block: null,
    ages: ALL_AGES,
    seasons: ALL_YEAR,
    found: 0.5,
    reliability: 0.85,
    states: [
      { id: 'horseshoe', label: 'Pair, wings side by side', description: 'bent round, nearly level with each other' },
      { id: 'vee', label: 'Pair, narrow angle', description: 'two small wings, like the letter V' },
      { id: 'wide', label: 'Pair, spread wide', description: 'two wings almost in one line' },
      { id: 'paddle', label: 'Single paddles', description: 'one seed, one blade, in bunches' },
      { id: 'other', label: 'Something else', description: 'nuts, berries, catkins, pods' }
    ],
    seen: {
      sugarMaple: { horseshoe: 60, vee: 25, other: 15 },
      blackMaple: { horseshoe: 60, vee: 25, other: 15 },
      redMaple: { vee: 50, horseshoe: 40, other: 10 },
      whiteAsh: { paddle: 45, horseshoe: 40, vee: 15 },
      blackAsh: { paddle: 45, horseshoe: 30, vee: 25 }
    }
  },
  {
    id: 'heldLeaves',
    name: 'Leaves held in winter',
    question: 'Do many dry leaves still hang on the tree?',
    strength: 'strong',
    block: null,
    ages: ALL_AGES,
    seasons: ['bare'],
    reliability: 0.9,
    states: [
      { id: 'many', label: 'Many', description: 'pale or brown, rustling' },
      { id: 'none', label: 'None or few', description: 'a bare crown' },
      { id: 'green', label: 'Green needles', description: 'green all winter' }
    ],
    seen: {
      sugarMaple: { none: 93, many: 7 },
      blackMaple: { none: 95, many: 5 },
      redMaple: { none: 98, many: 2 },
      silverMaple: { none: 98, many: 2 },
      norwayMaple: { none: 97, many: 3 },
      boxElder: { none: 97, many: 3 },
      stripedMaple: { none: 98, many: 2 },
      mountainMaple: { none: 98, many: 2 },
      whiteAsh: { none: 99, many: 1 },
      blackAsh: { none: 99, many: 1 },
      horseChestnut: { none: 98, many: 2 },
      dogwood: { none: 98, many: 2 },
      redOak: { many: 55, none: 45 },
      basswood: { none: 97, many: 3 },
      beech: { many: 75, none: 25 },
      yellowBirch: { none: 98, many: 2 },
      paperBirch: { none: 98, many: 2 },
      blackCherry: { none: 98, many: 2 },
      hophornbeam: { none: 70, many: 30 },
      hickory: { none: 97, many: 3 },
      aspen: { none: 99, many: 1 },
      elm: { none: 98, many: 2 },
      hedgeMaple: { none: 98, many: 2 },
      amurMaple: { none: 98, many: 2 },
      sycamoreMaple: { none: 98, many: 2 },
      viburnum: { none: 98, many: 2 },
      elder: { none: 98, many: 2 },
      honeysuckle: { none: 90, many: 10 },
      spindle: { none: 98, many: 2 },
      buckthorn: { none: 98, many: 2 },
      musclewood: { none: 75, many: 25 },
      walnut: { none: 98, many: 2 },
      butternut: { none: 98, many: 2 },
      planeTree: { none: 98, many: 2 },
      whitePoplar: { none: 98, many: 2 },
      mulberry: { none: 98, many: 2 },
      tulipTree: { none: 98, many: 2 },
      whiteOak: { none: 55, many: 45 },
      hawthorn: { none: 98, many: 2 },
      sassafras: { none: 98, many: 2 },
      blackLocust: { none: 98, many: 2 },
      conifer: { green: 99, none: 1 }
    }
  },
  {
    id: 'lichen',
    name: 'Pale lichen',
    question: 'Are there pale round patches of lichen on the bark?',
    strength: 'weak',
    block: null,
    ages: ALL_AGES,
    seasons: ALL_YEAR,
    reliability: 0.9,
    states: [
      { id: 'yes', label: 'Pale patches', description: 'whitish, like thrown paint' },
      { id: 'no', label: 'None', description: 'plain bark' }
    ],
    seen: {
      sugarMaple: { yes: 45, no: 55 },
      blackMaple: { yes: 45, no: 55 },
      redMaple: { yes: 35, no: 65 },
      silverMaple: { yes: 20, no: 80 },
      norwayMaple: { yes: 20, no: 80 },
      whiteAsh: { yes: 35, no: 65 },
      redOak: { yes: 25, no: 75 },
      basswood: { yes: 30, no: 70 },
      beech: { yes: 40, no: 60 },
      blackCherry: { yes: 10, no: 90 },
      yellowBirch: { yes: 15, no: 85 },
      paperBirch: { yes: 10, no: 90 }
    }
  },
  {
    id: 'staining',
    name: 'Black staining',
    question: 'Is the bark streaked black, below rows of small holes or in a mouldy film?',
    strength: 'weak',
    block: null,
    ages: ALL_AGES,
    seasons: ALL_YEAR,
    reliability: 0.9,
    states: [
      { id: 'yes', label: 'Black streaks', description: 'sooty film below sapsucker holes' },
      { id: 'no', label: 'None', description: 'clean bark' }
    ],
    seen: {
      sugarMaple: { yes: 35, no: 65 },
      blackMaple: { yes: 35, no: 65 },
      redMaple: { yes: 30, no: 70 },
      silverMaple: { yes: 20, no: 80 },
      whiteAsh: { yes: 10, no: 90 },
      redOak: { yes: 10, no: 90 },
      basswood: { yes: 15, no: 85 },
      yellowBirch: { yes: 25, no: 75 },
      paperBirch: { yes: 20, no: 80 }
    }
  },
  {
    id: 'elbows',
    name: 'Bent branches',
    question: 'Do upper branches turn sharply upward?',
    strength: 'weak',
    block: null,
    ages: ['grown', 'old'],
    seasons: ALL_YEAR,
    reliability: 0.8,
    states: [
      { id: 'yes', label: 'Sharp bends', description: 'out, then suddenly up' },
      { id: 'no', label: 'None', description: 'branches run on smoothly' }
    ],
    seen: {
      sugarMaple: { yes: 45, no: 55 },
      blackMaple: { yes: 45, no: 55 },
      redMaple: { yes: 35, no: 65 },
      silverMaple: { yes: 40, no: 60 },
      whiteAsh: { yes: 20, no: 80 },
      horseChestnut: { yes: 40, no: 60 },
      beech: { yes: 25, no: 75 },
      redOak: { yes: 30, no: 70 }
    }
  },
  {
    id: 'oldTapholes',
    name: 'Old tapholes',
    question: 'Do you see closed tapholes? (All they say is that somebody thought it was a maple.)',
    strength: 'weak',
    block: null,
    ages: ALL_AGES,
    seasons: ALL_YEAR,
    reliability: 0.9,
    states: [
      { id: 'yes', label: 'Tapholes', description: 'round, healed scars at working height' },
      { id: 'no', label: 'None', description: 'none to be seen' }
    ],
    seen: {
      sugarMaple: { yes: 50, no: 50 },
      blackMaple: { yes: 50, no: 50 },
      redMaple: { yes: 30, no: 70 },
      silverMaple: { yes: 20, no: 80 },
      whiteAsh: { yes: 4, no: 96 },
      beech: { yes: 2, no: 98 },
      redOak: { yes: 2, no: 98 },
      basswood: { yes: 3, no: 97 },
      yellowBirch: { yes: 3, no: 97 }
    }
  },
  {
    id: 'ground',
    name: 'Ground',
    question: 'How wet is the ground that it stands on?',
    strength: 'weak',
    block: null,
    ages: ALL_AGES,
    seasons: ALL_YEAR,
    reliability: 0.9,
    states: [
      { id: 'wet', label: 'Wet', description: 'water stands for weeks, sedge or alder' },
      { id: 'moist', label: 'Moist', description: 'never dry, never standing in water' },
      { id: 'dry', label: 'Well drained', description: 'slopes, ridges, gravel' }
    ],
    seen: {
      sugarMaple: { dry: 50, moist: 46, wet: 4 },
      blackMaple: { moist: 75, dry: 17, wet: 8 },
      redMaple: { wet: 40, moist: 40, dry: 20 },
      silverMaple: { wet: 60, moist: 35, dry: 5 },
      boxElder: { moist: 60, wet: 30, dry: 10 },
      blackAsh: { wet: 88, moist: 12 },
      whiteAsh: { moist: 55, dry: 30, wet: 15 },
      beech: { dry: 55, moist: 43, wet: 2 },
      redOak: { dry: 75, moist: 24, wet: 1 },
      yellowBirch: { moist: 60, wet: 25, dry: 15 },
      hophornbeam: { dry: 80, moist: 20 },
      elm: { moist: 55, wet: 40, dry: 5 },
      elder: { moist: 60, wet: 30, dry: 10 },
      buckthorn: { moist: 50, dry: 35, wet: 15 },
      musclewood: { moist: 65, wet: 25, dry: 10 },
      walnut: { moist: 70, dry: 20, wet: 10 },
      butternut: { moist: 70, dry: 20, wet: 10 },
      planeTree: { wet: 50, moist: 45, dry: 5 },
      whiteOak: { dry: 80, moist: 20 }
    }
  },
  {
    id: 'budStage',
    name: 'Stage of the buds',
    question: 'Are the buds still tight, or swelling?',
    fromTwigs: true,
    strength: 'context',
    block: null,
    ages: ALL_AGES,
    seasons: ['swelling', 'bare'],
    reliability: 0.9,
    states: [
      { id: 'tight', label: 'Tight', description: 'closed and dry, as all winter' },
      { id: 'swollen', label: 'Swelling', description: 'plumper, redder, a pale seam between the scales' }
    ],
    seen: {}
  },
  {
    id: 'twigsFrom',
    name: 'Whose twigs',
    question: 'Where are the twigs, buds and leaves that you look at?',
    strength: 'context',
    block: null,
    ages: ALL_AGES,
    seasons: ALL_YEAR,
    reliability: 0.95,
    states: [
      { id: 'own', label: 'On this trunk', description: 'a branch or a shoot that grows out of it, or its crown' },
      { id: 'beside', label: 'Beside it', description: 'on the ground, or on a sapling next to it' }
    ],
    seen: {}
  }
];
