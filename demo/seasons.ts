import { asRecords, yearsKnown } from '@baumkin/core/bush';
import { seededRng, type Rng } from '@baumkin/core/math';
import type { BushRecordInput, RecordInput, Stand } from '@baumkin/core/records';
import { blended, boiledTo, type Sugared } from '@baumkin/core/sap';
import { ageing, courseOf, daysBetween, drillingDay, HOLE_LIVES, runIndex, RUNS_FROM } from '@baumkin/core/season';

import { dayAtStation, dayInBush, foretold, later } from './climate.ts';
import { envelopeOf, round, type TaggedTree } from './draw.ts';
import { LinesAsTheyAre } from './lineCare.ts';
import { notedOnTrunks, pipeLines } from './pipeLines.ts';
import { watchedLog, watchedTrees } from './watched.ts';

/** Ten springs of the station, and since when the bush has a thermometer. */
const STATION_SINCE = '2016-12-01';
const THERMOMETER_SINCE = '2024-01-05';
/** Seasons of which the bush has a log. */
const LOGGED = [2022, 2023, 2024, 2025, 2026];
const SEED = 1803;
/** A round took so many days. */
const ROUND_DAYS = 8;

/** What is true of the taps, whether anybody finds it out or not. */
const TRUTH = {
  litresAtFull: 4.7,
  lifeDays: 33,
  dayNoise: 0.16,
  leak: { since: '2026-03-04', until: '2026-10-20', keeps: 0.55 }
};
const SEASON_FACTORS: Readonly<Record<number, number>> = { 2022: 1.05, 2023: 0.9, 2024: 1.12, 2025: 0.97, 2026: 1 };

interface TruePlace {
  readonly id: string;
  readonly name: string;
  readonly factor: number;
  readonly trees: readonly TaggedTree[];
  readonly vessel: 'bucket' | 'tank';
  readonly litres: number;
  readonly leaks: boolean;
}

/** What five seasons wrote down: weather, places, what was emptied and boiled, the days that were chosen, the signs at their end. */
export function seasons(
  trees: readonly TaggedTree[],
  records: readonly RecordInput[],
  stands: readonly Stand[],
  { uuid, today }: { readonly uuid: () => string; readonly today: string }
): { records: RecordInput[]; ofBush: BushRecordInput[] } {
  const rng = seededRng(SEED);
  const bare = (on: string, hour = 18) => {
    const { id, recordedAt } = envelopeOf('', uuid, hour)(on);
    return { id, on, recordedAt };
  };
  const holes = records.filter((record) => record.kind === 'taphole');
  const tapped = (season: number) => new Set(holes.flatMap((hole) => (hole.season === season ? hole.treeId : [])));
  const tappedTrees = trees.filter(({ id }) => tapped(LOGGED.at(-1)!).has(id));
  // Among the west buckets.
  const watched = watchedTrees(inStand(tappedTrees, stands[0]!, 0.35), records, LOGGED.at(-1)!);
  const places = placesOf(
    tappedTrees.filter((each) => !watched.some(({ tree }) => tree === each)),
    stands,
    uuid
  );
  const ofBush: BushRecordInput[] = [
    ...weatherUntil(today, bare),
    ...places.map((place): BushRecordInput => ({
      ...bare('2021-11-06'),
      kind: 'collectingPlace',
      name: place.name,
      vessel: place.vessel,
      vacuum: false,
      litres: place.litres,
      vessels: place.vessel === 'tank' ? 1 : null,
      carrier: place.vessel === 'tank' ? 'vehicle' : 'hand',
      treeIds: place.trees.map(({ id }) => id),
      note: '',
      id: place.id
    }))
  ];
  const onLines = places.find(({ vessel }) => vessel === 'tank');
  const laid = onLines ? pipeLines(onLines, bare) : [];
  const lines = new LinesAsTheyAre(laid, holes);
  ofBush.push(...laid);
  const current = Number(today.slice(0, 4));
  for (const season of [...LOGGED, ...(current > 2026 && today.slice(5) > '02-01' ? [current] : [])]) {
    const drilled = drilledOn(holes, season);
    if (drilled === null || drilled >= today) continue;
    ofBush.push(chosen(season, drilled, bare));
    const taps = new Map(
      places.map((place) => {
        const ids = new Set(place.trees.map(({ id }) => id));
        return [place.id, holes.filter((hole) => hole.season === season && ids.has(hole.treeId)).length];
      })
    );
    ofBush.push(...logOf(season, { places, lines, taps, drilled, today, rng, bare }));
  }
  const besides = places[0]!.id;
  ofBush.push(
    ...watchedLog(
      watched,
      ofBush.filter((record) => record.kind === 'collection' && record.placeId === besides),
      bare
    ),
    ...lines.writtenDown(today, rng, bare)
  );
  return {
    records: [
      ...hung(trees, tapped(LOGGED.at(-1)!), uuid),
      ...lines.spoutsSet(uuid, today),
      ...notedOnTrunks(laid, trees, uuid),
      ...closings(trees, holes, uuid)
    ],
    ofBush
  };
}

