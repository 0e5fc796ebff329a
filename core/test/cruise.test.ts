import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import {
  cruiseMapleShare,
  cruiseStructure,
  diameterClasses,
  expansionFactor,
  gaugeWidth,
  limitingDistanceM,
  meanOverPlots,
  plotMetrics,
  plotRadius,
  plotsNeeded,
  type Plot,
  type PlotTree
} from '../src/cruise/index.ts';
import { seededRng } from '../src/math/index.ts';
import { MM_PER_FOOT, MM_PER_INCH } from '../src/units/index.ts';
import { readRows, readTable } from './data/read.ts';

const M2_PER_ACRE = 4046.8564224;
const ACRES_PER_HA = 10_000 / M2_PER_ACRE;
const FT = MM_PER_FOOT / 1000;
/** ft2/ac in m2/ha */
const BAF_FT = (FT * FT * 10_000) / M2_PER_ACRE;

describe('plots and gauges', () => {
  it.each([
    // US Forest Service, FIA field guide; the last two are its subplot and microplot.
    [1 / 10, 37.24],
    [1 / 5, 52.66],
    [1 / 20, 26.33],
    [1 / 4, 58.88],
    [1 / 24, 24.0],
    [1 / 300, 6.8]
  ])('a plot of %f acre has a radius of %f ft', (acres, feet) => {
    expect(plotRadius(acres * M2_PER_ACRE) / FT).toBeCloseTo(feet, 1);
  });

  it.each([
    // Avery & Burkhart, Forest Measurements: limiting distance per inch of diameter, ft.
    [10, 2.75],
    [20, 1.944]
  ])('with a factor of %d ft2/ac a tree counts within %f ft for each inch', (factor, feet) => {
    expect(Math.abs(limitingDistanceM(MM_PER_INCH, factor * BAF_FT) / FT - feet)).toBeLessThan(0.001);
  });

  it.each([
    // the same in metric: metres per cm
    [2, 0.3536],
    [4, 0.25]
  ])('with a factor of %d m2/ha a tree counts within %f m for each centimetre', (factor, metres) => {
    expect(limitingDistanceM(10, factor)).toBeCloseTo(metres, 4);
  });

  it('a gauge just covers a trunk at its limiting distance', () => {
    fc.assert(
      fc.property(fc.double({ min: 50, max: 900, noNaN: true }), fc.constantFrom(1, 2, 4, 9), (dbhMm, factor) => {
        const distance = limitingDistanceM(dbhMm, factor) * 1000;
        // Seen from the eye the trunk's tangents stand at asin(r / distance) to either side.
        const seen = 2 * 600 * Math.tan(Math.asin(dbhMm / 2 / distance));
        expect(gaugeWidth(600, factor)).toBeCloseTo(seen, 9);
      })
    );
  });
});

describe('Lansing Woods (Gerrard 1969; R spatstat.data 3.0)', () => {
  const woods = readRows('lansing.csv').map((row) => ({
    x: Number(row.x_ft),
    y: Number(row.y_ft),
    species: row.species === 'maple' ? ('sugarMaple' as const) : ('redOak' as const)
  }));
  const plotAt = (radiusFt: number): Plot => ({
    design: { kind: 'fixed', radiusM: radiusFt * FT },
    trees: woods
      .filter((tree) => Math.hypot(tree.x - 462, tree.y - 462) <= radiusFt)
      .map(({ species }): PlotTree => ({ species, dbhMm: 300 }))
  });

  it.each([
    [37.24, 10, 3],
    [58.88, 34, 8],
    [26.33, 4, 1]
  ])('a plot of %f ft in its middle holds %d trees, %d of them maples', (radius, trees, maples) => {
    const plot = plotAt(radius);
    expect(plot.trees.length).toBe(trees);
    const { stemsPerHa, mapleShare } = plotMetrics(plot);
    // All of one diameter, the share of basal area is the share of stems.
    expect(mapleShare).toBeCloseTo(maples / trees, 9);
    const acres = (Math.PI * (radius * FT) ** 2) / M2_PER_ACRE;
    expect(stemsPerHa! / ACRES_PER_HA).toBeCloseTo(trees / acres, 6);
  });

  it('taken whole it has 26.22449 maples to the acre', () => {
    const side = 924 * FT;
    const whole: Plot = {
      design: { kind: 'fixed', radiusM: plotRadius(side * side) },
      trees: woods.filter((t) => t.species === 'sugarMaple').map(({ species }) => ({ species, dbhMm: null }))
    };
    expect(plotMetrics(whole).stemsPerHa! / ACRES_PER_HA).toBeCloseTo(26.22449, 5);
  });
});

