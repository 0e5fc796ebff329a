import { bench, describe } from 'vitest';

import { SPECIES, judge } from '../src/identify/index.ts';
import { tapGuidelineById, projectBush, suggestTaps, type TapTree } from '../src/taps/index.ts';
import { readTable } from '../src/exchange/index.ts';
import { POLICY } from '../test/policy.ts';

describe('whole bush', () => {
  bench('counts for 5,000 trees (wanted: within 200 ms)', () => {
    for (let i = 0; i < 5000; i++)
      suggestTaps({
        dbhMm: 200 + (i % 500),
        ringMm: 0.5 + (i % 20) / 10,
        ringSeMm: 0.3,
        bitMm: 7.9375,
        depthMm: 38.1,
        bandMm: 900,
        guideline: tapGuidelineById('twelveEighteen'),
        condition: {
          on: '2026-07-01',
          diebackPct: i % 40,
          oldestOpenHoleYears: null,
          stressed: false,
          peeledPct: null,
          peelFresh: false
        },
        today: '2026-11-23',
        forbidden: false,
        givesSap: true,
        room: 3,
        seasonsSinceTapped: 1,
        ownGrowth: 1
      });
  });
  const bush = Array.from({ length: 5000 }, (_, i): TapTree => ({
    dbhMm: 200 + (i % 500),
    ringMm: 0.5 + (i % 20) / 10,
    ringSeMm: 0.3,
    holes: Array.from({ length: 15 }, (__, k) => ({ season: 2012 + k, bitMm: 7.9375, depthMm: 38.1 })),
    conditionTaps: 4,
    sugarPct: 2.2,
    species: null
  }));
  bench(
    'forty years of 5,000 trees, one draw',
    () => void projectBush(bush, POLICY, { season: 2027, years: 40, draws: 1, seed: 1 })
  );
  bench(`1,000 determinations among ${SPECIES.length} species`, () => {
    for (let i = 0; i < 1000; i++)
      judge(
        { arrangement: 'opposite', budShape: 'sharpScaly', budColour: 'brown', barkGrown: 'oneEdge', rub: 'holds' },
        'grown'
      );
  });
  const file = `tag,species,girth_cm,east_m,north_m,holes\n${Array.from({ length: 20_000 }, (_, i) => `${i},sugar maple,${90 + (i % 80)},${i % 300},${i % 200},2024:180:95;2025:200:110`).join('\n')}`;
  bench('a file of 20,000 trees read', () => {
    readTable(file, { today: '2026-11-23', defaultUnit: 'cm' });
  });
});
