import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { tries } from '../../testing/long.ts';
import { balanceOf, policyOf } from '../src/bush/index.ts';
import { seededRng } from '../src/math/index.ts';
import { DEFAULT_BUSH_SETTINGS } from '../src/records/index.ts';
import { growthBalance } from '../src/taps/index.ts';
import {
  calibrateGrowth,
  cleanUp,
  competitionOf,
  DEFAULT_GROWTH,
  deathsAYear,
  entryWarning,
  fellingCautions,
  fenceFor,
  growStand,
  openRing,
  prepareStand,
  regenerationAdvice,
  relativeDensity,
  ringWith,
  roomLeft,
  seedlingMetrics,
  spreadWork,
  standOutlook,
  stemVolume,
  type GrowingArea,
  type GrowingStand,
  type OutlookTree,
  type SeedlingPlot
} from '../src/thinning/index.ts';
import { MM_PER_FOOT, MM_PER_INCH } from '../src/units/index.ts';
import { readTable } from './data/read.ts';
import { MEASURED } from './fixtures.ts';
import { POLICY } from './policy.ts';

const SIDE_M = 70;
const ground: GrowingArea = {
  areaHa: SIDE_M ** 2 / 10_000,
  outlines: [
    [
      [0, 0],
      [SIDE_M, 0],
      [SIDE_M, SIDE_M],
      [0, SIDE_M]
    ]
  ]
};

function stand(seed: number, perHa = 400): OutlookTree[] {
  const rng = seededRng(seed);
  return Array.from({ length: Math.round(perHa * ground.areaHa) }, (_, i) => ({
    id: `t${i}`,
    tag: `${i}`,
    species: rng.uniform() < 0.8 ? ('sugarMaple' as const) : ('yellowBirch' as const),
    dbhMm: 110 + 300 * rng.uniform() ** 1.5,
    eastM: SIDE_M * rng.uniform(),
    northM: SIDE_M * rng.uniform(),
    positionQuality: 'surveyed' as const,
    diebackPct: 5,
    observed: null,
    tappable: true,
    crop: i % 5 === 0,
    conditionTaps: 4,
    holes: [],
    ringMm: 1.3
  }));
}

/** Who stands within reach of a tree, where every tree has a base of its own. */
function beside({ pressing: { near } }: GrowingStand, i: number): Set<number> {
  return new Set(near.of.slice(near.from[i], near.from[i + 1]));
}

