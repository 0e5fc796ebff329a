import type { SpeciesId } from '../identify/index.ts';
import type { OldHole } from './column.ts';

/**
 * The numbers behind columns of non-conductive wood. Each can be changed for a bush; where each comes from is said here
 * and in docs/model.md. Geometry of the walls: compartmentalisation is weakest along the grain and strongest between
 * old wood and the wood grown afterwards (Shigo & Marx 1977, USDA Agriculture Information Bulletin 405).
 */
export interface ColumnModel {
  /** volume of the column over the volume of the hole: log-normal; 95 % of it in the 20 to 200 of common practice */
  readonly volumeRatioMedian: number;
  readonly volumeRatioSigma: number;
  /** how far the stain reaches beside the hole, mm: log-normal; working assumption */
  readonly sideMarginMedianMm: number;
  readonly sideMarginSigma: number;
  /** lean of the grain against the vertical, degrees, one per tree: normal; working assumption. Above 0 it leans left going up */
  readonly grainMeanDeg: number;
  readonly grainSdDeg: number;
  /** recorded against true position of a hole, mm: normal about 0; working assumption */
  readonly positionSdSidewaysMm: number;
  readonly positionSdUpMm: number;
  /** depth of conductive wood under the surface, mm: log-normal, one per tree; working assumption unless observed */
  readonly sapwoodMm: number;
  readonly sapwoodSigma: number;
  /** a hole counts as a hit when more than this share of its path lies in stained wood */
  readonly hitShare: number;
}

/** How far non-conductive wood reaches from a hole where nothing is known of the bush. */
export const DEFAULT_COLUMNS: ColumnModel = {
  volumeRatioMedian: 75,
  volumeRatioSigma: 0.55,
  sideMarginMedianMm: 3,
  sideMarginSigma: 0.35,
  grainMeanDeg: 0,
  grainSdDeg: 4,
  positionSdSidewaysMm: 10,
  positionSdUpMm: 15,
  sapwoodMm: 75,
  sapwoodSigma: 0.35,
  hitShare: 0.02
};

/**
 * How much larger a column is than sugar maple's behind the same hole. Red and the other maples wall wounds off less well:
 * the direction is common practice, the size a working assumption. 1 where the species is not settled.
 */
const OTHER_MAPLES = 1.3;
const WALLS_WELL: readonly SpeciesId[] = ['sugarMaple', 'blackMaple'];

/** Is a wound of this species walled off as in sugar maple? Taken so where the species is not settled. */
export function wallsOffWell(species: SpeciesId | null): boolean {
  return species === null || WALLS_WELL.includes(species);
}

/** The columns of a tree of this species, from the bush's own. */
export function columnsOf(species: SpeciesId | null, model: ColumnModel = DEFAULT_COLUMNS): ColumnModel {
  if (wallsOffWell(species)) return model;
  return { ...model, volumeRatioMedian: OTHER_MAPLES * model.volumeRatioMedian };
}

/**
 * What a wound's column fills over what was laid open, against what a taphole's does, how far it reaches beside it, and how
 * uncertain both are. A wound of 6 cm stains some half metre up and down. Working assumptions.
 */
const WOUND = { volumeRatioMedian: 20, volumeRatioSigma: 0.8, sideMarginMedianMm: 8, sideMarginSigma: 0.7 } as const;

/** The columns of a trunk behind one of its holes; behind a wound they are wider, and less is known of them. */
export function columnsBehind({ wound }: Pick<OldHole, 'wound'>, model: ColumnModel): ColumnModel {
  if (!wound) return model;
  const { volumeRatioMedian } = WOUND;
  return {
    ...model,
    ...WOUND,
    volumeRatioMedian: (volumeRatioMedian * model.volumeRatioMedian) / DEFAULT_COLUMNS.volumeRatioMedian
  };
}

/** Mean of the volume ratio: `median * exp(sigma^2 / 2)` of a log-normal. */
export function meanVolumeRatio(model: ColumnModel): number {
  return model.volumeRatioMedian * Math.exp(model.volumeRatioSigma ** 2 / 2);
}

/** The bush's way of drilling. Depths are into wood; the bit's tape mark adds the bark. */
export interface DrillPractice {
  readonly bitMm: number;
  readonly depthMm: number;
  /** upward slope of the hole, degrees; common practice 5 to 10 */
  readonly angleDeg: number;
  /** lowest and highest hole above the ground, mm: steward's reach, snow and drop line */
  readonly lowestMm: number;
  readonly highestMm: number;
  /** least distance between two holes of one season, mm */
  readonly spacingMm: number;
}
/** The bit and how deep it goes. */
export type BitPath = Pick<DrillPractice, 'bitMm' | 'depthMm'>;

/** 5/16 in by 1 1/2 in, from 60 to 150 cm (about 2 to 5 ft): common practice. */
export const DEFAULT_PRACTICE: DrillPractice = {
  bitMm: 7.9375,
  depthMm: 38.1,
  angleDeg: 5,
  lowestMm: 600,
  highestMm: 1500,
  spacingMm: 300
};
