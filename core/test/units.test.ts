import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { userFacing } from '../src/errors/index.ts';
import {
  formatBasalAreaDensity,
  formatLength,
  formatHeap,
  formatPatch,
  formatPerGround,
  formatStacked,
  formatVolume,
  parseLength,
  parseTrunkLength,
  UnreadableLength
} from '../src/units/index.ts';

describe('trunk lengths as people write them', () => {
  it.each([
    ['14 3/8"', 14.375 * 25.4, null],
    ['14-3/8 in', 14.375 * 25.4, null],
    ['14⅜ in', 14.375 * 25.4, null],
    ['3/4"', 0.75 * 25.4, null],
    ['½"', 0.5 * 25.4, null],
    ['5/16 in', (5 / 16) * 25.4, null],
    [`1' 3/4"`, 12.75 * 25.4, null],
    ['14.4 in', 365.76, null],
    ['36,5 cm', 365, null],
    [`1' 2"`, 14 * 25.4, null],
    [`1'2`, 14 * 25.4, null],
    ['3 ft', 914.4, null],
    ['0.36 m', 360, null],
    ['365mm', 365, null],
    ['girth 115', 1150, 'girth'],
    ['115 cm girth', 1150, 'girth'],
    ['circ. 45 in', 1143, 'girth'],
    ['dbh: 36.5', 365, 'diameter'],
    ['⌀ 36', 360, 'diameter'],
    ['radius 18 cm', 180, 'radius']
  ])('%s', (text, mm, quantity) => {
    const parsed = parseTrunkLength(text, 'cm');
    expect(parsed.valueMm).toBeCloseTo(mm, 6);
    expect(parsed.quantity).toBe(quantity);
  });

  it.each([
    '',
    'thick',
    '12 in 13 cm',
    '36 36',
    '-5 cm',
    '0',
    '1,234',
    '4/0"',
    'girth 10 diameter 3',
    '1e5',
    'NaN',
    '5 miles',
    '14⅜',
    '14 3/8 cm',
    '3/4',
    '9'.repeat(400)
  ])('asks about "%s"', (text) => {
    expect(() => parseTrunkLength(text, 'cm')).toThrow(UnreadableLength);
  });

  it('reads back what it writes, to the digit shown', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 2000, noNaN: true }),
        fc.constantFrom('metric' as const, 'inch' as const),
        (mm, system) => {
          const written = formatLength(mm, system, 'trunk');
          const half = system === 'metric' ? 0.5 : 1.27;
          expect(Math.abs(parseTrunkLength(written, 'cm').valueMm - mm)).toBeLessThanOrEqual(half + 1e-9);
        }
      )
    );
  });
});

describe('any other length', () => {
  it.each([
    ['0', 0],
    ['0 ft', 0],
    ['4.2', 4200],
    ['14 ft', 4267.2],
    [`6' 3"`, 1905]
  ])('%s', (text, mm) => {
    expect(parseLength(text, 'm').valueMm).toBeCloseTo(mm, 6);
  });

  it.each(['', '-4', 'girth 4', '4 m 20', '4 m 5 m'])('asks about "%s"', (text) => {
    expect(() => parseLength(text, 'm')).toThrow(UnreadableLength);
  });

  it('quotes all that was written, not the half it stumbled over', () => {
    expect(() => parseTrunkLength('girth of it', 'cm')).toThrow('"girth of it"');
  });
});

describe('figures for people', () => {
  it('writes drill sizes as binary fractions in lowest terms', () => {
    expect(formatLength(7.9375, 'inch', 'drill')).toBe('5/16 in');
    expect(formatLength(38.1, 'inch', 'drill')).toBe('1 1/2 in');
    expect(formatLength(7.9375, 'metric', 'drill')).toBe('8 mm');
    expect(formatLength(3_395_900, 'metric', 'way')).toBe('3.4 km');
    expect(formatLength(640_200, 'metric', 'way')).toBe('640 m');
    // The international mile is 5280 ft.
    expect(formatLength(1.5 * 5280 * 304.8, 'inch', 'way')).toBe('1.5 mi');
  });

  it('turns basal area per hectare into square feet per acre', () => {
    // Arbogast 1957 keeps 92 ft2/ac; 1 m2/ha = 4.356 ft2/ac (Avery & Burkhart, Forest Measurements).
    expect(formatBasalAreaDensity(92 / 4.356, 'inch')).toBe('92 ft²/ac');
  });
});

describe('volumes', () => {
  it('a US gallon is 231 cubic inches (NIST Handbook 44, appendix C)', () => {
    expect(formatVolume((231 * 25.4 ** 3) / 1e6, 'inch')).toBe('1 gal');
    expect(formatVolume(3785.411784, 'inch')).toBe('1,000 gal');
    expect(formatVolume(1234.4, 'metric')).toBe('1,234 l');
    // A cord is 4 ft by 4 ft by 8 ft; an acre 4046.8564224 m2.
    expect(formatStacked(4 * 4 * 8 * 0.3048 ** 3, 'inch')).toBe('1.0 cords');
    expect(formatStacked(12.4, 'metric')).toBe('12 m³');
    expect(formatPerGround(10_000 / 4046.8564224, 'inch')).toBe('1 per acre');
    expect(formatPerGround(165.4, 'metric')).toBe('165 per ha');
    expect(formatPerGround(17_242, 'metric')).toBe('17,200 per ha');
    expect(formatPatch(0.3048 ** 2 * 400, 'inch')).toBe('400 ft²');
    expect(formatHeap(0.9144 ** 3 * 7, 'inch')).toBe('7 yd³');
  });
});

describe('an error that a person is told', () => {
  it('is known by its code after it came out of a worker, where its class is lost', () => {
    const thrown = (() => {
      try {
        return parseTrunkLength('a foot or so', 'cm');
      } catch (error) {
        return error as Error;
      }
    })() as Error;
    // As comlink hands an error over: name and message, and nothing else.
    const arrived = Object.assign(new Error(thrown.message), { name: thrown.name });
    expect(userFacing(thrown)).toEqual({ code: 'unreadableLength', message: thrown.message });
    expect(userFacing(arrived)).toEqual(userFacing(thrown));
    expect(userFacing(new TypeError('x is undefined'))).toBeNull();
    expect(userFacing('unreadableLength')).toBeNull();
  });
});
