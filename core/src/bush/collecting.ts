import { mean, seededRng } from '../math/index.ts';
import type {
  BushRecord,
  BushSettings,
  CollectingPlaceRecord,
  CollectionRecord,
  SapKind,
  TreeRow
} from '../records/index.ts';
import { turned } from '../sap/index.ts';
import {
  ageing,
  calibrate,
  carrierProblem,
  comesOut,
  courseOf,
  DAY_HOURS,
  daysBetween,
  HOLE_LIVES,
  hourlyShares,
  hourlyTemperatures,
  LOAD_LITRES,
  runIndex,
  runShare,
  snowGone,
  wayOf,
  yearOf,
  type Calibration,
  type Carrier,
  type CollectingPlace,
  type Collection,
  type HoursAhead,
  type RunShare
} from '../season/index.ts';
import { dayOfSeason } from './seasonOutlook.ts';
import type { BushWeather } from './weather.ts';

/** A collecting place, with what runs into it this season. */
export interface PlaceNow {
  readonly place: CollectingPlaceRecord;
  readonly taps: number;
  readonly trees: readonly TreeRow[];
  /** what its vessels hold together, litres */
  readonly holdsLitres: number;
  /** ISO date on which half of its holes were made; null where none are */
  readonly drilledOn: string | null;
  /** the last time that it was emptied this season; null where it was not yet */
  readonly last: CollectionRecord | null;
}

/**
 * The places of a bush, by name.
 * @param records of the bush that hold @param of whose sap runs into them
 */
export function placesNow(
  records: readonly BushRecord[],
  rows: readonly TreeRow[],
  season: number,
  of: SapKind = 'maple'
): PlaceNow[] {
  const byId = new Map(rows.map((row) => [row.id, row]));
  const emptied = collectionsOf(records, season, of);
  return records
    .filter((record) => record.kind === 'collectingPlace')
    .filter((place) => place.of === of)
    .map((place): PlaceNow => {
      const trees = place.treeIds.flatMap((id) => byId.get(id) ?? []);
      const tapped = trees.filter(({ drilled }) => drilled > 0);
      const taps = tapped.reduce((sum, { drilled }) => sum + drilled, 0);
      const decided = trees.reduce((sum, { decidedTaps }) => sum + (decidedTaps ?? 0), 0);
      const days = tapped.flatMap(({ drilledOn }) => drilledOn ?? []).sort();
      return {
        place,
        taps,
        trees,
        holdsLitres: place.litres * (place.vessels ?? Math.max(1, taps || decided)),
        drilledOn: days[Math.floor(days.length / 2)] ?? null,
        last: emptied.filter(({ placeId }) => placeId === place.id).at(-1) ?? null
      };
    })
    .sort((a, b) => a.place.name.localeCompare(b.place.name, 'en', { numeric: true }));
}

/**
 * The collections of a season in the order in which they were made: of maple sap, or of another kind, as their place says. What was
 * emptied for the whole bush together is maple.
 */
export function collectionsOf(
  records: readonly BushRecord[],
  season: number,
  of: SapKind = 'maple'
): CollectionRecord[] {
  const others = new Map(
    records.flatMap((record) =>
      record.kind === 'collectingPlace' && record.of !== 'maple' ? [[record.id, record.of] as const] : []
    )
  );
  return records
    .filter(
      (record): record is CollectionRecord => record.kind === 'collection' && record.on.startsWith(String(season))
    )
    .filter(({ placeId }) => ((placeId !== null && others.get(placeId)) || 'maple') === of)
    .sort((a, b) => (a.on === b.on ? a.hour - b.hour : a.on < b.on ? -1 : 1));
}

/** From this hour on what came on a day is in what was collected on it; before it belongs to the days before. Working assumption. */
const DAY_CAME_BY = 15;

/** The day whose sap a collection was the last to hold. */
const heldUntil = ({ on, hour }: Pick<CollectionRecord, 'on' | 'hour'>, season: number) =>
  dayOfSeason(on, season) - (hour < DAY_CAME_BY ? 1 : 0);

/** A collection beside what weather and age say of it. */
export interface LearnedCollection extends Collection, RunShare {
  readonly record: CollectionRecord;
}

