import { sum } from 'd3-array';

import type { OtherSap } from '../identify/index.ts';
import { seededRng, weightedQuantile } from '../math/index.ts';
import {
  isSugarbush,
  sapOf,
  tapsToHang,
  type BushRecord,
  type BushSettings,
  type Stand,
  type TreeRow
} from '../records/index.ts';
import { boiledTo } from '../sap/index.ts';
import { OTHER_SAP_FACTS, risingDays, scenariosOf, type RisingDays } from '../season/index.ts';
import { collectionsOf } from './collecting.ts';
import { dayAt, knownWeather } from './seasonOutlook.ts';
import { suggestionFor } from './suggestion.ts';
import type { BushWeather } from './weather.ts';

/** A tree whose sap is no maple's, with what it bears. */
export interface OtherTree {
  readonly row: TreeRow;
  /** what is suggested where the bush taps its kind; null where it was not measured */
  readonly suggested: number | null;
  /** decided, and not put in doubt since */
  readonly decided: number;
}

/** The standing trees of a kind that have a tag, in stands that are kept for syrup or in none, the thickest first. */
export function otherTrees(
  kind: OtherSap,
  rows: readonly TreeRow[],
  of: {
    readonly stands: readonly Stand[];
    readonly settings: BushSettings;
    readonly season: number;
    /** ISO date */
    readonly today: string;
  }
): OtherTree[] {
  const { stands, season, today } = of;
  const settings = { ...of.settings, alsoTaps: [kind] };
  const byId = new Map(stands.map((stand) => [stand.id, stand]));
  return rows
    .filter((row) => sapOf(row) === kind && !row.cut && row.tagged !== false)
    .flatMap((row): OtherTree[] => {
      const stand = row.standId === null ? null : (byId.get(row.standId) ?? null);
      if (!isSugarbush(stand)) return [];
      const suggested = row.dbhMm === null ? null : suggestionFor(row, { settings, season, today, stand }, null).taps;
      return [{ row, suggested, decided: tapsToHang(row, stand, today) }];
    })
    .sort((a, b) => (b.row.dbhMm ?? 0) - (a.row.dbhMm ?? 0));
}

/** A day as far as it can be told: in nine of ten ways not before, as likely before as after, and in nine of ten not after. ISO dates. */
export interface LikelyDay {
  readonly early: string;
  readonly usual: string;
  /** null where that lies beyond the end of May */
  readonly late: string | null;
}

/** When sap rises that needs no frost. */
export interface OtherSeason {
  /** null where most ways do not come so far by the end of May */
  readonly from: LikelyDay | null;
  readonly until: LikelyDay | null;
  /** seasons that it is told from */
  readonly years: number;
}

/** When the sap of a kind rises this year: by the warmth that came, what is foretold, and how other years went on. @returns null where it runs with the maples */
export function otherSeason(
  kind: OtherSap,
  weather: BushWeather,
  { season, today }: { readonly season: number; /** ISO date */ readonly today: string }
): OtherSeason | null {
  const { risesBetween } = OTHER_SAP_FACTS[kind];
  if (!risesBetween) return null;
  const known = knownWeather(weather, { season, today });
  const ways = scenariosOf(known, { species: null, sunny: false }, seededRng(season));
  const told = ways.map(({ course, weight }) => ({ ...risingDays(course, risesBetween), weight }));
  const all = sum(told, ({ weight }) => weight);
  const day = (which: keyof RisingDays): LikelyDay | null => {
    // Days that never come are the last of all.
    const days = told.map((way) => ({ value: way[which] ?? Infinity, weight: way.weight / all }));
    const at = (share: number) => {
      const value = weightedQuantile(days, share);
      return Number.isFinite(value) ? dayAt(season, value) : null;
    };
    const [early, usual, late] = [at(0.1), at(0.5), at(0.9)];
    return early === null || usual === null ? null : { early, usual, late };
  };
  return { from: day('from'), until: day('until'), years: known.years.length };
}

/** What a kind gave in a season, as far as it was written down, litres; and what so many taps may give. */
export interface OtherYear {
  readonly sapLitres: number;
  readonly syrupLitres: number;
  /** litres of sap that made a litre of syrup; null where none was made */
  readonly ratio: number | null;
}

/** What a kind gave in a season. @param records of the bush that hold */
export function otherYear(kind: OtherSap, records: readonly BushRecord[], season: number): OtherYear {
  const batches = records
    .filter((record) => record.kind === 'batch')
    .filter((record) => record.season === season && record.of === kind && record.syrupLitres !== null);
  const syrupLitres = sum(batches, (batch) => batch.syrupLitres ?? 0);
  const boiled = sum(batches, (batch) => batch.sapLitres);
  return {
    sapLitres: sum(
      collectionsOf(records, season, kind).filter(({ went }) => went === 'kept'),
      ({ litres }) => litres
    ),
    syrupLitres,
    ratio: syrupLitres > 0 ? boiled / syrupLitres : null
  };
}

/** Litres of sap to a litre of syrup by its usual sugar, and at the ends of what it has. @param finishBrix per cent */
export function otherRatio(kind: OtherSap, finishBrix: number): { low: number; usual: number; high: number } {
  const { brix } = OTHER_SAP_FACTS[kind];
  const ratio = (of: number) => 100 / boiledTo({ litres: 100, brix: of }, finishBrix).syrup.litres;
  return { low: ratio(brix.high), usual: ratio(brix.usual), high: ratio(brix.low) };
}
