import type { SpeciesId } from '../identify/index.ts';
import type { BushSettings } from '../records/index.ts';
import { tapGuidelineOf, type TapPolicy } from '../taps/index.ts';
import { columnsOf, corrected, DEFAULT_COLUMNS, type ColumnModel } from '../trunk/index.ts';
/** The columns of this bush in a tree of this species: the model with the bush's accepted correction. */
export function modelOf(
  { columnFactor, positionFactor, sapwoodMm }: BushSettings,
  species: SpeciesId | null
): ColumnModel {
  return columnsOf(species, { ...corrected(DEFAULT_COLUMNS, columnFactor, positionFactor), sapwoodMm });
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
    restsWeak: true
  };
}
