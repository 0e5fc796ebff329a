import { sum } from 'd3-array';

import type { BushRecord } from '../records/index.ts';
import { blended } from '../sap/index.ts';
import { collectionsOf } from './collecting.ts';
import { expectedSyrup } from './sapStore.ts';

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
