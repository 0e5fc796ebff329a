import { median } from '../math/index.ts';
import type { Batch, BushRecord, SapKind } from '../records/index.ts';
import { blended, boiledTo, iceTakenOff, keepsHours, PAN_LITRES_AN_HOUR, type Sugared } from '../sap/index.ts';
import { DAY_HOURS, daysBetween, hourlyTemperatures, OTHER_SAP_FACTS, type WeatherDay } from '../season/index.ts';
import { collectionsOf } from './collecting.ts';
import type { BushWeather } from './weather.ts';

/** Sap that was collected and not used yet. */
export interface StoredSap extends Sugared {
  /** sugar was never read: it is what the bush usually has */
  readonly brixAssumed: boolean;
  /** the day and hour at which its oldest part was collected */
  readonly since: { readonly on: string; readonly hour: number };
  /** how far its oldest part has turned, 0..1, if it stands as cold as the air */
  readonly turned: number;
  /** hours until that part has turned, if it goes on standing so; null where it does not within what is foretold */
  readonly keepsHours: number | null;
}

/** Maple sap has so much sugar where nobody read it, per cent. Common practice. */
const USUAL_BRIX = 2;

/** What sap usually has where nobody read it, per cent. */
const usualBrix = (sap: SapKind) => (sap === 'maple' ? USUAL_BRIX : OTHER_SAP_FACTS[sap].brix.usual);

/**
 * The sap of a season that waits for the fire: what was collected less what batches took, the oldest first.
 * @param records of the bush that hold
 * @param now ISO date and hour, local time
 * @returns null where nothing is left
 */
export function storedSap(
  records: readonly BushRecord[],
  weather: Pick<BushWeather, 'past' | 'ahead'>,
  of: { readonly season: number; readonly today: string; readonly hour: number; readonly sap?: SapKind }
): StoredSap | null {
  const { season, today, hour, sap = 'maple' } = of;
  const kept = collectionsOf(records, season, sap).filter(({ went, litres }) => went === 'kept' && litres > 0);
  let used = records
    .filter((record): record is Batch => record.kind === 'batch' && record.season === season && record.of === sap)
    .reduce((sum, { sapLitres }) => sum + sapLitres, 0);
  const left = kept.flatMap((part) => {
    const taken = Math.min(used, part.litres);
    used -= taken;
    return part.litres - taken > 0.5 ? [{ ...part, litres: part.litres - taken }] : [];
  });
  const [oldest] = left;
  if (!oldest) return null;
  const read = kept.filter(({ brix }) => brix !== null);
  const usual =
    read.length > 0 ? blended(read.map(({ litres, brix }) => ({ litres, brix: brix! }))).brix : usualBrix(sap);
  const all = blended(left.map(({ litres, brix }) => ({ litres, brix: brix ?? usual })));
  const known = [...weather.past, ...weather.ahead].filter(({ on }) => on >= oldest.on);
  return {
    ...all,
    brixAssumed: left.some(({ brix }) => brix === null),
    since: { on: oldest.on, hour: oldest.hour },
    ...ageOf(known, oldest, { today, hour })
  };
}

function ageOf(
  days: readonly WeatherDay[],
  from: { readonly on: string; readonly hour: number },
  { today, hour }: { readonly today: string; readonly hour: number }
): Pick<StoredSap, 'turned' | 'keepsHours'> {
  const temperatures = hourlyTemperatures(days);
  const now = daysBetween(from.on, today) * DAY_HOURS + hour;
  let [turned, soFar] = [0, 0];
  for (let at = Math.floor(from.hour); at < temperatures.length; at++) {
    turned += 1 / keepsHours(temperatures[at]!);
    if (at < now) soFar = turned;
    if (turned >= 1) return { turned: Math.min(1, soFar), keepsHours: Math.max(0, at - now) };
  }
  return { turned: Math.min(1, soFar), keepsHours: null };
}

