import { sum } from 'd3-array';

import type { BushRecord, BushSettings, CollectionRecord } from '../records/index.ts';
import { blended } from '../sap/index.ts';
import { collectionsOf, collectionsToLearn, learnedFrom } from './collecting.ts';
import { expectedSyrup } from './sapStore.ts';
import type { BushWeather } from './weather.ts';

/** What a season amounted to, as far as it was written down. */
export interface SeasonReckoning {
  readonly season: number;
  /** taps by what ran into the places at their last emptying; null where nobody knew */
  readonly taps: number | null;
  readonly sapLitres: number;
  readonly pouredLitres: number;
  /** sugar of the sap that was read, per cent; null where nobody did */
  readonly brix: number | null;
  readonly syrupLitres: number;
  /** what the sap should have given by the mass balance, litres */
  readonly possibleLitres: number;
  /** sap used as sap, litres */
  readonly usedAsSap: number;
  readonly woodM3: number;
  /** of boiling, and of all work that was written down, hours of one person */
  readonly fireHours: number;
  readonly hours: number;
  readonly batches: number;
  readonly firstOn: string | null;
  readonly lastOn: string | null;
  /** bottles by what became of them, litres */
  readonly bottled: Readonly<Record<'kept' | 'given' | 'sold', number>>;
}

/** What the seasons of a bush amounted to, the latest first. @param records of the bush that hold */
export function reckonings(records: readonly BushRecord[]): SeasonReckoning[] {
  const seasons = new Set(
    records.flatMap((record) =>
      record.kind === 'collection' ? [Number(record.on.slice(0, 4))] : record.kind === 'batch' ? [record.season] : []
    )
  );
  return [...seasons].sort((a, b) => b - a).map((season) => reckoningOf(records, season));
}

function reckoningOf(records: readonly BushRecord[], season: number): SeasonReckoning {
  const collections = collectionsOf(records, season);
  const batches = records.filter((record) => record.kind === 'batch').filter((record) => record.season === season);
  const maple = batches.filter(({ of }) => of === 'maple');
  const work = records
    .filter((record) => record.kind === 'workHours')
    .filter(({ on }) => on.startsWith(String(season)));
  const read = collections.filter(({ brix, litres }) => brix !== null && litres > 0);
  const taps = sum([...new Map(collections.map((each) => [each.placeId, each.taps])).values()]);
  const litresThat = (went: 'kept' | 'pouredAway') =>
    sum(
      collections.filter((each) => each.went === went),
      ({ litres }) => litres
    );
  const sapThat = (became: 'usedAsSap' | 'pouredAway') =>
    sum(
      batches.filter((each) => each.became === became),
      ({ sapLitres }) => sapLitres
    );
  const bottled = { kept: 0, given: 0, sold: 0 };
  for (const { litres, many, went } of batches.flatMap(({ bottles }) => bottles)) bottled[went] += litres * many;
  return {
    season,
    taps: taps > 0 ? taps : null,
    sapLitres: litresThat('kept'),
    pouredLitres: litresThat('pouredAway') + sapThat('pouredAway'),
    brix: read.length > 0 ? blended(read.map(({ litres, brix }) => ({ litres, brix: brix! }))).brix : null,
    syrupLitres: sum(maple, ({ syrupLitres }) => syrupLitres ?? 0),
    possibleLitres: sum(maple, (each) => expectedSyrup(each)?.litres ?? 0),
    usedAsSap: sapThat('usedAsSap'),
    woodM3: sum(batches, ({ woodM3 }) => woodM3 ?? 0),
    fireHours: sum(batches, ({ hours }) => hours ?? 0),
    hours: sum(work, ({ people, hours }) => people * hours),
    batches: batches.length,
    firstOn: collections[0]?.on ?? null,
    lastOn: collections.at(-1)?.on ?? null,
    bottled
  };
}

/** What one place gave in a season, against what weather and the bush's own log let expect of its taps. */
export interface PlaceReckoning {
  /** null: what was emptied for the whole bush together */
  readonly placeId: string | null;
  readonly name: string;
  readonly taps: number;
  readonly litres: number;
  /** litres that such taps should have given between its emptyings; null where nobody can tell */
  readonly expected: number | null;
  readonly emptied: number;
}

/**
 * The places of a season, those that gave least of what they should first.
 * @param records of the bush that hold
 */
export function placeReckonings(
  records: readonly BushRecord[],
  weather: Pick<BushWeather, 'past'>,
  { season, settings }: { readonly season: number; readonly settings: Pick<BushSettings, 'vessel' | 'vacuum'> }
): PlaceReckoning[] {
  const learned = learnedFrom(records, weather, settings);
  const names = new Map(
    records.flatMap((record) => (record.kind === 'collectingPlace' ? [[record.id, record.name] as const] : []))
  );
  const told = collectionsToLearn(records, weather, settings).filter((each) => each.season === season);
  const level = learned.litresAtFull * (learned.seasons.get(season)?.factor ?? 1);
  const byPlace = new Map<string | null, CollectionRecord[]>();
  for (const record of collectionsOf(records, season))
    byPlace.set(record.placeId, [...(byPlace.get(record.placeId) ?? []), record]);
  const places = [...byPlace].map(([placeId, emptied]): PlaceReckoning => {
    const own = told.filter(({ place }) => place === (placeId ?? ''));
    // Against a place like all: what makes this one another is what is looked for.
    const expected = sum(
      own,
      ({ taps, share, closed }) => taps * share * level * Math.exp(-closed * (learned.closing.factor - 1))
    );
    const litres = sum(emptied, (each) => each.litres);
    const heard = sum(own, (each) => each.litres);
    return {
      placeId,
      name: placeId === null ? 'all together' : (names.get(placeId) ?? 'a place that is gone'),
      taps: emptied.at(-1)!.taps,
      litres,
      // What ran over or had rain in it tells nothing: it counts as what was expected of it would.
      expected: own.length > 0 && heard > 0 ? (expected * litres) / heard : null,
      emptied: emptied.length
    };
  });
  const share = ({ litres, expected }: PlaceReckoning) => (expected === null ? Infinity : litres / expected);
  return places.sort((a, b) => share(a) - share(b));
}
