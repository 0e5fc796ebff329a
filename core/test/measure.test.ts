import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import {
  biltmoreMark,
  diameterFromStick,
  BREAST_HEIGHT_US_MM,
  combinedDiameter,
  diameterAt,
  diameterFromGirth,
  estimateGrowth,
  fractionalYear,
  girthFromDiameter,
  questionReading,
  siftReadings,
  type DatedDiameter,
  type MeasureMethod
} from '../src/measure/index.ts';
import { MM_PER_INCH } from '../src/units/index.ts';
import { readTable } from './data/read.ts';

const read = (year: number, dbhMm: number, method: MeasureMethod = 'diameterTape'): DatedDiameter => ({
  year,
  dbhMm,
  method
});

const UNLIKE = { crownClass: null };
const CODOMINANT = { crownClass: 'codominant' } as const;

describe('diameter', () => {
  it('breast height is 4.5 ft in US practice (US Forest Service FIA field guide)', () => {
    expect(BREAST_HEIGHT_US_MM).toBeCloseTo(4.5 * 304.8, 9);
  });

  it('30 inches round is a 9.5 inch tree (common practice)', () => {
    expect(diameterFromGirth(30 * MM_PER_INCH) / MM_PER_INCH).toBeCloseTo(9.55, 2);
  });

  it('two stems of 30 and 40 count as one of 50', () => {
    expect(combinedDiameter([300, 400])).toBeCloseTo(500, 9);
  });

  // Avery & Burkhart, Forest Measurements; 25 in reach.
  it.each([
    [10, 8.45],
    [20, 14.91],
    [30, 20.23]
  ])('a Biltmore stick marks %d in at %d in', (diameter, mark) => {
    expect(biltmoreMark(diameter, 25)).toBeCloseTo(mark, 2);
    expect(diameterFromStick(mark, 25)).toBeCloseTo(diameter, 1);
  });
});

describe('growth', () => {
  it('finds the slope of the orange trees that ordinary least squares finds', () => {
    // R datasets::Orange, tree 1: coef(lm(circumference ~ age)) = 24.43785, 0.08147716 (girth, mm and days).
    const tree = readTable('orange.csv').filter((row) => row.tree === 1);
    const readings = tree.map((row) => read(row.age_d! / 365, diameterFromGirth(row.circumference_mm!)));
    const ring = estimateGrowth(readings, UNLIKE).observed!.ringMm;
    expect(ring * 2 * Math.PI).toBeCloseTo(0.08147716 * 365, 4);
  });

  it('weighs each reading by its method, as weighted least squares does', () => {
    // Made once with numpy 2.4: linalg.lstsq of rows divided by their method's error, and the inverse of its normal matrix.
    const readings = [
      read(2009.8, 281, 'girthTape'),
      read(2014.8, 296, 'girthTape'),
      read(2019.8, 306),
      read(2022.5, 330, 'biltmore'),
      read(2024.8, 322)
    ];
    const { ringMm, seMm } = estimateGrowth(readings, UNLIKE).observed!;
    expect(2 * ringMm).toBeCloseTo(2.700477405685148, 9);
    expect(2 * seMm).toBeCloseTo(0.22376144193041345, 9);
  });

  it('through the fast years of the orange trees it is as steep as the logistic curve that R fits', () => {
    // R datasets::Orange, nls(circumference ~ SSlogis(age, Asym, xmid, scal)): 192.687, 728.756, 353.533, RSS 17480.23.
    const logistic = (days: number) => 192.687 / (1 + Math.exp((728.756 - days) / 353.533));
    const rows = readTable('orange.csv');
    const rss = rows.reduce((sum, row) => sum + (row.circumference_mm! - logistic(row.age_d!)) ** 2, 0);
    expect(rss).toBeCloseTo(17480.23, 1);
    const fast = rows.filter((row) => row.age_d! > 400 && row.age_d! < 1300);
    const ringOf = (girthMm: (row: (typeof rows)[number]) => number) =>
      estimateGrowth(
        fast.map((row) => read(row.age_d! / 365, diameterFromGirth(girthMm(row)))),
        UNLIKE
      ).observed!.ringMm;
    const measured = ringOf((row) => row.circumference_mm!);
    const fitted = ringOf((row) => logistic(row.age_d!));
    const meanDays = fast.reduce((sum, row) => sum + row.age_d!, 0) / fast.length;
    const spread = Math.sqrt(fast.reduce((sum, row) => sum + (row.age_d! - meanDays) ** 2, 0));
    const slopeSe = Math.sqrt(17480.23 / (rows.length - 3)) / spread;
    expect(Math.abs(measured - fitted)).toBeLessThan((2 * slopeSe * 365) / (2 * Math.PI));
  });

  it('two tape readings three seasons apart say little', () => {
    const growth = estimateGrowth([read(2020, 300), read(2023, 318)], CODOMINANT);
    expect(growth.observed!.ringMm).toBeCloseTo(3, 9);
    expect(growth.observed!.seMm).toBeCloseTo((2 * Math.SQRT2) / 3 / 2, 9);
    expect(growth.ringMm).toBeLessThan(3);
    expect(growth.ringMm).toBeGreaterThan(1.4);
  });

  it('lies between the readings and the crown class, and never at or below zero', () => {
    const readings = fc.array(
      fc.record({
        year: fc.integer({ min: 1990, max: 2026 }),
        dbhMm: fc.integer({ min: 50, max: 900 }),
        method: fc.constantFrom<MeasureMethod>('diameterTape', 'biltmore', 'hug')
      }),
      { maxLength: 8 }
    );
    fc.assert(
      fc.property(readings, (list) => {
        const growth = estimateGrowth(list, CODOMINANT);
        expect(growth.ringMm).toBeGreaterThan(0);
        expect(growth.ringSeMm).toBeGreaterThan(0);
        if (!growth.observed) return;
        expect(growth.ringMm).toBeLessThanOrEqual(Math.max(1.4, growth.observed.ringMm) + 1e-9);
        expect(growth.ringMm).toBeGreaterThanOrEqual(Math.min(0.1, growth.observed.ringMm));
        expect(growth.ringSeMm).toBeLessThanOrEqual(growth.observed.seMm + 1e-9);
      })
    );
  });

  it('carries the diameter on to today', () => {
    const readings = [read(2016, 300), read(2021, 315)];
    const growth = estimateGrowth(readings, CODOMINANT);
    expect(diameterAt(readings, growth, 2026)).toBeGreaterThan(320);
    expect(diameterAt(readings, growth, 2026)).toBeLessThan(335);
  });

  it('counts the end of September as three quarters of the year', () => {
    expect(fractionalYear('2021-10-01')).toBeCloseTo(2021.748, 3);
  });
});

