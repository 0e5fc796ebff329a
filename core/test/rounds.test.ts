import { describe, expect, it } from 'vitest';

import { shortOrLong } from '../../testing/long.ts';
import { mean, seededRng } from '../src/math/index.ts';
import { keepsHours } from '../src/sap/index.ts';
import {
  ageing,
  DAY_HOURS,
  forecastSd,
  hourlyShares,
  hourlyTemperatures,
  LITRES_AT_FULL,
  planRounds,
  runIndex,
  type CollectingPlace,
  type HoursAhead,
  type YearOfWeather
} from '../src/season/index.ts';
import { simulatedForecast, simulatedYear } from './climate.ts';

describe('hours', () => {
  const days = [
    { minC: -6, maxC: 8 },
    { minC: -3, maxC: 5 }
  ];
  it('go from each lowest to the highest and on without a step', () => {
    const hours = hourlyTemperatures(days);
    expect(hours).toHaveLength(48);
    expect(Math.abs(hours[6]! - -6)).toBeLessThan(0.3);
    expect(Math.abs(hours[15]! - 8)).toBeLessThan(0.3);
    expect(Math.abs(hours[30]! - -3)).toBeLessThan(0.3);
    for (let at = 1; at < 48; at++) expect(Math.abs(hours[at]! - hours[at - 1]!)).toBeLessThan(3);
  });

  it('share a day out with its warmth, and a day that does not thaw not at all', () => {
    const shares = hourlyShares(hourlyTemperatures([...days, { minC: -9, maxC: -2 }, { minC: -9, maxC: -2 }]));
    const of = (day: number) => shares.slice(DAY_HOURS * day, DAY_HOURS * (day + 1));
    const sum = (day: number) => of(day).reduce((total, each) => total + each, 0);
    expect([sum(0), sum(1), sum(3)].map((each) => Number(each.toFixed(6)))).toEqual([1, 1, 0]);
    // Frost of the night still holds it: nothing before the morning, most in the afternoon.
    expect(of(0).slice(0, 9)).toEqual(new Float64Array(9));
    expect(of(0).indexOf(Math.max(...of(0)))).toBeGreaterThanOrEqual(15);
  });
});

describe('rounds of collecting', () => {
  const still = (litres: number, tempC: number, hours = 48): HoursAhead => ({
    weight: 1,
    litresATap: new Float64Array(hours).fill(litres),
    temperatures: new Float64Array(hours).fill(tempC)
  });
  const place = (more: Partial<CollectingPlace> = {}): CollectingPlace => ({
    id: 'hill',
    taps: 10,
    holdsLitres: 100,
    litres: 0,
    turned: 0,
    ...more
  });
  const costs = { roundLitres: 5, placeLitres: 1 };

  it('are none where nothing runs, or where all that comes is worth less than going', () => {
    expect(planRounds([place()], [still(0, 2)], { hours: [8, 17], costs }).rounds).toEqual([]);
    expect(planRounds([place()], [still(0.001, 1)], { hours: [8, 17], costs }).rounds).toEqual([]);
  });

  it('come before the pail runs over: worked by hand', () => {
    // Ten taps of half a litre an hour fill 100 litres in 20 hours; in the 40 hours to come twice.
    const plan = planRounds([place()], [still(0.5, 1, 40)], { hours: [10, 18, 34], costs });
    expect(plan.firstLoss.get('hill')).toBe(20);
    expect(plan.lostWithout).toBeGreaterThan(100);
    expect(plan.rounds.map(({ hour }) => hour)).toEqual([18, 34]);
    expect(plan.rounds[0]!.litres).toBeCloseTo(90, 6);
    expect(plan.lostLitres).toBeLessThan(10);
  });

  it('come before it spoils, and only where there is any', () => {
    const full = place({ litres: 80, turned: 0.6 });
    const plan = planRounds([full, place({ id: 'hollow' })], [still(0, 10)], { hours: [2, 8, 20], costs });
    expect(plan.firstLoss.get('hill')).toBe(Math.ceil(0.4 * keepsHours(10)) - 1);
    expect(plan.firstLoss.get('hollow')).toBeNull();
    expect(plan.rounds).toEqual([{ hour: 2, places: ['hill'], litres: 80, highLitres: 80 }]);
  });
});

/* A season of collecting, lived hour by hour: by the plan, and by the clock. */

const FIRST = 60;
const DAYS = 45;
const LIFE = 36;
/** How far a day strays from its index, as a logarithm, 1 sd: floods among them. */
const STRAYS = 0.45;
const PLACES = ['north', 'ridge', 'gully', 'road', 'spring', 'corner'].map((id, i) => ({
  id,
  taps: 10,
  // Small pails on some, large ones on others: litres a tap.
  holdsLitres: 10 * [3.5, 3.5, 5, 5, 7.5, 13][i]!
}));
type State = { litres: number; turned: number }[];