describe('growth with competition', () => {
  it('a ring is never wider with more competition or a denser stand', () => {
    const positive = fc.double({ min: 0, max: 20, noNaN: true });
    fc.assert(
      fc.property(positive, positive, positive, positive, (a, b, d, e) => {
        const [less, more] = [Math.min(a, b), Math.max(a, b)];
        const [thin, dense] = [Math.min(d, e) / 15, Math.max(d, e) / 15];
        expect(ringWith(DEFAULT_GROWTH, 'sugarMaple', more, dense)).toBeLessThanOrEqual(
          ringWith(DEFAULT_GROWTH, 'sugarMaple', less, thin)
        );
      })
    );
    expect(ringWith(DEFAULT_GROWTH, 'sugarMaple', 0, 0)).toBe(openRing('sugarMaple'));
    expect(roomLeft(1.2)).toBe(0);
  });

  it('stems of one base count as one and do not compete', () => {
    const one = stand(1, 40);
    const [a] = one as [OutlookTree];
    const twin = { ...a, id: 'twin', stemOf: a.id, eastM: a.eastM + 0.5 };
    const alone = competitionOf([a], ground.outlines);
    const both = competitionOf([a, twin], ground.outlines);
    expect(alone[0]).toBe(0);
    expect([...both]).toEqual([0, 0]);
    // 30 cm and 40 cm on one base press as 50 cm would: 9 + 16 = 25. Four metres away, on a tree of 25 cm: 0.5.
    const at = (eastM: number, dbhMm: number, more: object = {}) => ({
      ...a,
      dbhMm,
      eastM: 30 + eastM,
      northM: 35,
      ...more
    });
    const [subject, first] = [at(0, 250, { id: 'subject' }), at(4, 300, { id: 'first' })];
    const pressed = competitionOf([subject, first, at(4, 400, { id: 'second', stemOf: 'first' })], ground.outlines);
    expect(pressed[0]).toBeCloseTo(0.5, 12);
    expect(pressed[1]).toBeCloseTo(250 / 500 / 4, 12);
    expect(pressed[2]).toBe(pressed[1]);
  });

  it('an unthinned stand levels off over 60 years, within a plausible basal area', () => {
    for (const perHa of [120, 300, 600, 1000]) {
      const trees = stand(3, perHa);
      const years = [...growStand(prepareStand(trees, ground), DEFAULT_GROWTH, { years: 160 })];
      const area = years.map(
        ({ dbhMm, alive, young }) =>
          (Array.from(dbhMm).reduce((sum, d, i) => sum + alive[i]! * (Math.PI / 4) * (d / 1000) ** 2, 0) +
            young.reduce((sum, y) => sum + y.many * (Math.PI / 4) * (y.dbhMm / 1000) ** 2, 0)) /
          ground.areaHa
      );
      const decade = (year: number) => area[year]! - area[year - 10]!;
      // Northern hardwoods left alone carry some 30 to 45 m2/ha (common practice, no source).
      expect(area[60]!).toBeGreaterThan(15);
      expect(Math.max(...area.slice(60))).toBeLessThan(45);
      if (perHa === 300 || perHa === 600) expect(decade(60)).toBeLessThan(0.85 * decade(10));
      if (perHa >= 600) expect(Math.abs(decade(60))).toBeLessThan(1);
      expect(Math.abs(decade(160))).toBeLessThan(1);
      expect(Math.max(...years.map((year) => year.relativeDensity))).toBeLessThan(1.15);
    }
  });

  it('a tree whose neighbours are taken never grows slower in the years of its answer than it would have', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 0, max: 100 }), (seed, which) => {
        const trees = stand(seed);
        const ready = prepareStand(trees, ground);
        const subject = which % trees.length;
        const near = beside(ready, subject);
        const run = (entries: Map<number, Set<number>>) => [
          ...growStand(ready, DEFAULT_GROWTH, { years: 10, entries })
        ];
        const [left, freed] = [run(new Map()), run(new Map([[0, near]]))];
        left.forEach(({ ringMm, dbhMm }, year) => {
          expect(freed[year]!.ringMm[subject]!).toBeGreaterThanOrEqual(ringMm[subject]! - 1e-12);
          expect(freed[year]!.dbhMm[subject]!).toBeGreaterThanOrEqual(dbhMm[subject]! - 1e-12);
        });
      }),
      tries(30)
    );
  });

  it('its answer takes three seasons', () => {
    const trees = stand(5);
    const ready = prepareStand(trees, ground);
    const subject = [...trees.keys()].sort((a, b) => beside(ready, b).size - beside(ready, a).size)[0]!;
    const near = beside(ready, subject);
    const grown = [...growStand(ready, DEFAULT_GROWTH, { years: 6, entries: new Map([[1, near]]) })];
    const rings = grown.map(({ ringMm }) => ringMm[subject]!);
    expect(rings[1]!).toBeGreaterThan(rings[0]! * 1.05);
    expect(rings[2]!).toBeGreaterThan(rings[1]! * 1.05);
    expect(rings[3]!).toBeGreaterThan(rings[2]! * 1.05);
    expect(Math.abs(rings[5]! / rings[4]! - 1)).toBeLessThan(0.05);
  });

  it('beech and ash are counted on to go, dying trees first', () => {
    expect(deathsAYear({ species: 'beech', diebackPct: 5 })).toBeGreaterThan(
      deathsAYear({ species: 'sugarMaple', diebackPct: 5 })
    );
    expect(deathsAYear({ species: 'beech', diebackPct: 70 })).toBeGreaterThan(
      deathsAYear({ species: 'beech', diebackPct: 5 })
    );
  });

  it('self-consistency: calibrated growth foretells held-back trees better than the default, where a bush is not like it', () => {
    let [better, worse] = [0, 0];
    for (let seed = 1; seed <= 12; seed++) {
      const rng = seededRng(1000 + seed);
      const truth = { level: rng.normal(0, 0.4), c: 0.22 + rng.normal(0, 0.08) };
      const bare = stand(seed);
      const pressed = competitionOf(bare, ground.outlines);
      const room = relativeDensity(
        bare.map(({ dbhMm }) => [dbhMm, 1] as const),
        ground.areaHa,
        DEFAULT_GROWTH.largestSdi
      );
      const rings = bare.map(
        ({ species }, i) => ringWith(truth, species, pressed[i]!, room) * Math.exp(rng.normal(0, 0.35))
      );
      const seen = bare.map((tree, i) =>
        i % 2 === 0
          ? tree
          : { ...tree, observed: { ringMm: Math.max(0.1, rings[i]! + rng.normal(0, 0.15)), seMm: 0.15 } }
      );
      const { model, used } = calibrateGrowth(seen, ground);
      expect(used).toBe(seen.filter(({ observed }) => observed).length);
      const error = (by: { level: number; c: number }) =>
        bare.reduce(
          (sum, { species }, i) =>
            i % 2 === 0 ? sum + Math.log(ringWith(by, species, pressed[i]!, room) / rings[i]!) ** 2 : sum,
          0
        );
      if (error(model) < error(DEFAULT_GROWTH)) better += 1;
      else worse += 1;
      expect(model.varLevel).toBeLessThan(DEFAULT_GROWTH.varLevel);
    }
    expect(better).toBeGreaterThan(4 * worse);
  });
});

