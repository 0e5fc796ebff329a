import type { SpeciesId } from '../identify/index.ts';
import type { BushSettings } from '../records/index.ts';
import { tapGuidelineOf, type TapPolicy } from '../taps/index.ts';
import { asInBush, columnsOf, DEFAULT_COLUMNS, type BushColumns, type ColumnModel } from '../trunk/index.ts';
/** What a bush has shown of its columns, as far as its steward accepted it. */
export const shownBy = ({
  columnFactor,
  marginFactor,
  positionFactor,
  hands,
  leanDeg,
  leanStands,
  leanSpecies,
  leanSdDeg
}: BushSettings): BushColumns => ({
  sizeFactor: columnFactor,
  marginFactor,
  positionFactor,
  hands,
  leanDeg,
  leanStands,
  leanSpecies,
  leanSdDeg
});

/** The same as settings. */
export const asSettings = ({ sizeFactor, ...rest }: BushColumns): Partial<BushSettings> => ({
  columnFactor: sizeFactor,
  ...rest
});

/** The columns of this bush in a tree of this species and stand: the model with what the bush has shown. */
export function modelOf(settings: BushSettings, species: SpeciesId | null, standId: string | null = null): ColumnModel {
  const model = columnsOf(species, { ...DEFAULT_COLUMNS, sapwoodMm: settings.sapwoodMm });
  return asInBush(model, shownBy(settings), { species, standId });
}

/** What the growth balance of one tree goes by. */
export function balanceOf(settings: BushSettings, species: SpeciesId | null): TapPolicy {
  return { ...policyOf(settings), model: modelOf(settings, species) };
}

/** How the bush taps by its own numbers: no more than size, growth and condition allow. */
export function policyOf(settings: BushSettings): TapPolicy {
  return {
    guideline: tapGuidelineOf(settings),
    bitMm: settings.bitMm,
    depthMm: settings.depthMm,
    bandMm: settings.highestMm - settings.lowestMm,
    acceptedShare: settings.acceptedShare,
    model: modelOf(settings, null),
    leastDbhMm: 0,
    minds: 'growth',
    restsWeak: true,
    stainLoss: settings.stainLoss
  };
}
