import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import {
  blended,
  boiledTo,
  brixOfDensity,
  finishesAt,
  finishRise,
  hydrometerBrix,
  iceTakenOff,
  keepsHours,
  litresToSyrup,
  massKg,
  pressureAt,
  sapToSyrup,
  specificGravity,
  stockFor,
  sugarKg,
  syrupDensity,
  turned,
  waterBoilsAt,
  waterDensity
} from '../src/sap/index.ts';

describe('density', () => {
  it('of syrup is that of Bates, NBS Circular 440, specific gravity at 20/20 °C', () => {
    for (const [brix, gravity] of [
      [65, 1.31866],
      [66, 1.32476],
      [67, 1.3309]
    ] as const)
      expect(Math.abs(specificGravity(brix) - gravity)).toBeLessThan(0.0005);
    // The same table lower down, from memory.
    expect(Math.abs(specificGravity(10) - 1.04003)).toBeLessThan(0.0005);
    expect(Math.abs(specificGravity(20) - 1.08287)).toBeLessThan(0.0005);
  });

  it('of water is as every handbook has it', () => {
    // CRC Handbook, from memory: kg/m³.
    expect(waterDensity(4)).toBeCloseTo(999.97, 2);
    expect(waterDensity(20)).toBeCloseTo(998.2, 1);
    expect(Math.abs(waterDensity(100) - 958.4)).toBeLessThan(0.2);
  });

  it('falls with warmth, rises with sugar, and tells the sugar back', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 80, noNaN: true }),
        fc.double({ min: 0, max: 95, noNaN: true }),
        (brix, t) => {
          const density = syrupDensity(brix, t);
          expect(syrupDensity(brix + 1, t)).toBeGreaterThan(density);
          if (t > 5) expect(syrupDensity(brix, t + 5)).toBeLessThan(density);
          expect(brixOfDensity(density, t)!).toBeCloseTo(brix, 4);
        }
      )
    );
    expect(brixOfDensity(900)).toBeNull();
    expect(() => syrupDensity(120)).toThrow('no syrup');
  });

  it('a hydrometer in hot syrup is corrected: the mark for hot syrup stands at about 59 on one made for 66.9 at 60 °F', () => {
    // The red line of syrup hydrometers for 211 °F, from memory.
    expect(Math.abs(hydrometerBrix(59, 99.4, 15.6)! - 66.9)).toBeLessThan(0.3);
    expect(hydrometerBrix(66, 20)).toBeCloseTo(66, 6);
    expect(hydrometerBrix(2, 0)!).toBeLessThan(2);
  });
});

describe('boiling', () => {
  it('of water by pressure is that of the steam tables', () => {
    for (const [hpa, celsius] of [
      [1013.25, 100],
      [900, 96.7],
      [850, 95.15]
    ] as const)
      expect(Math.abs(waterBoilsAt(hpa) - celsius)).toBeLessThan(0.05);
    expect(() => waterBoilsAt(30)).toThrow('no pressure');
  });

  it('by altitude goes by the standard atmosphere of ICAO', () => {
    for (const [metres, hpa] of [
      [0, 1013.25],
      [500, 954.6],
      [1000, 898.7],
      [1500, 845.6]
    ] as const)
      expect(Math.abs(pressureAt(metres) - hpa)).toBeLessThan(0.1);
  });

  it('of finished syrup is 7.1 °F above that of water, 219 °F at the sea: US grade standards', () => {
    expect(finishRise(66) * 1.8).toBeCloseTo(7.1, 0);
    expect(Math.abs(finishesAt(66, 1013.25) * 1.8 + 32 - 219)).toBeLessThan(0.15);
    expect(finishRise(66.9)).toBeCloseTo(4.2, 6);
    expect(() => finishRise(60)).toThrow('not finished');
  });
});

describe('sugar', () => {
  const sap = fc.record({
    litres: fc.double({ min: 0.5, max: 5000, noNaN: true }),
    brix: fc.double({ min: 0.3, max: 12, noNaN: true })
  });

  it('is kept by boiling, by blending, and by freezing out with what the ice takes', () => {
    fc.assert(
      fc.property(
        fc.array(sap, { minLength: 1, maxLength: 6 }),
        fc.double({ min: 12, max: 68, noNaN: true }),
        (parts, to) => {
          const all = blended(parts);
          const sum = parts.reduce((total, part) => total + sugarKg(part), 0);
          expect(sugarKg(all) / sum).toBeCloseTo(1, 9);
          const { syrup, waterKg } = boiledTo(all, to);
          expect(sugarKg(syrup) / sum).toBeCloseTo(1, 9);
          expect((massKg(syrup) + waterKg) / massKg(all)).toBeCloseTo(1, 9);
          const { left, lostSugarKg } = iceTakenOff(all, all.litres / 3);
          expect((sugarKg(left) + lostSugarKg) / sum).toBeCloseTo(1, 9);
          expect(left.brix).toBeGreaterThan(all.brix);
        }
      )
    );
    expect(() => iceTakenOff({ litres: 10, brix: 2 }, 12)).toThrow('more ice');
    expect(() => boiledTo({ litres: 10, brix: 70 }, 66)).toThrow('no thinner');
  });

  it('makes as much syrup by mass as the rule of 86 says (Jones 1946), within three per cent', () => {
    // 2 % 43, 2.5 % 34.4, 3 % 28.7.
    for (const brix of [2, 2.5, 3]) expect(litresToSyrup(brix, 66) / sapToSyrup(brix)).toBeCloseTo(1, 1);
    expect(Math.abs(litresToSyrup(2, 66) / sapToSyrup(2) - 1)).toBeLessThan(0.03);
  });
});

describe('what is mixed and kept', () => {
  it('is 103 ml of 29 % by volume, or 94 by weight, to a litre of three per cent: C1 V1 = C2 V2', () => {
    expect(stockFor(1, 3, { pct: 29, by: 'volume' }) * 1000).toBeCloseTo(103.4, 1);
    expect(Math.abs(stockFor(1, 3, { pct: 29, by: 'weight' }) * 1000 - 94)).toBeLessThan(1);
    expect(() => stockFor(1, 3, { pct: 3, by: 'volume' })).toThrow('no 3 %');
  });

  it('keeps about a week at 1 °C, two to three days at 4 to 7, a day at 10. Working assumption', () => {
    expect(keepsHours(1)).toBe(168);
    expect(keepsHours(5.5)).toBeGreaterThan(48);
    expect(keepsHours(5.5)).toBeLessThan(72);
    expect(keepsHours(10)).toBeCloseTo(24, 0);
    expect(
      turned([
        { tempC: 10, hours: 12 },
        { tempC: 1, hours: 84 }
      ])
    ).toBeCloseTo(1, 1);
  });
});