/** What weather and age say of every collection of a bush, beside what it gave. @param records of the bush that hold */
export function collectionsToLearn(
  records: readonly BushRecord[],
  weather: Pick<BushWeather, 'past'>,
  settings: Pick<BushSettings, 'vessel' | 'vacuum'>
): LearnedCollection[] {
  const places = new Map(
    records.flatMap((record) => (record.kind === 'collectingPlace' ? [[record.id, record] as const] : []))
  );
  const seasons = new Set(
    records.flatMap((record) => (record.kind === 'collection' ? [Number(record.on.slice(0, 4))] : []))
  );
  return [...seasons].flatMap((season) => {
    const emptied = collectionsOf(records, season);
    const until = Math.max(0, ...emptied.map((record) => heldUntil(record, season) + 1));
    const course = courseOf(yearOf(season, weather.past), { species: null, sunny: false }, [], until);
    if (!course) return [];
    const lastOf = new Map<string | null, number>();
    return emptied.flatMap((record): LearnedCollection[] => {
      const { placeId, taps, drilledOn, litres } = record;
      const drilled = drilledOn === null ? NaN : dayOfSeason(drilledOn, season);
      const after = lastOf.get(placeId) ?? drilled - 1;
      const until = heldUntil(record, season);
      lastOf.set(placeId, until);
      // What ran over, or had rain in it, tells nothing of what the trees gave; nor does what nobody knows the taps of.
      if (Number.isNaN(drilled) || taps === 0 || record.rain || record.ranOver || until <= after) return [];
      const place = placeId === null ? undefined : places.get(placeId);
      const lifeDays = HOLE_LIVES[place ? wayOf(place.vessel, place.vacuum) : wayOf(settings.vessel, settings.vacuum)];
      const share = runShare(course, { drilled, after, until }, lifeDays);
      return [{ place: placeId ?? '', season, species: null, taps, litres, record, ...share }];
    });
  });
}

/** What a bush's own log says of its taps; what common practice says where there is none. */
export const learnedFrom = (...of: Parameters<typeof collectionsToLearn>): Calibration =>
  calibrate(collectionsToLearn(...of));

/** What the next hours of collecting hang on. */
export interface RoundsQuestion {
  readonly weather: BushWeather;
  readonly places: readonly PlaceNow[];
  readonly season: number;
  /** ISO date, and the hour of it, local time */
  readonly today: string;
  readonly hour: number;
  readonly known: Calibration;
  /** litres of sap for which an hour of somebody is worth it */
  readonly litresAnHour: number;
}

/** Ways in which a forecast may come out that rounds are planned over. */
const WAYS = 24;

/** What stands in a place now, as far as weather and log tell it, and how far it has turned. */
export function standsIn(
  now: PlaceNow,
  { weather, today, hour, known, season }: Omit<RoundsQuestion, 'places' | 'litresAnHour'>
) {
  const { place, taps, drilledOn, last } = now;
  if (drilledOn === null) return { litres: 0, turned: 0 };
  const since = last ? last.on : drilledOn;
  const days = [...weather.past.filter(({ on }) => on >= since), ...weather.ahead.filter(({ on }) => on === today)];
  const temperatures = hourlyTemperatures(days);
  const shares = hourlyShares(temperatures);
  const gives = litresADay(place, known, season);
  let [litres, part] = [0, 0];
  for (const [i, day] of days.entries()) {
    const came = taps * gives * runIndex(day) * ageing(daysBetween(drilledOn, day.on), lifeAt(place));
    for (let at = 0; at < DAY_HOURS; at++) {
      if ((last && day.on === last.on && at < last.hour) || (day.on === today && at >= hour)) continue;
      const fresh = came * shares[i * DAY_HOURS + at]!;
      part = litres + fresh > 0 ? (part * litres) / (litres + fresh) : 0;
      litres = Math.min(now.holdsLitres, litres + fresh);
      part += turned([{ tempC: temperatures[i * DAY_HOURS + at]!, hours: 1 }]);
      if (part >= 1 && litres > 0) part = 1;
    }
  }
  return { litres, turned: Math.min(1, part) };
}

const lifeAt = (place: CollectingPlaceRecord) => HOLE_LIVES[wayOf(place.vessel, place.vacuum)];

/** Litres that a fresh tap of a place gives on a day of index 1. */
function litresADay(place: CollectingPlaceRecord, known: Calibration, season: number): number {
  const factors = [known.places.get(place.id), known.seasons.get(season)];
  return factors.reduce((litres, factor) => litres * (factor?.factor ?? 1), known.litresAtFull);
}

/** What stands against the way in which a place's sap is carried today; null where nothing does, or where today is not known. @param snowMm that usually lies at tapping */
export function carryingProblem(
  { place, drilledOn }: PlaceNow,
  { past, ahead }: Pick<BushWeather, 'past' | 'ahead'>,
  snowMm: number
): ReturnType<typeof carrierProblem> {
  const [today] = ahead;
  if (!today) return null;
  const since = drilledOn === null ? [] : past.filter(({ on }) => on >= drilledOn);
  return carrierProblem(place.carrier, today, snowGone(snowMm, since));
}

/** Emptying a vessel takes so many minutes, wherever it hangs. Working assumption. */
export const MINUTES_A_VESSEL = 1.2;
/** A tank is opened and drawn off in so many. Working assumption. */
const MINUTES_A_TANK = 8;
/** People with pails walk so many metres in a minute through snow. Working assumption. */
export const METRES_A_MINUTE = 45;
/** To put boots on, to fetch the pails, and to wash them afterwards, minutes. Working assumption. */
const MINUTES_A_ROUND = 25;

/** What a round of places takes, minutes of one person. */
export interface RoundTime {
  /** trips with a full load, all people together */
  readonly trips: number;
  readonly minutes: number;
}

