import { mean } from '../math/index.ts';
import type { BushRecord, BushSettings, CollectingPlaceRecord } from '../records/index.ts';
import { LITRES_AT_FULL, type StainedPlace } from '../season/index.ts';
import { stainedOf } from '../trunk/index.ts';
import { collectionsToLearn } from './collecting.ts';
import type { DrilledHole } from './drilledHoles.ts';
import type { BushWeather } from './weather.ts';

/**
 * What came out of places all of whose holes were looked at while they were drilled: a single tree's bucket, or a few.
 * @param records of the bush that hold @param holes of each tree that was tapped
 */
export function stainedPlaces(
  records: readonly BushRecord[],
  holes: ReadonlyMap<string, readonly DrilledHole[]>,
  weather: Pick<BushWeather, 'past'>,
  settings: Pick<BushSettings, 'vessel' | 'vacuum'>
): StainedPlace[] {
  const places = new Map(
    records
      .filter((record): record is CollectingPlaceRecord => record.kind === 'collectingPlace')
      .map((place) => [place.id, place])
  );
  const sums = new Map<string, { -readonly [K in keyof StainedPlace]: StainedPlace[K] } & { expected: number }>();
  for (const { place: placeId, season, taps, litres, share } of collectionsToLearn(records, weather, settings)) {
    const place = places.get(placeId);
    if (!place || share <= 0) continue;
    const drilled = place.treeIds.flatMap((id) => (holes.get(id) ?? []).filter(({ hole }) => hole.season === season));
    const stained = drilled.flatMap(({ shavings }) => (shavings ? stainedOf(shavings) : []));
    // Trees may have come to it or gone since; and a hole that nobody looked at may be of any wood.
    if (drilled.length !== taps || stained.length !== taps) continue;
    const key = `${placeId} ${season}`;
    const sum = sums.get(key) ?? { place: placeId, season, taps, stained: mean(stained), came: 0, expected: 0 };
    sum.came += litres / taps;
    sum.expected += share * LITRES_AT_FULL;
    sums.set(key, sum);
  }
  return [...sums.values()].map(({ expected, came, ...told }) => ({ ...told, came: came / expected }));
}