/** Trees of a stand, or the first share of them. */
function inStand(trees: readonly TaggedTree[], stand: Stand, share = 1): TaggedTree[] {
  const own = trees.filter(({ standId }) => standId === stand.id);
  return own.slice(0, Math.floor(share * own.length));
}

/** The buckets of two parts of the Upper Bush, the tank under its steep side, and the buckets along the brook. */
function placesOf(trees: readonly TaggedTree[], stands: readonly Stand[], uuid: () => string): TruePlace[] {
  const upper = inStand(trees, stands[0]!);
  const part = (from: number, until: number) =>
    upper.slice(Math.floor(from * upper.length), Math.floor(until * upper.length));
  return [
    {
      id: uuid(),
      name: 'Upper Bush, west buckets',
      factor: 1.1,
      trees: part(0, 0.35),
      vessel: 'bucket',
      litres: 13,
      leaks: false
    },
    {
      id: uuid(),
      name: 'Upper Bush, east buckets',
      factor: 0.95,
      trees: part(0.35, 0.7),
      vessel: 'bucket',
      litres: 13,
      leaks: false
    },
    {
      id: uuid(),
      name: 'Tank at the steep side',
      factor: 1.05,
      trees: part(0.7, 1),
      vessel: 'tank',
      litres: 500,
      leaks: true
    },
    {
      id: uuid(),
      name: 'Brook Bottom buckets',
      factor: 0.85,
      trees: inStand(trees, stands[1]!),
      vessel: 'bucket',
      litres: 13,
      leaks: false
    }
  ];
}

type Bare = (on: string, hour?: number) => Pick<BushRecordInput, 'id' | 'on' | 'recordedAt'>;

/** The station's file, the thermometer's days, and the forecasts that were kept in two seasons. */
function weatherUntil(today: string, bare: Bare): BushRecordInput[] {
  const days = <D>(from: string, tell: (on: string) => D) =>
    Array.from({ length: Math.max(0, daysBetween(from, today)) }, (_, i) => tell(later(from, i)));
  const weather = (source: 'station' | 'thermometer' | 'forecast', place: string) => ({
    kind: 'weather' as const,
    source,
    place
  });
  return [
    ...asRecords(days(STATION_SINCE, dayAtStation)).map((record) => ({
      ...bare(today < '2026-11-20' ? today : '2026-11-20'),
      ...weather('station', 'Lower Corran'),
      ...record
    })),
    ...asRecords(days(THERMOMETER_SINCE, dayInBush)).map((record) => ({
      ...bare(today),
      ...weather('thermometer', 'thermometer at the sugarhouse, simulated'),
      ...record
    })),
    ...[2025, 2026].flatMap((season) =>
      Array.from({ length: 24 }, (_, i) => later(`${season}-02-15`, 2 * i)).map((madeOn) => ({
        ...bare(madeOn, 6),
        ...weather('forecast', 'Lower Corran, simulated service'),
        ...asRecords(Array.from({ length: 10 }, (_, ahead) => foretold(madeOn, ahead)))[0]!
      }))
    )
  ];
}

/** The day on which half of a season's holes were made. */
function drilledOn(holes: readonly RecordInput[], season: number): string | null {
  const days = holes.flatMap((hole) => (hole.kind === 'taphole' && hole.season === season ? hole.on : [])).sort();
  return days[Math.floor(days.length / 2)] ?? null;
}