/** Where a place lies: as it was said, or in the middle of its trees; null where neither is known. */
export function placeAt({ place, trees }: Pick<PlaceNow, 'place' | 'trees'>): { eastM: number; northM: number } | null {
  const { eastM, northM } = place;
  if (eastM !== null && northM !== null) return { eastM, northM };
  const known = trees.flatMap((row) =>
    row.eastM === null || row.northM === null ? [] : [[row.eastM, row.northM] as const]
  );
  return known.length === 0
    ? null
    : { eastM: mean(known.map(([east]) => east)), northM: mean(known.map(([, north]) => north)) };
}

/** Minutes of one person to empty a place, the way between its vessels included. */
export function minutesAt(now: PlaceNow): number {
  const { place, trees, taps } = now;
  if (place.vessel === 'tank') return MINUTES_A_TANK * (place.vessels ?? 1);
  const vessels = place.vessels ?? Math.max(1, taps);
  const known = trees.flatMap(({ drilled, eastM, northM }) =>
    drilled > 0 && eastM !== null && northM !== null ? [{ eastM, northM }] : []
  );
  const way = known
    .slice(1)
    .reduce((sum, at, i) => sum + Math.hypot(at.eastM - known[i]!.eastM, at.northM - known[i]!.northM), 0);
  return vessels * MINUTES_A_VESSEL + way / METRES_A_MINUTE;
}

/** The places of a round in the order in which they are walked: the nearest next, from the first one. */
export function inWalkingOrder(places: readonly PlaceNow[]): PlaceNow[] {
  const left = [...places];
  const walked: PlaceNow[] = [];
  for (let here = left[0] ? placeAt(left[0]) : null; left.length > 0;) {
    const far = left.map((place) => {
      const at = placeAt(place);
      return at && here ? Math.hypot(at.eastM - here.eastM, at.northM - here.northM) : Infinity;
    });
    const [next] = left.splice(far.indexOf(Math.min(...far)), 1);
    walked.push(next!);
    here = placeAt(next!) ?? here;
  }
  return walked;
}

/** What emptying places takes. @param litres to be carried @param people who go */
export function roundTime(places: readonly PlaceNow[], litres: number, people: number): RoundTime {
  const loads = new Map<Carrier, number>();
  const taps = places.reduce((sum, { taps: of }) => sum + of, 0);
  for (const { place, taps: of } of places)
    loads.set(
      place.carrier,
      (loads.get(place.carrier) ?? 0) + (taps > 0 ? (litres * of) / taps : litres / places.length)
    );
  const trips = [...loads].reduce((sum, [carrier, load]) => sum + Math.ceil(load / LOAD_LITRES[carrier] - 1e-9), 0);
  const order = inWalkingOrder(places);
  const way = order.slice(1).reduce((sum, now, i) => {
    const [a, b] = [placeAt(order[i]!), placeAt(now)];
    return sum + (a && b ? Math.hypot(a.eastM - b.eastM, a.northM - b.northM) : 0);
  }, 0);
  const work = places.reduce((sum, now) => sum + minutesAt(now), 0) + (2 * way) / METRES_A_MINUTE;
  return { trips, minutes: MINUTES_A_ROUND + work / Math.max(1, people) };
}

/** What a round costs before anybody is at a place, litres. @param litresAnHour for which an hour of somebody is worth it */
export const roundCosts = (litresAnHour: number) => ({
  roundLitres: (MINUTES_A_ROUND / 60) * litresAnHour,
  placeLitres: 0
});

/** The places as a plan of rounds wants them. Taps count by what their place gives against all. */
export function placesToPlan(of: RoundsQuestion): CollectingPlace[] {
  return of.places.flatMap((now): CollectingPlace[] => {
    if (now.drilledOn === null || now.taps === 0) return [];
    const { litres, turned: part } = standsIn(now, of);
    const age = ageing(daysBetween(now.drilledOn, of.today), lifeAt(now.place));
    const gives = (litresADay(now.place, of.known, of.season) * age) / of.known.litresAtFull;
    return [
      {
        id: now.place.id,
        taps: now.taps * gives,
        holdsLitres: now.holdsLitres,
        litres,
        turned: Math.min(0.999, part),
        visitLitres: (minutesAt(now) / 60) * of.litresAnHour
      }
    ];
  });
}

/** The ways in which the coming hours may go, from the hour that it is to the end of what is foretold. */
export function hoursAhead({ weather, hour, season, known }: RoundsQuestion): HoursAhead[] {
  const { past, ahead } = weather;
  const rng = seededRng(season);
  const yesterday = past.at(-1);
  if (ahead.length === 0) return [];
  return Array.from({ length: WAYS }, (): HoursAhead => {
    const days = comesOut(ahead, (at) => ahead[at]!.sdC, rng);
    const all = hourlyTemperatures(yesterday ? [yesterday, ...days] : days);
    const shares = hourlyShares(all);
    const from = (yesterday ? DAY_HOURS : 0) + hour;
    const indices = (yesterday ? [yesterday, ...days] : days).map(runIndex);
    return {
      weight: 1,
      temperatures: all.subarray(from),
      litresATap: shares
        .map((share, at) => known.litresAtFull * indices[Math.floor(at / DAY_HOURS)]! * share)
        .subarray(from)
    };
  });
}
