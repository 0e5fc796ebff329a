import { sum } from 'd3-array';

import type { BushRecord, BushSettings, CollectionRecord } from '../records/index.ts';
import { blended } from '../sap/index.ts';
import { calibrate, type Calibration, type Collection } from '../season/index.ts';
import { collectionsOf, collectionsToLearn } from './collecting.ts';
import { expectedSyrup } from './sapStore.ts';
import type { BushWeather } from './weather.ts';

/** What a season of the maples amounted to, as far as it was written down. */
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

/** What the seasons of a bush's maples amounted to, the latest first. @param records of the bush that hold */
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
  // Birch and walnut are told by themselves: none counts as maple but maple.
  const batches = records
    .filter((record) => record.kind === 'batch')
    .filter((record) => record.season === season && record.of === 'maple');
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
    syrupLitres: sum(batches, ({ syrupLitres }) => syrupLitres ?? 0),
    possibleLitres: sum(batches, (each) => expectedSyrup(each)?.litres ?? 0),
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
  const told = collectionsToLearn(records, weather, settings);
  const places = reckonedIn(records, season, { told, learned: calibrate(told) });
  const share = ({ litres, expected }: PlaceReckoning) => (expected === null ? Infinity : litres / expected);
  return places.sort((a, b) => share(a) - share(b));
}

/** What the log of a bush tells, all seasons together. */
interface Log {
  readonly told: readonly Collection[];
  readonly learned: Calibration;
}

function reckonedIn(records: readonly BushRecord[], season: number, { told: all, learned }: Log): PlaceReckoning[] {
  const names = new Map(
    records.flatMap((record) => (record.kind === 'collectingPlace' ? [[record.id, record.name] as const] : []))
  );
  const told = all.filter((each) => each.season === season);
  const level = learned.litresAtFull * (learned.seasons.get(season)?.factor ?? 1);
  const byPlace = new Map<string | null, CollectionRecord[]>();
  for (const record of collectionsOf(records, season))
    byPlace.set(record.placeId, [...(byPlace.get(record.placeId) ?? []), record]);
  return [...byPlace].map(([placeId, emptied]): PlaceReckoning => {
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
}

/** What the trees of one stand gave in a season, as far as places tell it. */
export interface StandReckoning {
  /** null: trees that stand in none, and what was emptied for the whole bush together */
  readonly standId: string | null;
  readonly taps: number;
  readonly litres: number;
  /** litres that such taps should have given; null where nobody can tell that of all of its places */
  readonly expected: number | null;
  /** did a place take sap of other stands too? It was shared out by its trees. */
  readonly shared: boolean;
}

/**
 * The places of a season put together by the stands of their trees, the most taps first.
 * @param records of the bush that hold @param standOf of a tree by its id
 */
export function standReckonings(
  places: readonly PlaceReckoning[],
  records: readonly BushRecord[],
  standOf: (treeId: string) => string | null
): StandReckoning[] {
  const trees = new Map(
    records.flatMap((record) => (record.kind === 'collectingPlace' ? [[record.id, record.treeIds] as const] : []))
  );
  const stands = new Map<string | null, StandReckoning>();
  for (const { placeId, taps, litres, expected } of places) {
    const ids = (placeId !== null && trees.get(placeId)) || [];
    const many = new Map<string | null, number>();
    for (const id of ids) many.set(standOf(id), (many.get(standOf(id)) ?? 0) + 1);
    if (many.size === 0) many.set(null, 1);
    const all = Math.max(1, ids.length);
    for (const [standId, own] of many) {
      const share = own / all;
      const so = stands.get(standId) ?? { standId, taps: 0, litres: 0, expected: 0, shared: false };
      stands.set(standId, {
        standId,
        taps: so.taps + share * taps,
        litres: so.litres + share * litres,
        expected: so.expected === null || expected === null ? null : so.expected + share * expected,
        shared: so.shared || many.size > 1
      });
    }
  }
  return [...stands.values()].sort((a, b) => b.taps - a.taps);
}

/** What a place's sap was in a season, against what was expected of it, and against the others' of the same season. */
export interface PlaceYear {
  readonly season: number;
  readonly placeId: string;
  /** share of what weather and the bush's log let expect; null where nobody can tell */
  readonly litresShare: number | null;
  /** sugar over the mean of all sap of the season that was read, per cent; null where it was not */
  readonly brixOver: number | null;
}

/** The places of all seasons. @param records of the bush that hold */
export function placeYears(
  records: readonly BushRecord[],
  weather: Pick<BushWeather, 'past'>,
  settings: Pick<BushSettings, 'vessel' | 'vacuum'>
): PlaceYear[] {
  const told = collectionsToLearn(records, weather, settings);
  const log = { told, learned: calibrate(told) };
  const seasons = new Set(
    records.flatMap((record) => (record.kind === 'collection' ? [Number(record.on.slice(0, 4))] : []))
  );
  return [...seasons].flatMap((season) => {
    const read = collectionsOf(records, season).filter(({ brix, litres }) => brix !== null && litres > 0);
    const brixOf = (of: readonly CollectionRecord[]) =>
      of.length > 0 ? blended(of.map(({ litres, brix }) => ({ litres, brix: brix! }))).brix : null;
    const all = brixOf(read);
    return reckonedIn(records, season, log).flatMap(({ placeId, litres, expected }): PlaceYear[] => {
      if (placeId === null) return [];
      const own = brixOf(read.filter((each) => each.placeId === placeId));
      return [
        {
          season,
          placeId,
          litresShare: expected === null || expected <= 0 ? null : litres / expected,
          brixOver: own === null || all === null ? null : own - all
        }
      ];
    });
  });
}