describe('thirty years', () => {
  const options = { season: 2027, years: 30, policy: POLICY, draws: 8, seed: 1 };

  it('with nothing taken, with and without are the same', () => {
    const { without, with: thinned } = standOutlook(stand(2), ground, { ...options, entries: new Map() })!;
    expect(thinned).toEqual(without);
  });

  it('a crowded stand whose crop trees are freed overtakes the one left alone', () => {
    const trees = stand(4, 700);
    const ready = prepareStand(trees, ground);
    const taken = new Set<string>();
    trees.forEach((tree, i) => {
      if (!tree.crop) return;
      for (const k of beside(ready, i)) {
        const other = trees[k]!;
        if (!other.crop && Math.hypot(other.eastM - tree.eastM, other.northM - tree.northM) < 3.5) taken.add(other.id);
      }
    });
    const look = standOutlook(trees, ground, { ...options, entries: new Map([[0, taken]]) })!;
    expect(look.with[0]!.stems.mean).toBeCloseTo(look.without[0]!.stems.mean - taken.size, 6);
    expect(look.with[30]!.cropDbhMm.mean).toBeGreaterThan(look.without[30]!.cropDbhMm.mean + 20);
    expect(look.with[10]!.basalAreaPerHa.mean).toBeLessThan(look.without[10]!.basalAreaPerHa.mean);
    for (const year of look.with) {
      expect(year.taps.low).toBeLessThanOrEqual(year.taps.high);
      expect(year.stained.mean).toBeGreaterThanOrEqual(0);
      expect(year.stained.mean).toBeLessThan(0.5);
    }
  });

  it('goes by what the bush has shown of its columns, as the balance and the decades do', () => {
    const taught = { ...DEFAULT_BUSH_SETTINGS, columnFactor: 2 };
    const both = [DEFAULT_BUSH_SETTINGS, taught];
    const [usual, larger] = both.map((settings) => {
      const trees = stand(2).map((tree) => ({ ...tree, species: 'sugarMaple' as const }));
      // By size alone: by growth fewer are hung where columns are larger.
      const policy = { ...policyOf(settings), minds: 'size' as const };
      return standOutlook(trees, ground, { ...options, policy, entries: new Map() })!.without[30]!.stained.mean;
    });
    expect(larger).toBeGreaterThan(1.4 * usual!);
    const [carried, fewer] = both.map(
      (settings) => growthBalance({ ...MEASURED, ...balanceOf(settings, null) }).tapsCarried
    );
    expect(carried! / fewer!).toBeCloseTo(2, 6);
  });

  it('can be ended', () => {
    expect(standOutlook(stand(2), ground, { ...options, entries: new Map(), onProgress: () => false })).toBeNull();
  });
});

