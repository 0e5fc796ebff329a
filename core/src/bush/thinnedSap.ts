import { mean } from '../math/index.ts';
import type { BushRecord, CollectingPlaceRecord, SeedlingsRecord } from '../records/index.ts';
import {
  fenceEffect,
  gradedEffect,
  type FenceEffect,
  type PartlyFreed,
  type ThinningEffect
} from '../thinning/index.ts';
import type { ThinningDone } from './thinningWorked.ts';
import type { PlaceYear } from './yearReckoning.ts';

type Graded = Omit<ThinningEffect, 'alone'>;

/** What a thinning did to the sap: told by places, for sap of several trees runs together. */
export interface ThinnedSap {
  /** by how much more a tap gives where all trees were freed than where none were, as a share: 0.1 for a tenth more */
  readonly litres: Graded;
  /** how much sweeter it is, per cent of sugar */
  readonly sugar: Graded;
}

/** Of a place so many of its seasons on either side tell what it was. */
const SEASONS_A_SIDE = 2;

/**
 * What a thinning did to litres and sugar. Places differ by how many of their trees were freed; what a season did to all of them falls
 * out.
 * @param years what every place gave in every season @param records of the bush that hold
 */
export function thinnedSap(
  { year, years: ago, freedIds }: Pick<ThinningDone, 'year' | 'years' | 'freedIds'>,
  years: readonly PlaceYear[],
  records: readonly BushRecord[]
): ThinnedSap {
  const places = records.filter((record): record is CollectingPlaceRecord => record.kind === 'collectingPlace');
  const of = (measure: (told: PlaceYear) => number | null) =>
    gradedEffect(
      places.flatMap(({ id, treeIds }): PartlyFreed[] => {
        const own = years.filter(({ placeId }) => placeId === id);
        const side = (isHere: (season: number) => boolean) =>
          own.flatMap((told) => (isHere(told.season) ? (measure(told) ?? []) : []));
        // The sap of the first spring came out of wood that had no more light yet.
        const [before, after] = [side((season) => season <= year), side((season) => season > year)];
        if (before.length < SEASONS_A_SIDE || after.length < SEASONS_A_SIDE || treeIds.length === 0) return [];
        const share = treeIds.filter((each) => freedIds.has(each)).length / treeIds.length;
        return [{ share, before: mean(before), after: mean(after) }];
      }),
      ago
    );
  return { litres: of(({ litresShare }) => litresShare), sugar: of(({ brixOver }) => brixOver) };
}

/**
 * What the fences of a bush did, by the plots as they were counted last.
 * @param records of the bush that hold @param today ISO date @returns null where no plot lies inside a fence
 */
export function fencesWorked(records: readonly BushRecord[], today: string): FenceEffect | null {
  const counted = records
    .filter((record): record is SeedlingsRecord => record.kind === 'seedlings')
    .sort((a, b) => a.on.localeCompare(b.on));
  const fenced = counted.find((plot) => plot.fenced);
  if (!fenced) return null;
  const last = new Map(counted.map((plot) => [`${plot.standId} ${plot.name}`, plot]));
  return fenceEffect([...last.values()], Number(today.slice(0, 4)) - Number(fenced.on.slice(0, 4)));
}
