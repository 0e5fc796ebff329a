import { DEFAULT_COLUMNS, type ColumnModel } from './defaults.ts';
import type { Trunk } from './trunk.ts';

/** What a bush has shown of its columns, holes and grain, beside the model's own. */
export interface BushColumns {
  /** factors on the volume of columns, on how far they reach sideways, and on errors of place */
  readonly sizeFactor: number;
  readonly marginFactor: number;
  readonly positionFactor: number;
  /** errors of place of each who drills, against all in the bush, by the id of who wrote the hole down */
  readonly hands: Readonly<Record<string, number>>;
  /** lean of the grain, degrees, above 0 to the left going up: the bush's mean, and what a stand or a species adds to it */
  readonly leanDeg: number;
  readonly leanStands: Readonly<Record<string, number>>;
  readonly leanSpecies: Readonly<Record<string, number>>;
  /** how far single trees stray from that, 1 sd */
  readonly leanSdDeg: number;
}

/** Of a bush that has shown nothing yet. */
export const USUAL_BUSH: BushColumns = {
  sizeFactor: 1,
  marginFactor: 1,
  positionFactor: 1,
  hands: {},
  leanDeg: 0,
  leanStands: {},
  leanSpecies: {},
  leanSdDeg: DEFAULT_COLUMNS.grainSdDeg
};

/** A bush's own factors never make anything smaller than this share of the model's. */
export const LEAST_CORRECTION = 0.2;
/** Nor larger than this many times. */
export const LARGEST_CORRECTION = 5;

/** A trunk whose holes are as surely placed as each who drilled them places holes. */
export function withHands(trunk: Trunk, { hands }: Pick<BushColumns, 'hands'>): Trunk {
  const holes = trunk.holes.map((hole) => ({ ...hole, hand: hands[hole.authorId ?? ''] ?? 1 }));
  return { ...trunk, holes };
}

/** The model as a bush has it, for a tree of a stand and a species. */
export function asInBush(
  model: ColumnModel,
  bush: BushColumns,
  tree: { readonly standId?: string | null; readonly species?: string | null } = {}
): ColumnModel {
  return {
    ...model,
    volumeRatioMedian: model.volumeRatioMedian * bush.sizeFactor,
    sideMarginMedianMm: model.sideMarginMedianMm * bush.marginFactor,
    positionSdSidewaysMm: model.positionSdSidewaysMm * bush.positionFactor,
    positionSdUpMm: model.positionSdUpMm * bush.positionFactor,
    grainMeanDeg:
      model.grainMeanDeg +
      bush.leanDeg +
      (bush.leanStands[tree.standId ?? ''] ?? 0) +
      (bush.leanSpecies[tree.species ?? ''] ?? 0),
    grainSdDeg: bush.leanSdDeg
  };
}