/** The day on which the round was begun, with what the station's years before let expect of it. */
function chosen(season: number, drilled: string, bare: Bare): BushRecordInput {
  const beginOn = later(drilled, -4);
  const days = Array.from({ length: daysBetween(STATION_SINCE, `${season}-01-01`) }, (_, i) =>
    dayAtStation(later(STATION_SINCE, i))
  );
  const courses = yearsKnown(days, season).flatMap(
    (year) => courseOf(year, { species: 'sugarMaple', sunny: false }) ?? []
  );
  const { starts, best } = drillingDay(courses, { days: ROUND_DAYS, lifeDays: HOLE_LIVES.bucket });
  const expected = starts.find(({ day }) => day === daysBetween(`${season}-01-01`, beginOn));
  return {
    ...bare(later(beginOn, -9)),
    kind: 'drillingChoice',
    season,
    group: 'late',
    beginOn,
    days: ROUND_DAYS,
    expectedLitres: round(expected?.litres ?? 0, 1),
    bestOn: later(`${season}-01-01`, best.day),
    bestLitres: round(best.litres, 1),
    note: ''
  };
}

interface Log {
  readonly places: readonly TruePlace[];
  readonly lines: LinesAsTheyAre;
  readonly taps: ReadonlyMap<string, number>;
  readonly drilled: string;
  readonly today: string;
  readonly rng: Rng;
  readonly bare: Bare;
}

/** One season's log: places emptied when it was worth it, batches of what came, signs, hours, and the end. */
function logOf(season: number, { places, lines, taps, drilled, today, rng, bare }: Log): BushRecordInput[] {
  const log: BushRecordInput[] = [];
  const inVessel = new Map<string, number>();
  let store: Sugared[] = [];
  let dry = 0;
  for (let on = drilled; on < today && on < `${season}-04-25`; on = later(on, 1)) {
    const day = dayInBush(on);
    const index = runIndex(day);
    const age = daysBetween(drilled, on);
    dry = index < RUNS_FROM ? dry + 1 : 0;
    // Somebody was ill for four days in 2025, and nobody went to the brook.
    const missed = (place: TruePlace) =>
      season === 2025 && on >= '2025-03-18' && on <= '2025-03-21' && place === places.at(-1);
    for (const place of places) {
      const { since, until, keeps } = TRUTH.leak;
      const leak = !place.leaks ? 1 : on >= since && on < until ? keeps : lines.keeps(on);
      const litresATap =
        TRUTH.litresAtFull *
        place.factor *
        (SEASON_FACTORS[season] ?? 1) *
        index *
        ageing(age, TRUTH.lifeDays) *
        Math.exp(rng.normal(0, TRUTH.dayNoise)) *
        leak;
      const many = taps.get(place.id) ?? 0;
      const holds = place.litres * (place.vessel === 'tank' ? 1 : many);
      const before = (inVessel.get(place.id) ?? 0) + many * litresATap;
      const ranOver = before > holds;
      const litres = round(Math.min(holds, before), 0);
      inVessel.set(place.id, litres);
      if (many === 0 || litres < 0.6 * many || missed(place)) continue;
      inVessel.set(place.id, 0);
      const brix = round(Math.max(1.2, 2.5 - 0.016 * age + rng.normal(0, 0.12)), 1);
      log.push({
        ...bare(on, 17),
        kind: 'collection',
        placeId: place.id,
        hour: 16 + round(2 * rng.uniform(), 1),
        litres,
        taps: many,
        drilledOn: drilled,
        brix,
        look: age > 38 && day.maxC > 12 ? 'cloudy' : 'clear',
        ranOver,
        went: 'kept'
      });
      store.push({ litres, brix });
    }
    const stored = store.reduce((sum, { litres }) => sum + litres, 0);
    if (stored > 700 || (stored > 150 && dry > 1)) {
      log.push(batchOf(season, on, { sap: blended(store), age, rng, bare }));
      log.push({
        ...bare(on, 20),
        kind: 'workHours',
        work: 'boiling',
        people: 2,
        hours: round(5 + 3 * rng.uniform(), 1)
      });
      store = [];
    }
    if (litresToday(log, on) > 0)
      log.push({
        ...bare(on, 19),
        kind: 'workHours',
        work: 'collecting',
        people: 2,
        hours: round(1 + litresToday(log, on) / 250, 1)
      });
    // Three nights without frost late in the season end it.
    if (age > 30 && dry >= 3) {
      if (on < today) {
        log.push({ ...bare(on), kind: 'seasonSign', standId: null, sign: 'budsSwollen', species: null });
        log.push({ ...bare(on), kind: 'seasonEnd', season, group: 'all' });
      }
      break;
    }
  }
  return log;
}

