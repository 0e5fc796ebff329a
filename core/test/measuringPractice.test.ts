import { describe, expect, it } from 'vitest';

import {
  BREAST_HEIGHT_METRIC_MM,
  diameterUp,
  drawTrunk,
  judgeMeasured,
  rightPlaces,
  stepMm,
  stickShows,
  tapeShows,
  TRUNK_TROUBLES,
  yearsOfGrowth,
  type TrunkScene,
  type TrunkTrouble
} from '../src/measure/index.ts';
import { seededRng } from '../src/math/index.ts';

const BH = BREAST_HEIGHT_METRIC_MM;
const scene = (trouble: TrunkTrouble, seed = 4) => drawTrunk(seededRng(seed), BH, trouble);
const laid = (heightMm: number, change: object = {}) => ({ heightMm, tiltDeg: 0, bothStems: false, ...change });
const girth = (trunk: TrunkScene, at: ReturnType<typeof laid>, factor = 1) => ({
  valueMm: factor * tapeShows(trunk, at),
  quantity: 'girth' as const
});
const faultsOf = (trunk: TrunkScene, at: ReturnType<typeof laid>, factor = 1) =>
  judgeMeasured(trunk, at, girth(trunk, at, factor)).faults.map(({ fault }) => fault);

describe('a trunk to practise on', () => {
  it('measured where and how it should be is told its own size, whatever its trouble', () => {
    for (const trouble of TRUNK_TROUBLES.filter((each) => each !== 'stick'))
      for (let seed = 1; seed < 30; seed++) {
        const trunk = scene(trouble, seed);
        const places = rightPlaces(trunk);
        expect(places.length, trouble).toBeGreaterThan(0);
        for (const [from, to] of places) {
          const at = laid((from + to) / 2);
          const { faults, trueMm, writtenMm } = judgeMeasured(trunk, at, girth(trunk, at));
          expect(faults, `${trouble} ${seed}`).toEqual([]);
          // Within three per cent: a place above or below a swelling is not breast height itself.
          expect(Math.abs(writtenMm / trueMm - 1), `${trouble} ${seed}`).toBeLessThan(0.03);
        }
      }
  });

  it('a tape off square reads too much: by half of the square of its tilt in the mean', () => {
    // The girth of an ellipse whose long axis is 1 / cos 15° of the short one: 1.0178 times that of the circle (Ramanujan 1914).
    const trunk = scene('none');
    expect(tapeShows(trunk, laid(BH, { tiltDeg: 15 })) / tapeShows(trunk, laid(BH))).toBeCloseTo(1.0178, 3);
    expect(faultsOf(trunk, laid(BH, { tiltDeg: 15 }))).toEqual(['notSquare']);
    expect(faultsOf(trunk, laid(BH, { tiltDeg: 3 }))).toEqual([]);
  });

  it('names what went wrong, and what it alone costs', () => {
    const slope = scene('slope');
    expect(stepMm(slope)).toBeCloseTo(slope.dbhMm * Math.tan((slope.slopeDeg * Math.PI) / 180), 6);
    expect(faultsOf(slope, laid(BH - stepMm(slope)))).toEqual(['fromDownhill']);
    expect(faultsOf(scene('none'), laid(BH - 400))).toEqual(['tooLow']);
    expect(faultsOf(scene('none'), laid(BH + 400))).toEqual(['tooHigh']);

    const swollen = scene('swelling');
    const onIt = laid(swollen.swelling!.atMm);
    const { faults } = judgeMeasured(swollen, onIt, girth(swollen, onIt));
    expect(faults.map(({ fault }) => fault)).toEqual(['onSwelling']);
    expect(faults[0]!.offMm).toBeGreaterThan(0.06 * swollen.dbhMm);
    expect(yearsOfGrowth(faults[0]!.offMm)).toBeGreaterThan(3);

    const forked = scene('forkBelow');
    expect(diameterUp(forked, BH)).toBeCloseTo(forked.dbhMm, -1);
    expect(faultsOf(forked, laid(BH, { bothStems: true }))).toEqual(['bothStems']);
    expect(faultsOf(forked, laid(BH))).toEqual([]);
    // Below the fork it is the whole trunk, which is another and larger one.
    const under = laid(forked.forkMm! - 250);
    expect(judgeMeasured(forked, under, girth(forked, under)).faults[0]!.offMm).toBeGreaterThan(0.25 * forked.dbhMm);
  });

  it('knows slips of the pen: girth for diameter, inches for centimetres, and a tape misread', () => {
    const trunk = scene('none');
    const at = laid(BH);
    const asDiameter = judgeMeasured(trunk, at, { valueMm: tapeShows(trunk, at), quantity: 'diameter' });
    expect(asDiameter.faults.map(({ fault }) => fault)).toEqual(['girthAsDiameter']);
    const asGirth = judgeMeasured(trunk, at, { valueMm: trunk.dbhMm, quantity: 'girth' });
    expect(asGirth.faults.map(({ fault }) => fault)).toEqual(['diameterAsGirth']);
    expect(faultsOf(trunk, at, 2.54)).toEqual(['cmAsInch']);
    expect(faultsOf(trunk, at, 1 / 2.54)).toEqual(['inchAsCm']);
    expect(faultsOf(trunk, at, 1.1)).toEqual(['misread']);
    expect(faultsOf(trunk, at, 1.005)).toEqual([]);
  });

  it('a stick held across shows less than the trunk: what it showed is put right, or costs years of growth', () => {
    const trunk = scene('stick');
    const at = laid(BH);
    const seen = stickShows(trunk, BH);
    // Avery & Burkhart's mark for its diameter at its reach.
    expect(seen).toBeCloseTo(trunk.dbhMm * Math.sqrt(trunk.reachMm! / (trunk.reachMm! + trunk.dbhMm)), 6);
    const judge = (asSeen: boolean) => judgeMeasured(trunk, at, { valueMm: seen, quantity: 'diameter', asSeen });
    expect(judge(true).faults).toEqual([]);
    expect(judge(true).writtenMm).toBeCloseTo(trunk.dbhMm, 6);
    expect(judge(false).faults.map(({ fault }) => fault)).toEqual(['asSeen']);
    expect(judge(false).faults[0]!.offMm).toBeLessThan(-0.1 * trunk.dbhMm);
  });

  it('above a swelling and below it are right, on it is not; a fork just above breast height is kept clear of from below', () => {
    for (let seed = 1; seed < 30; seed++) {
      const swollen = scene('swelling', seed);
      const places = rightPlaces(swollen);
      const at = swollen.swelling!.atMm;
      if (places.length === 2) {
        expect(places[0]![1]).toBeLessThan(at);
        expect(places[1]![0]).toBeGreaterThan(at);
      }
      const fork = scene('forkAbove', seed);
      expect(rightPlaces(fork).every(([, to]) => to < fork.forkMm!)).toBe(true);
    }
  });
});