/** How a bush's pan boils, by its own batches; by its area where there are too few. */
export interface PanRate {
  /** water that it boils away, kg an hour; null where nothing tells it */
  readonly litresAnHour: number | null;
  readonly low: number | null;
  readonly high: number | null;
  /** wood for a kilogram of water, m³ stacked; null where no batch tells it */
  readonly woodM3AKg: number | null;
  /** batches that tell it; nought where the area does */
  readonly batches: number;
}

/** A pan is known by so many batches. */
const KNOWN_FROM = 2;

/** Sap of a batch as it went onto the fire. @returns null where its figures cannot be */
export function ontoTheFire({
  sapLitres,
  sapBrix,
  iceLitres
}: Pick<Batch, 'sapLitres' | 'sapBrix' | 'iceLitres'>): Sugared | null {
  try {
    const sap = { litres: sapLitres, brix: sapBrix };
    return iceLitres > 0 ? iceTakenOff(sap, iceLitres).left : sap;
  } catch {
    return null;
  }
}

/** What a batch should have given by the mass balance, litres. @returns null where it became no syrup or cannot be */
export function expectedSyrup(
  batch: Pick<Batch, 'sapLitres' | 'sapBrix' | 'iceLitres' | 'syrupBrix'>
): { litres: number; waterKg: number } | null {
  const sap = ontoTheFire(batch);
  if (!sap || batch.syrupBrix === null || batch.syrupBrix < sap.brix || sap.brix <= 0) return null;
  const { syrup, waterKg } = boiledTo(sap, batch.syrupBrix);
  return { litres: syrup.litres, waterKg };
}

/** What the batches of a bush say of its pan, whatever was boiled in it. @param panM2 surface of the pan; null where nobody measured it */
export function panRate(records: readonly BushRecord[], panM2: number | null): PanRate {
  const told = records.flatMap((record) => {
    if (record.kind !== 'batch' || record.became !== 'syrup') return [];
    const water = expectedSyrup(record)?.waterKg;
    return water ? [{ water, hours: record.hours, woodM3: record.woodM3 }] : [];
  });
  const rates = told.flatMap(({ water, hours }) => (hours ? water / hours : []));
  const wood = told.flatMap(({ water, woodM3 }) => (woodM3 ? woodM3 / water : []));
  const woodM3AKg = wood.length > 0 ? median(wood) : null;
  if (rates.length >= KNOWN_FROM) {
    const sorted = [...rates].sort((a, b) => a - b);
    const at = (share: number) => sorted[Math.round(share * (sorted.length - 1))]!;
    return { litresAnHour: median(rates), low: at(0.1), high: at(0.9), woodM3AKg, batches: rates.length };
  }
  if (panM2 === null) return { litresAnHour: null, low: null, high: null, woodM3AKg, batches: 0 };
  const { low, usual, high } = PAN_LITRES_AN_HOUR;
  return { litresAnHour: usual * panM2, low: low * panM2, high: high * panM2, woodM3AKg, batches: 0 };
}

/** Is it worth lighting the fire, and why? */
export type FireAdvice = 'nothing' | 'spoilsSoon' | 'fullDay' | 'runEnds' | 'wait';

/** A day at the fire is worth it from so many hours on. Working assumption. */
const FULL_DAY_HOURS = 5;
/** Sap that turns within so many hours is boiled now. Working assumption. */
const SOON_HOURS = 30;

/** When to light the fire. @param moreComes litres that the next two days let expect */
export function fireAdvice(store: StoredSap | null, hours: number | null, moreComes: number): FireAdvice {
  if (!store) return 'nothing';
  if (store.turned >= 0.5 || (store.keepsHours !== null && store.keepsHours <= SOON_HOURS)) return 'spoilsSoon';
  if (hours !== null && hours >= FULL_DAY_HOURS) return 'fullDay';
  return moreComes < store.litres / 4 ? 'runEnds' : 'wait';
}
