import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { gga } from '../../standins/receiver.mjs';
import { decodeText } from '../src/lib/client/decode.ts';
import { meanFix, phoneFix, placer } from '@baumkin/core/geometry';
import { fixOf } from '../src/lib/devices/nmea.ts';

describe('texts of files', () => {
  const bytes = (...list: number[]) => new Uint8Array(list).buffer;
  it('are read in the encodings that spreadsheets write', () => {
    expect(decodeText(bytes(0xc3, 0xa9))).toBe('é');
    expect(decodeText(bytes(0xe9))).toBe('é');
    expect(decodeText(bytes(0xff, 0xfe, 0xe9, 0x00, 0x41, 0x00))).toBe('éA');
    expect(decodeText(bytes(0xfe, 0xff, 0x00, 0xe9))).toBe('é');
  });
});

describe('a satellite receiver', () => {
  it('is understood: the example sentence of the NMEA 0183 standard (from memory)', () => {
    const fix = fixOf('$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*47')!;
    expect(fix.lat).toBeCloseTo(48 + 7.038 / 60, 9);
    expect(fix.lon).toBeCloseTo(11 + 31 / 60, 9);
    expect(fix.sdM).toBeCloseTo(2.7, 9);
  });

  it('that sees nothing, speaks of something else or is garbled gives no place', () => {
    expect(fixOf('$GPGGA,123519,,,,,0,00,,,M,,M,,*6B')).toBeNull();
    expect(fixOf('$GPGSA,A,3,04,05,,09,12,,,24,,,,,2.5,1.3,2.1*39')).toBeNull();
    expect(fixOf('$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*48')).toBeNull();
    expect(fixOf('hello')).toBeNull();
  });

  it('standing in for one, ours says where it stands, wherever that is', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -89, max: 89, noNaN: true }),
        fc.double({ min: -179.9, max: 179.9, noNaN: true }),
        (lat, lon) => {
          const fix = fixOf(gga(lat, lon, new Date('2026-11-23T10:00:00Z')))!;
          // Five decimals of a minute are two centimetres.
          expect(Math.abs(fix.lat - lat)).toBeLessThan(2e-7);
          expect(Math.abs(fix.lon - lon)).toBeLessThan(2e-7);
        }
      )
    );
  });

  it('is surer the longer it stands, but not as if its fixes were independent', () => {
    const fixes = (n: number) =>
      Array.from({ length: n }, (_, i) => ({
        lat: 46 + (i % 2) * 1e-5,
        lon: 11,
        sdM: 3,
        leastM: 0
      }));
    expect(meanFix([])).toBeNull();
    expect(meanFix(fixes(1))!.accuracyM).toBe(3);
    const minute = meanFix(fixes(61))!;
    expect(minute.accuracyM).toBeLessThan(3);
    expect(minute.accuracyM).toBeGreaterThan(3 / Math.sqrt(61));
    expect(meanFix(fixes(2))!.lat).toBeCloseTo(46 + 0.5e-5, 12);
  });

  it('of a phone is never told as nearer than 3 m, and its accuracy as a radius of 68 %', () => {
    // W3C Geolocation: accuracy is "the 95 % confidence level"; a radius of 68 % is 1.5 standard deviations in the plane.
    const phone = (accuracy: number) => phoneFix({ latitude: 46, longitude: 11, accuracy });
    expect(phone(15).sdM).toBeCloseTo(10, 9);
    expect(phone(15).sdM).toBeGreaterThan(15 / Math.sqrt(-2 * Math.log(0.05)));
    expect(Math.sqrt(-2 * Math.log(1 - 0.68))).toBeCloseTo(1.5, 1);
    expect([phone(4).sdM, phone(0).sdM]).toEqual([3, 3]);
    const hour = Array.from({ length: 3600 }, () => phone(5));
    expect(meanFix(hour)!.accuracyM).toBe(3);
  });
});

describe('a picture laid down by two points', () => {
  const pin = fc.record({
    x: fc.integer({ min: 0, max: 4000 }),
    y: fc.integer({ min: 0, max: 3000 }),
    eastM: fc.integer({ min: -500, max: 500 }),
    northM: fc.integer({ min: -500, max: 500 })
  });
  it('has both at their places, keeps its proportions, and turns no mirror image', () => {
    fc.assert(
      fc.property(pin, pin, (a, b) => {
        const pixels = Math.hypot(a.x - b.x, a.y - b.y);
        const metres = Math.hypot(a.eastM - b.eastM, a.northM - b.northM);
        fc.pre(pixels >= 10 && metres >= 1);
        const { toMetres, metresPerPixel } = placer([a, b]);
        for (const p of [a, b]) {
          const [east, north] = toMetres(p.x, p.y);
          expect([east, north]).toEqual([expect.closeTo(p.eastM, 6), expect.closeTo(p.northM, 6)]);
        }
        expect(metresPerPixel).toBeCloseTo(metres / pixels, 9);
        // A quarter turn to the right in the picture is one to the right on the ground.
        const [o, right, down] = [toMetres(0, 0), toMetres(100, 0), toMetres(0, 100)];
        const cross = (right[0] - o[0]) * (down[1] - o[1]) - (right[1] - o[1]) * (down[0] - o[0]);
        expect(cross).toBeLessThan(0);
      })
    );
  });

  it('with north up has no turn', () => {
    const { turnDeg, metresPerPixel } = placer([
      { x: 0, y: 100, eastM: 10, northM: 0 },
      { x: 100, y: 0, eastM: 60, northM: 50 }
    ]);
    expect([turnDeg, metresPerPixel]).toEqual([expect.closeTo(0, 9), expect.closeTo(0.5, 9)]);
  });
});