function hoursOf(days: { minC: number; maxC: number }[], from: number, strays: readonly number[]): HoursAhead {
  const temperatures = hourlyTemperatures(days);
  const litres = days.map((day, i) => LITRES_AT_FULL * runIndex(day) * ageing(from + i - FIRST, LIFE) * strays[i]!);
  const litresATap = hourlyShares(temperatures).map((share, hour) => share * litres[Math.floor(hour / DAY_HOURS)]!);
  return { weight: 1, litresATap, temperatures };
}

/** Lives through the season. @param go which places are emptied at an hour */
function live(truth: HoursAhead, go: (hour: number, state: State) => readonly string[]) {
  const state: State = PLACES.map(() => ({ litres: 0, turned: 0 }));
  let [lost, trips] = [0, 0];
  for (let hour = 0; hour < DAYS * DAY_HOURS; hour++) {
    const there = go(hour, state);
    if (there.length > 0) trips += 1;
    PLACES.forEach(({ id, taps, holdsLitres }, i) => {
      const at = state[i]!;
      if (there.includes(id)) [at.litres, at.turned] = [0, 0];
      const came = taps * truth.litresATap[hour]!;
      at.turned = at.litres + came > 0 ? (at.turned * at.litres) / (at.litres + came) : 0;
      at.litres += came;
      lost += Math.max(0, at.litres - holdsLitres);
      at.litres = Math.min(at.litres, holdsLitres);
      at.turned += 1 / keepsHours(truth.temperatures[hour]!);
      if (at.turned < 1) return;
      lost += at.litres;
      [at.litres, at.turned] = [0, 0];
    });
  }
  return { lost, trips };
}

/** The rounds as the plan has them, asked anew every three hours by a forecast with its errors. */
function byThePlan(year: YearOfWeather, seed: number): (hour: number, state: State) => readonly string[] {
  const rng = seededRng(seed);
  let planned: { readonly hour: number; readonly places: readonly string[] }[] = [];
  return (hour, state) => {
    const [day, clock] = [Math.floor(hour / DAY_HOURS), hour % DAY_HOURS];
    if ([7, 10, 13, 16].includes(clock)) {
      const forecast = simulatedForecast(year, { from: FIRST + day, days: 3 }, rng);
      const ahead = Array.from({ length: 30 }, () => {
        const comes = forecast.map(({ minC, maxC }, i) => {
          const [a, b] = [minC + rng.normal(0, forecastSd(i)), maxC + rng.normal(0, forecastSd(i))];
          return { minC: Math.min(a, b), maxC: Math.max(a, b) };
        });
        const all = hoursOf(
          comes,
          FIRST + day,
          comes.map(() => Math.exp(rng.normal(0, STRAYS)))
        );
        return { ...all, litresATap: all.litresATap.slice(clock), temperatures: all.temperatures.slice(clock) };
      });
      const hours = [0, 1].flatMap((on) => [8, 10, 12, 14, 16, 18, 20].map((at) => on * DAY_HOURS + at - clock));
      const places = PLACES.map((each, i) => ({ ...each, ...state[i]! }));
      const plan = planRounds(places, ahead, {
        hours: hours.filter((at) => at >= 0),
        costs: { roundLitres: 1, placeLitres: 0.1 }
      });
      planned = plan.rounds.map((round) => ({ hour: hour + round.hour, places: round.places }));
    }
    return planned.find((round) => round.hour === hour)?.places ?? [];
  };
}

describe('a season of rounds', () => {
  it('loses at most a third of what "once a day at five" loses, with no more trips', () => {
    const seasons = Array.from({ length: shortOrLong(3, 20) }, (_, seed) => {
      const rng = seededRng(500 + seed);
      const year = simulatedYear(2027, rng);
      const days = Array.from({ length: DAYS + 3 }, (_, i) => ({
        minC: year.minC[FIRST + i]!,
        maxC: year.maxC[FIRST + i]!
      }));
      const truth = hoursOf(
        days,
        FIRST,
        days.map(() => Math.exp(rng.normal(0, STRAYS)))
      );
      const all = PLACES.map(({ id }) => id);
      return {
        clock: live(truth, (hour) => (hour % DAY_HOURS === 17 ? all : [])),
        plan: live(truth, byThePlan(year, seed)),
        came: PLACES.length * 10 * truth.litresATap.subarray(0, DAYS * DAY_HOURS).reduce((sum, each) => sum + each, 0)
      };
    });
    const of = (which: 'clock' | 'plan', what: 'lost' | 'trips') => mean(seasons.map((season) => season[which][what]));
    console.log(
      `Rounds of ${DAYS} days, of ${mean(seasons.map(({ came }) => came)).toFixed(0)} litres: once a day at five loses ` +
        `${of('clock', 'lost').toFixed(0)} in ${of('clock', 'trips')} trips, the plan ${of('plan', 'lost').toFixed(0)} in ` +
        `${of('plan', 'trips').toFixed(1)}`
    );
    expect(of('clock', 'lost')).toBeGreaterThan(0);
    expect(of('plan', 'lost')).toBeLessThanOrEqual(of('clock', 'lost') / 3);
    expect(of('plan', 'trips')).toBeLessThanOrEqual(of('clock', 'trips'));
  });
});