describe('clean-up', () => {
  it('stem volume: the line through 31 felled black cherries (Ryan, Joiner & Ryan 1976), R2 0.97768 in logarithms', () => {
    const trees = readTable('black_cherry_trees.csv');
    const logs = trees.map((row) => ({
      said: Math.log(
        stemVolume(row.dbh_in! * MM_PER_INCH, (row.height_ft! * MM_PER_FOOT) / 1000) / (MM_PER_FOOT / 1000) ** 3
      ),
      measured: Math.log(row.volume_cuft!)
    }));
    const mean = logs.reduce((sum, { measured }) => sum + measured, 0) / logs.length;
    const left = logs.reduce((sum, { said, measured }) => sum + (measured - said) ** 2, 0);
    const all = logs.reduce((sum, { measured }) => sum + (measured - mean) ** 2, 0);
    expect(1 - left / all).toBeCloseTo(0.97768, 4);
  });

  it('all days are spread, felling never in the sap season', () => {
    const months = spreadWork(40, 4, { year: 2026, month: 9 });
    expect(months.reduce((sum, { days }) => sum + days, 0)).toBeCloseTo(40, 6);
    for (const { what, month } of months) if (what === 'fell') expect([11, 12, 1]).toContain(month);
    const cleared = (upTo: number) => months.slice(0, upTo).reduce((n, m) => n + (m.what === 'clear' ? m.days : 0), 0);
    const felled = (upTo: number) => months.slice(0, upTo).reduce((n, m) => n + (m.what === 'fell' ? m.days : 0), 0);
    // Nothing is cleared before it lies on the ground.
    months.forEach((_, i) => expect(cleared(i + 1)).toBeLessThanOrEqual(3 * felled(i + 1) + 1e-6));
    expect(() => spreadWork(10, 0, { year: 2026, month: 9 })).toThrow(RangeError);
  });

  it('what stays lying makes no work', () => {
    const trees = stand(1, 40);
    const all = cleanUp(trees);
    expect(cleanUp(trees, undefined, new Set(trees.map(({ id }) => id))).days).toBe(0);
    expect(all.stackedM3).toBeGreaterThan(all.stemM3);
  });
});

describe('regeneration', () => {
  const none = { knee: 0, waist: 0, above: 0 };
  const plot = (maple: number, beech: number, browsed: number | null): SeedlingPlot => ({
    radiusM: 2,
    counts: {
      maple: { ...none, knee: 10, waist: maple },
      beech: { ...none, waist: beech },
      other: none,
      invasive: none
    },
    browsed,
    fenced: false
  });

  it('counts a hectare and says what to do', () => {
    const figures = seedlingMetrics(Array.from({ length: 6 }, () => plot(4, 1, 0.1)));
    expect(figures.establishedMaplesPerHa).toBeCloseTo((4 * 10_000) / (Math.PI * 4));
    expect(regenerationAdvice(figures)).toEqual(['enough']);
    expect(regenerationAdvice(seedlingMetrics([plot(0, 20, 0.6)]))).toEqual(['clearFirst', 'fence', 'morePlots']);
    expect(() => seedlingMetrics([])).toThrow(RangeError);
  });

  it('a fence of a tenth of a hectare, square: 126 m and a post every four', () => {
    const fence = fenceFor(1000);
    expect(fence.lengthM).toBeCloseTo(4 * Math.sqrt(1000));
    expect(fence.posts).toBe(34);
    expect(fenceFor(1000, 3).lengthM).toBeGreaterThan(fence.lengthM);
  });
});

describe('cautions', () => {
  const [tree] = stand(9, 40) as [OutlookTree];
  const quiet = { tree, diebackPct: 10, defects: [], hazards: [], wildlife: [] } as const;
  const path = {
    kind: 'path' as const,
    points: [
      [tree.eastM + 5, -100],
      [tree.eastM + 5, 200]
    ] as const
  };

  it('two tree lengths are kept clear (29 CFR 1910.266); what stands inside them is for trained fallers', () => {
    expect(fellingCautions(quiet, [path]).trained).toBe(true);
    expect(fellingCautions(quiet, []).trained).toBe(false);
    expect(fellingCautions({ ...quiet, hazards: ['lean'] }, []).trained).toBe(true);
    expect(fellingCautions({ ...quiet, diebackPct: 70 }, []).trained).toBe(true);
    expect(fellingCautions(quiet, [path], false).reaches).toEqual([]);
    // Wildlife is a reason to look again, not one for another faller.
    expect(fellingCautions({ ...quiet, wildlife: ['nest'] }, []).trained).toBe(false);
  });

  it('no entry soon after a year of stress', () => {
    expect(entryWarning([{ stressed: true }, { stressed: false }, { stressed: null }]).wait).toBe(true);
    expect(entryWarning([{ stressed: null }]).wait).toBe(false);
  });
});
