import { bench, describe } from 'vitest';

import { seededRng } from '../src/math/index.ts';
import {
  calibrate,
  courseOf,
  DAY_HOURS,
  drillNow,
  HOLE_LIVES,
  hourlyShares,
  hourlyTemperatures,
  planRounds,
  runShare,
  scenariosOf,
  type Collection,
  type HoursAhead
} from '../src/season/index.ts';
import { simulatedForecast, simulatedYear } from '../test/climate.ts';

describe('the season', () => {
  const rng = seededRng(1);
  const group = { species: 'sugarMaple', sunny: false } as const;
  const years = Array.from({ length: 20 }, (_, i) => simulatedYear(2007 + i, rng));
  const thisYear = simulatedYear(2027, rng);

  bench('when to drill, by twenty years and a forecast of ten days (wanted: within 50 ms)', () => {
    const forecast = simulatedForecast(thisYear, { from: 50, days: 10 }, seededRng(2));
    const scenarios = scenariosOf({ thisYear, today: 50, forecast, years }, group, seededRng(3));
    drillNow(scenarios, 50, { days: 4, lifeDays: HOLE_LIVES.bucket });
  });

  const ways = Array.from({ length: 30 }, (): HoursAhead => {
    const days = [0, 1].map(() => ({ minC: rng.normal(-4, 2), maxC: rng.normal(7, 2) }));
    const temperatures = hourlyTemperatures(days);
    const ofDay = [rng.logNormal(2, 0.4), rng.logNormal(2, 0.4)];
    const litresATap = hourlyShares(temperatures).map((share, hour) => share * ofDay[Math.floor(hour / DAY_HOURS)]!);
    return { weight: 1, litresATap, temperatures };
  });
  const places = Array.from({ length: 40 }, (_, i) => ({
    id: String(i),
    taps: 50,
    holdsLitres: 50 * (4 + (i % 10)),
    litres: 20 * (i % 7),
    turned: 0
  }));
  bench('rounds of two days for 2,000 taps at 40 places (wanted: within 1 s)', () => {
    const hours = [8, 10, 12, 14, 16, 18, 20].flatMap((hour) => [hour, hour + DAY_HOURS]).sort((a, b) => a - b);
    planRounds(places, ways, { hours, costs: { roundLitres: 10, placeLitres: 1 } });
  });

  const log = years.slice(0, 10).flatMap((year) => {
    const course = courseOf(year, group)!;
    return places.flatMap(({ id }) =>
      Array.from({ length: 45 }, (_, i): Collection => {
        const ran = runShare(course, { drilled: 56, after: 56 + i, until: 57 + i }, HOLE_LIVES.bucket);
        const litres = 50 * 5 * ran.share * rng.logNormal(1, 0.4);
        return { ...ran, place: id, season: year.season, species: null, taps: 50, litres };
      })
    );
  });
  bench('calibration over ten seasons of 40 places (wanted: within 2 s)', () => {
    calibrate(log);
  });
});