const litresToday = (log: readonly BushRecordInput[], on: string) =>
  log.reduce((sum, record) => sum + (record.kind === 'collection' && record.on === on ? record.litres : 0), 0);

/** A litre of syrup takes so much stacked wood on an open pan, m³. */
const WOOD_M3_A_LITRE = 0.03;
const PAN_LITRES_AN_HOUR = 62;

function batchOf(
  season: number,
  on: string,
  { sap, age, rng, bare }: { sap: Sugared; age: number; rng: Rng; bare: Bare }
): BushRecordInput {
  const { syrup, waterKg } = boiledTo(sap, 66);
  const litres = round(syrup.litres * (0.95 + 0.03 * rng.uniform()), 1);
  return {
    ...bare(on, 21),
    kind: 'batch',
    season,
    of: 'maple',
    sapLitres: round(sap.litres, 0),
    sapBrix: round(sap.brix, 2),
    became: 'syrup',
    syrupLitres: litres,
    syrupBrix: round(66 + rng.normal(0, 0.3), 1),
    hours: round(waterKg / (PAN_LITRES_AN_HOUR * Math.exp(rng.normal(0, 0.08))), 1),
    woodM3: round(litres * WOOD_M3_A_LITRE * Math.exp(rng.normal(0, 0.1)), 2),
    waterBoilsC: round(98.9 + rng.normal(0, 0.3), 1),
    colour: age < 12 ? 'golden' : age < 25 ? 'amber' : age < 36 ? 'dark' : 'veryDark',
    bottles: [
      { litres: 0.5, many: Math.max(1, Math.floor(litres * 1.2)), went: 'kept' },
      { litres: 0.25, many: Math.max(1, Math.floor(litres)), went: 'sold' }
    ],
    note: ''
  };
}

/** At a few trees, whose spouts were set in soft snow, buckets were hung the day after. */
function hung(trees: readonly TaggedTree[], tapped: ReadonlySet<string>, uuid: () => string): RecordInput[] {
  return trees
    .filter(({ id }) => tapped.has(id))
    .slice(0, 5)
    .map(({ id }): RecordInput => ({
      ...envelopeOf(id, uuid)('2026-02-25'),
      kind: 'hanging',
      season: 2026,
      note: 'spouts set the day before'
    }));
}

/** A sample of trees was looked at in the last two summers: how far their holes have closed. */
function closings(trees: readonly TaggedTree[], holes: readonly RecordInput[], uuid: () => string): RecordInput[] {
  const rng = seededRng(SEED + 1);
  return [2025, 2026].flatMap((year) => {
    const open = trees.filter(({ id }) =>
      holes.some(
        (hole) => hole.kind === 'taphole' && hole.treeId === id && hole.season >= year - 2 && hole.season <= year
      )
    );
    return open
      .filter((_, i) => i % 3 === year % 3)
      .slice(0, 50)
      .map(({ id }): RecordInput => ({
        ...envelopeOf(id, uuid)(`${year}-08-${String(18 + Math.floor(8 * rng.uniform()))}`),
        kind: 'closing',
        holes: holes.flatMap((hole) => {
          if (hole.kind !== 'taphole' || hole.treeId !== id || hole.season < year - 2 || hole.season > year) return [];
          const gapMm = round(Math.max(0, 7.9 - (3.4 + rng.normal(0, 0.9)) * (year - hole.season + 1)), 1);
          return [{ tapholeId: hole.id, state: gapMm === 0 ? 'closed' : gapMm < 2 ? 'slit' : 'open', gapMm }] as const;
        })
      }));
  });
}
