import { mean, quantiles, seededRng } from '../math/index.ts';
import {
  ageing,
  DAY_HOURS,
  hourlyTemperatures,
  LAG_HOURS,
  LITRES_AT_FULL,
  runIndex,
  runReason,
  RUNS_FROM,
  SUN_WARMS_C,
  type RunReason,
  type TapGroup
} from '../season/index.ts';
import type { BushWeather, DayAhead } from './weather.ts';

/** How a coming day runs. */
export interface RunAhead extends DayAhead {
  readonly reason: RunReason;
  /** chance that it runs well enough to go for, 0..1 */
  readonly chance: number;
  /** litres a tap, in the middle and between a tenth and nine tenths of what may come */
  readonly litres: number;
  readonly low: number;
  readonly high: number;
  /** hours of the day between which it runs, if it comes as foretold; null where it does not thaw */
  readonly hours: readonly [from: number, until: number] | null;
  /** a degree or two above freezing by night: in full sun it may run all the same */
  readonly sunMayDo: boolean;
}

/** Draws of what a forecast may come out as. */
const DRAWS = 200;
/** By night not warmer than this, °C, the sun alone may do it. Working assumption. */
const SUN_DOES_C = 2;

/**
 * How the coming days run, today first.
 * @param of the group of trees, the days since its holes were made, and what they give
 */
export function runsAhead(
  { past, ahead }: Pick<BushWeather, 'past' | 'ahead'>,
  of: {
    readonly group: Pick<TapGroup, 'sunny'>;
    readonly holeDays: number;
    readonly lifeDays: number;
    readonly litresAtFull?: number;
  }
): RunAhead[] {
  const rng = seededRng(ahead.length);
  const warmer = of.group.sunny ? SUN_WARMS_C : 0;
  const yesterday = past.at(-1);
  const days = [...(yesterday ? [yesterday] : []), ...ahead];
  const temperatures = hourlyTemperatures(days.map(({ minC, maxC }) => ({ minC, maxC: maxC + warmer })));
  return ahead.map((day, i): RunAhead => {
    const litresAtFull = of.litresAtFull ?? LITRES_AT_FULL;
    const gives = litresAtFull * ageing(of.holeDays + i, of.lifeDays);
    const drawn = Array.from({ length: day.sdC === 0 ? 1 : DRAWS }, () => {
      const [a, b] = [day.minC + day.sdC * rng.normal(0, 1), day.maxC + warmer + day.sdC * rng.normal(0, 1)];
      return runIndex({ minC: Math.min(a, b), maxC: Math.max(a, b) });
    });
    const [low, middle, high] = quantiles(drawn, [0.1, 0.5, 0.9]);
    const inSun = { minC: day.minC, maxC: day.maxC + warmer };
    const from = (i + (yesterday ? 1 : 0)) * DAY_HOURS;
    return {
      ...day,
      reason: runReason(inSun),
      chance: mean(drawn.map((index) => (index >= RUNS_FROM ? 1 : 0))),
      litres: gives * middle!,
      low: gives * low!,
      high: gives * high!,
      hours: thawed(temperatures.subarray(from, from + DAY_HOURS)),
      sunMayDo: runReason(inSun) === 'noFrost' && day.minC <= SUN_DOES_C
    };
  });
}

/** The hours of a day about its warmest between which it is above freezing, as sap follows them. */
function thawed(hours: Float64Array): readonly [number, number] | null {
  const warmest = hours.indexOf(Math.max(...hours));
  if (!(hours[warmest]! > 0)) return null;
  let [first, last] = [warmest, warmest];
  while (first > 0 && hours[first - 1]! > 0) first -= 1;
  while (last + 1 < hours.length && hours[last + 1]! > 0) last += 1;
  return [first === 0 ? 0 : Math.min(last, first + LAG_HOURS), last + 1];
}