describe('longleaf pines (Platt, Evans & Rathbun 1988): 12.10938 m2/ha, 146 stems/ha, QMD 32.49673 cm', () => {
  const pines = readTable('longleaf.csv').map((row) => ({ x: row.x_m!, y: row.y_m!, dbhMm: row.dbh_cm! * 10 }));
  const SIDE = 200;
  /** Distance on a plot whose edges are joined, so that no tree is lost beyond them. */
  const apart = (a: number, b: number) => Math.min(Math.abs(a - b), SIDE - Math.abs(a - b));
  const cruise = (design: Plot['design'], points: number): Plot[] => {
    const rng = seededRng(12);
    return Array.from({ length: points }, () => {
      const [x, y] = [SIDE * rng.uniform(), SIDE * rng.uniform()];
      const reach = (dbhMm: number) =>
        design.kind === 'fixed' ? design.radiusM : limitingDistanceM(dbhMm, design.bafM2PerHa);
      return {
        design,
        trees: pines
          .filter((p) => Math.hypot(apart(p.x, x), apart(p.y, y)) <= reach(p.dbhMm))
          .map((p) => ({ species: null, dbhMm: p.dbhMm }))
      };
    });
  };

  it.each([
    ['an angle gauge', { kind: 'gauge', bafM2PerHa: 2 }],
    ['fixed-radius plots', { kind: 'fixed', radiusM: 12 }]
  ] as const)('%s finds them, on average over many points', (_, design) => {
    const plots = cruise(design, 3000);
    const area = meanOverPlots(plots.map((p) => plotMetrics(p).basalAreaM2PerHa));
    const stems = meanOverPlots(plots.map((p) => plotMetrics(p).stemsPerHa!));
    // Within three standard errors of the truth, and the interval tells about how wide they are.
    expect(Math.abs(area.mean - 12.10938)).toBeLessThan(3 * area.se!);
    expect(Math.abs(stems.mean - 146)).toBeLessThan(3 * stems.se!);
    const structure = cruiseStructure(plots)!;
    expect(structure.qmdMm / 324.9673).toBeGreaterThan(0.96);
    expect(structure.qmdMm / 324.9673).toBeLessThan(1.04);
    const classes = diameterClasses(plots);
    expect(classes.reduce((sum, c) => sum + c.stemsPerHa, 0)).toBeCloseTo(stems.mean, 6);
  });

  it('the interval holds the truth about nine times in ten', () => {
    const points = cruise({ kind: 'gauge', bafM2PerHa: 2 }, 4000);
    let held = 0;
    for (let i = 0; i < 400; i++) {
      const { mean, half } = meanOverPlots(
        points.slice(10 * i, 10 * i + 10).map((p) => plotMetrics(p).basalAreaM2PerHa)
      );
      if (Math.abs(mean - 12.10938) <= half!) held += 1;
    }
    expect(held / 400).toBeGreaterThan(0.85);
    expect(held / 400).toBeLessThan(0.95);
  });
});

describe('precision', () => {
  it('uses Student’s t: R qt(0.95, 9) = 1.833113, qt(0.95, 1) = 6.313752', () => {
    const ten = meanOverPlots(Array.from({ length: 10 }, (_, i) => i));
    expect(ten.half! / ten.se!).toBeCloseTo(1.833113, 5);
    const two = meanOverPlots([10, 20]);
    expect(two.half! / two.se!).toBeCloseTo(6.313752, 5);
    // R: sd(c(10, 20)) / mean(c(10, 20))
    expect(two.cv).toBeCloseTo(0.4714045, 6);
  });

  it('one plot has a mean and no interval', () => {
    expect(meanOverPlots([12])).toEqual({ plots: 1, mean: 12, se: null, half: null, cv: null });
    expect(meanOverPlots([])).toMatchObject({ plots: 0, mean: 0, half: null });
  });

  it('the plots that are said to be needed are enough, and one fewer is not', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.2, max: 1, noNaN: true }), fc.constantFrom(0.1, 0.15, 0.25), (cv, wished) => {
        const n = plotsNeeded(cv, wished)!;
        // Plots of just this variation: half of them above, half below the mean.
        const half = (plots: number) => {
          const spread = (cv * Math.sqrt(plots - 1)) / Math.sqrt(plots);
          const values = Array.from({ length: plots }, (_, i) => 1 + (i % 2 ? spread : -spread));
          return plots % 2 ? null : meanOverPlots(values).half!;
        };
        const enough = half(n);
        if (enough !== null) expect(enough).toBeLessThanOrEqual(wished + 1e-9);
        const fewer = half(n - 1);
        if (fewer !== null && n > 3) expect(fewer).toBeGreaterThan(wished - 1e-9);
      })
    );
    expect(plotsNeeded(50, 0.01)).toBeNull();
  });

  it('counts a gauge tree without its diameter in the basal area alone', () => {
    const plot: Plot = { design: { kind: 'gauge', bafM2PerHa: 4 }, trees: [{ species: 'redMaple', dbhMm: null }] };
    expect(plotMetrics(plot)).toEqual({ stemsPerHa: null, basalAreaM2PerHa: 4, mapleShare: 1 });
    expect(expansionFactor(plot.design, plot.trees[0]!)).toBeNull();
    expect(cruiseStructure([plot])).toBeNull();
  });

  it('weighs the maples of each plot by what stands there, and an empty plot by nothing', () => {
    const gauge = { kind: 'gauge', bafM2PerHa: 2 } as const;
    const of = (...species: PlotTree['species'][]): Plot => ({
      design: gauge,
      trees: species.map((s) => ({ species: s, dbhMm: null }))
    });
    expect(cruiseMapleShare([of('sugarMaple'), of('redMaple', 'beech', 'beech'), of()])).toBeCloseTo(0.5, 9);
    expect(cruiseMapleShare([of(), of()])).toBeNull();
  });
});
