import loadHighs from 'highs';
import { bench, describe } from 'vitest';

import { seededRng } from '../src/math/index.ts';
import type { StandTree } from '../src/stand/index.ts';
import {
  DEFAULT_LIMITS,
  growStand,
  hegyi,
  highsSolver,
  judgeChoice,
  neighbours,
  planThinning,
  prepareStand,
  DEFAULT_GROWTH,
  sideStates,
  standOutlook,
  type OutlookTree,
  type PlanStand,
  type PlanTree
} from '../src/thinning/index.ts';
import { planByEye } from '../test/byEye.ts';
import { POLICY } from '../test/policy.ts';

const solve = highsSolver(await loadHighs());

function trees(many: number, sideM: number): StandTree[] {
  const rng = seededRng(5);
  return Array.from({ length: many }, (_, i) => ({
    id: `t${i}`,
    tag: `${i}`,
    species: rng.uniform() < 0.75 ? ('sugarMaple' as const) : ('beech' as const),
    dbhMm: 110 + 330 * rng.uniform() ** 1.4,
    eastM: sideM * rng.uniform(),
    northM: sideM * rng.uniform(),
    positionQuality: 'surveyed' as const
  }));
}

/** A hectare with 600 trees, every eighth a crop tree. */
function hectare(): PlanStand {
  const all = trees(600, 100);
  const plan = all.map((tree, i): PlanTree => {
    const maple = tree.species === 'sugarMaple';
    const crop = maple && i % 8 === 0;
    const taps = maple && tree.dbhMm > 300 ? 1 : 0;
    return {
      tree,
      crop,
      weight: crop ? 0.8 : 0,
      hold: i % 29 === 3 && !crop ? { why: 'markedWatch' } : null,
      must: false,
      taps,
      tapsLater: taps,
      dying: i % 17 === 0 ? 0.5 : 0,
      maple
    };
  });
  return {
    trees: plan,
    sides: new Map(plan.filter(({ crop }) => crop).map(({ tree }) => [tree.id, sideStates(tree, all, null)])),
    areaHa: 1,
    outline: [
      [0, 0],
      [100, 0],
      [100, 100],
      [0, 100]
    ],
    around: []
  };
}
const stand = hectare();
const limits = { ...DEFAULT_LIMITS, openingM: 12 };

describe('a plan for 600 trees on a hectare', () => {
  bench('to a gap of 0.1 %', () => void planThinning(stand, limits, solve), {
    iterations: 5,
    time: 0,
    warmupIterations: 1
  });
  bench('judging one choice', () => void judgeChoice(stand, limits, new Set(['t1', 't2'])), {
    iterations: 20,
    time: 0
  });
  bench('a tree at a time by eye', () => void planByEye(stand, limits), {
    iterations: 1,
    time: 0,
    warmupIterations: 0
  });
});

const wood: OutlookTree[] = trees(5000, 350).map((tree, i) => ({
  ...tree,
  diebackPct: 5,
  observed: i % 3 === 0 ? { ringMm: 1.3, seMm: 0.2 } : null,
  tappable: tree.species === 'sugarMaple',
  crop: i % 8 === 0,
  conditionTaps: 4,
  holes: Array.from({ length: 20 }, (_, k) => ({ season: 2007 + k, bitMm: 7.9375, depthMm: 38.1 })),
  ringMm: 1.3
}));
const ground = { areaHa: 12.25, outlines: [] };

describe('thirty years of 5,000 trees', () => {
  const ready = prepareStand(wood, ground);
  bench('growth alone', () => void [...growStand(ready, DEFAULT_GROWTH, { years: 30 })], { iterations: 3, time: 0 });
  bench(
    'with and without, taps and stain, one draw',
    () =>
      void standOutlook(wood, ground, {
        season: 2027,
        years: 30,
        entries: new Map(),
        policy: POLICY,
        draws: 1,
        seed: 1
      }),
    { iterations: 2, time: 0, warmupIterations: 0 }
  );
});

describe('competition of 20,000 trees', () => {
  const many = trees(20_000, 700);
  const thick = many.map(({ dbhMm }) => dbhMm);
  bench('square by square', () => void hegyi(thick, neighbours(many)), { iterations: 5, time: 0 });
  bench(
    'every tree against every other',
    () => {
      const sums = new Float64Array(many.length);
      for (let i = 0; i < many.length; i++)
        for (let j = 0; j < many.length; j++) {
          if (i === j) continue;
          const [de, dn] = [many[i]!.eastM - many[j]!.eastM, many[i]!.northM - many[j]!.northM];
          const away2 = de * de + dn * dn;
          if (away2 <= 64) sums[i] = sums[i]! + many[j]!.dbhMm / many[i]!.dbhMm / Math.max(1, Math.sqrt(away2));
        }
    },
    { iterations: 1, time: 0, warmupIterations: 0 }
  );
});
