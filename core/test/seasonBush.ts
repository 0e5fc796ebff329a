import { asRecords, weatherOf } from '../src/bush/index.ts';
import { isMaple } from '../src/identify/index.ts';
import { seededRng } from '../src/math/index.ts';
import {
  type BushRecord,
  type BushRecordInput,
  bushRecordSchema,
  deriveTree,
  type PipeLineRecord,
  recordSchema,
  standSchema,
  treeRow,
  type TreeRow,
  type WorkRecord
} from '../src/records/index.ts';
import { dayAfter, type WeatherDay } from '../src/season/index.ts';

/* Records as a bush would have them, for the tests of its season. */
export const id = (n: number) => `00000000-0000-4000-9000-${String(n).padStart(12, '0')}`;
let made = 5000;
export const SEASON = 2027;

export type Told = BushRecordInput extends infer R ? (R extends unknown ? Omit<R, 'id' | 'recordedAt'> : never) : never;
export function told(record: Told): BushRecord {
  return bushRecordSchema.parse({ id: id(++made), recordedAt: `${record.on}T10:00:00.000Z`, ...record });
}
/** A lateral of no place, with whatever else is said of it. */
export const pipe = (name: string, fields: object): PipeLineRecord =>
  told({
    kind: 'pipeLine',
    on: '2027-02-01',
    name,
    use: 'lateral',
    boreMm: 7.9,
    held: 'hand',
    spanM: 3,
    points: [
      [0, 30],
      [20, 30]
    ],
    drops: [],
    ...fields
  } as Told) as PipeLineRecord;
/** What was levelled along a line: places in metres, and heights. */
export const levelled = (
  lineId: string,
  heights: readonly (readonly [alongM: number, heightM: number])[]
): BushRecord =>
  told({
    kind: 'levelling',
    on: '2027-02-02',
    lineId,
    method: 'level',
    heights: heights.map(([alongM, heightM]) => ({ alongM, heightM }))
  } as Told);
/** Drops of trees by their numbers. */
export const drops = (...many: number[]) => many.map((n) => ({ treeId: id(n), dropMm: 750 }));
export const weather = (
  source: 'typed' | 'thermometer' | 'station' | 'forecast',
  days: readonly WeatherDay[],
  on = '2027-03-10'
): BushRecord[] => asRecords(days).map((part) => told({ kind: 'weather', on, source, place: `a ${source}`, ...part }));

/** A spring of no place: colder first, warmer later, with spells. */
export function spring(season: number, seed = season): WeatherDay[] {
  const rng = seededRng(seed);
  let spell = 0;
  return Array.from({ length: 151 }, (_, at) => {
    spell = 0.7 * spell + rng.normal(0, 2);
    const middle = -9 + 0.19 * at + spell;
    return {
      on: dayAfter(`${season}-01-01`, at),
      minC: Number((middle - 5).toFixed(1)),
      maxC: Number((middle + 5).toFixed(1))
    };
  });
}
/** Springs before the season, as a station measured them. */
export const YEARS = [2019, 2020, 2021, 2022, 2023, 2024, 2025, 2026];
/** What is known on a day: those springs, and this one up to the day before. */
export const knownOn = (today: string) =>
  weatherOf(
    [
      ...YEARS.flatMap((season) => weather('station', spring(season), today)),
      ...weather(
        'thermometer',
        spring(SEASON).filter(({ on }) => on < today),
        today
      )
    ],
    today
  );
export const days = (from: string, many: number, minC: number, maxC: number): WeatherDay[] =>
  Array.from({ length: many }, (_, i) => ({ on: dayAfter(from, i), minC, maxC }));

export const STANDS = [
  standSchema.parse({ id: id(901), name: 'Sun', purpose: 'syrup', areaHa: 1, sun: 'sunny' }),
  standSchema.parse({ id: id(902), name: 'Shade', purpose: 'syrup', areaHa: 1, sun: 'shady' })
];
let written = 100_000;
/** An id that no other record of the tests has. */
export const another = (): string => id(++written);
export function tree(
  n: number,
  of: {
    species?: 'sugarMaple' | 'redMaple' | 'paperBirch' | 'walnut';
    stand?: number;
    taps?: number;
    drilledOn?: string;
    pulled?: number;
    dbhMm?: number | null;
    at?: readonly [number, number];
    more?: readonly object[];
  } = {}
): { records: WorkRecord[]; row: TreeRow } {
  const { species = 'sugarMaple', stand = 901, taps = 1, drilledOn, pulled, dbhMm = 420, at = [n, 0], more = [] } = of;
  const record = (on: string, fields: object) =>
    recordSchema.parse({ id: id(++written), treeId: id(n), on, recordedAt: `${on}T10:00:00.000Z`, ...fields });
  const records = [
    record('2020-05-01', { kind: 'entry', tag: String(n), standId: id(stand) }),
    record('2020-05-01', { kind: 'place', eastM: at[0], northM: at[1], quality: 'surveyed' }),
    record('2020-05-02', {
      kind: 'determination',
      verdict: isMaple(species) ? 'settled' : 'notMaple',
      species,
      probability: 1,
      age: 'grown',
      basis: 'declared',
      lookSeason: null,
      evidence: {}
    }),
    ...(dbhMm === null
      ? []
      : [
          record('2026-10-02', {
            kind: 'reading',
            quantity: 'diameter',
            valueMm: dbhMm,
            asWritten: '42 cm',
            method: 'diameterTape',
            heightMm: 1300
          })
        ]),
    record('2026-12-02', { kind: 'decision', season: SEASON, taps, suggested: taps, binding: 'size' }),
    ...(drilledOn
      ? Array.from({ length: taps }, (_, k) =>
          record(drilledOn, {
            kind: 'taphole',
            season: SEASON,
            bearingDeg: 90 * k,
            heightMm: 1000,
            bitMm: 7.9375,
            depthMm: 38.1
          })
        )
      : []),
    ...(pulled === undefined ? [] : [record('2027-04-10', { kind: 'pulling', season: SEASON, spouts: pulled })]),
    ...more.map((fields) => record((fields as { on: string }).on, fields))
  ];
  const line = {
    id: id(n),
    tag: String(n),
    tagged: true,
    standId: id(stand),
    stemOf: null,
    walkOrder: n,
    eastM: at[0],
    northM: at[1],
    positionQuality: 'surveyed' as const,
    positionAccuracyM: null
  };
  return { records, row: treeRow(line, deriveTree(records, { season: SEASON, today: '2027-03-10' })) };
}
