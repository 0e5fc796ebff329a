import { weightedQuantile } from '../math/index.ts';
import { COURSE_DAYS } from './course.ts';
import type { Scenario } from './drillingDay.ts';
import { RUNS_FROM } from './run.ts';
import { ageing, LITRES_AT_FULL } from './yield.ts';

/** What of a season is still to come for a hole, over the ways in which it may go. */
export interface SeasonLeft {
  /** litres a tap, on average, and the band that holds eight of ten */
  readonly litres: number;
  readonly low: number;
  readonly high: number;
  /** days from today on which it runs well enough to go for, on average */
  readonly runs: number;
  /** day of the year of the last such day: a tenth, a half and nine tenths of the ways have theirs by then; null where half have none */
  readonly lastRun: readonly [early: number, middle: number, late: number] | null;
  /** chance that no such day comes any more, 0..1 */
  readonly over: number;
}

/**
 * What a hole still brings from today on.
 * @param drilled day of the year on which it was made; today for one that is still to be made
 * @param today day of the year, the first of January being 0
 */
export function seasonLeft(
  scenarios: readonly Scenario[],
  { drilled, today }: { readonly drilled: number; readonly today: number },
  { lifeDays, litresAtFull = LITRES_AT_FULL }: { readonly lifeDays: number; readonly litresAtFull?: number }
): SeasonLeft {
  const all = scenarios.reduce((sum, { weight }) => sum + weight, 0);
  const ways = scenarios.map(({ course: { gives }, weight }) => {
    let [litres, runs, last] = [0, 0, -1];
    for (let at = today; at < COURSE_DAYS; at++) {
      litres += litresAtFull * gives[at]! * ageing(at - drilled, lifeDays);
      if (gives[at]! < RUNS_FROM) continue;
      runs += 1;
      last = at;
    }
    return { weight: weight / all, litres, runs, last };
  });
  const mean = (of: (way: (typeof ways)[number]) => number) => ways.reduce((sum, way) => sum + way.weight * of(way), 0);
  const quantile = (of: (way: (typeof ways)[number]) => number, share: number) =>
    weightedQuantile(
      ways.map((way) => ({ weight: way.weight, value: of(way) })),
      share
    );
  const last = ([0.1, 0.5, 0.9] as const).map((share) => quantile((way) => way.last, share));
  return {
    litres: mean(({ litres }) => litres),
    low: quantile(({ litres }) => litres, 0.1),
    high: quantile(({ litres }) => litres, 0.9),
    runs: mean(({ runs }) => runs),
    lastRun: last[1]! < 0 ? null : [Math.max(today, last[0]!), last[1]!, last[2]!],
    over: Math.min(
      1,
      mean(({ last: at }) => (at < 0 ? 1 : 0))
    )
  };
}