describe('the guard', () => {
  const last = read(2021, 300);

  it.each<[string, DatedDiameter, string]>([
    ['girth typed as diameter', read(2026, 1000), 'girthAsDiameter'],
    ['diameter typed as girth', read(2026, 101), 'diameterAsGirth'],
    ['inches typed as centimetres', read(2026, 123), 'inchAsCm'],
    ['centimetres typed as inches', read(2026, 800), 'cmAsInch'],
    ['a trunk that shrank', read(2026, 270), 'unknown'],
    ['a trunk that grew too fast', read(2026, 420), 'unknown']
  ])('names %s', (_, next, cause) => {
    expect(questionReading(next, last)?.cause).toBe(cause);
  });

  it('the correction it offers would pass', () => {
    for (const dbhMm of [1000, 101, 123, 800]) {
      const corrected = questionReading(read(2026, dbhMm), last)!.correctedDbhMm!;
      expect(questionReading(read(2026, corrected), last)).toBeNull();
    }
  });

  it('sees the neighbour when tags were swapped', () => {
    const question = questionReading(read(2026, 462), last, [{ tag: '118', last: read(2021, 445) }]);
    expect(question).toMatchObject({ cause: 'swappedTag', neighbourTag: '118' });
  });

  it('questions a first reading only where no maple is that thick or thin', () => {
    expect(questionReading(read(2026, 350), null)).toBeNull();
    expect(questionReading(read(2026, girthFromDiameter(600)), null)?.correctedDbhMm).toBeCloseTo(600, 6);
  });

  it('does not nag an honest slow tree read twice with a Biltmore stick', () => {
    expect(questionReading(read(2026, 290, 'biltmore'), read(2025, 310, 'biltmore'))).toBeNull();
  });

  it('never questions growth between nothing and 12 mm a year', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 30 }), fc.double({ min: 0, max: 12, noNaN: true }), (years, growth) => {
        expect(questionReading(read(2000 + years, 300 + growth * years), read(2000, 300))).toBeNull();
      })
    );
  });
});

describe('readings of one tree that contradict each other', () => {
  const read = (year: number, dbhMm: number, confirmed = false) => ({
    year,
    dbhMm,
    method: 'diameterTape' as const,
    confirmed
  });
  const asked = (...readings: ReturnType<typeof read>[]) => siftReadings(readings).map((q) => q?.cause ?? null);

  it('the odd one out is asked about, whichever came first, in a bush of two trees as well', () => {
    const [a, b, c] = [read(2017, 308), read(2020, 316), read(2023, 324)];
    expect(asked(read(2014, 950), a, b, c)).toEqual(['girthAsDiameter', null, null, null]);
    expect(asked(a, read(2018.5, 980), b, c)).toEqual([null, 'girthAsDiameter', null, null]);
    expect(asked(a, b, c, read(2026, 1030))).toEqual([null, null, null, 'girthAsDiameter']);
    expect(asked(read(2014, 620), a, b)).toEqual(['unknown', null, null]);
  });

  it('a confirmed reading is gone by, and agreement of the others cannot outvote it', () => {
    expect(asked(read(2014, 950, true), read(2017, 308), read(2020, 316))).toEqual([
      null,
      'diameterAsGirth',
      'diameterAsGirth'
    ]);
  });

  it('an honest slow tree is not nagged, and of two that disagree the later is asked about', () => {
    expect(asked(read(2015, 300), read(2020, 302), read(2025, 303))).toEqual([null, null, null]);
    expect(asked(read(2015, 300), read(2020, 942))).toEqual([null, 'girthAsDiameter']);
    expect(siftReadings([])).toEqual([]);
  });
});
