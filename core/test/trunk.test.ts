import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { seededRng } from '../src/math/index.ts';
import { PlacedTrunk, placeHoles, type PlacementTask } from '../src/rotation/index.ts';
import {
  columnBearing,
  columnHalfLength,
  DEFAULT_COLUMNS,
  DEFAULT_PRACTICE,
  drawTrunks,
  gridFor,
  heatMap,
  instruct,
  judgeSpot,
  meanVolumeRatio,
  rowHeight,
  stainedShare,
  trunkToday,
  type Overlap,
  type RecordedHole,
  type Trunk
} from '../src/trunk/index.ts';

const hole = (season: number, bearingDeg: number, heightMm: number): RecordedHole => ({
  season,
  bearingDeg,
  heightMm,
  bitMm: 7.9375,
  depthMm: 38.1
});

const askSpot = (of: PlacementTask, bearingDeg: number, heightMm: number) =>
  new PlacedTrunk(of).ask({ bearingDeg, heightMm }).outlook;

/** A trunk tapped for twelve years on its south side, as roadside trees are. */
const sunnySide = trunkToday(
  360,
  1.4,
  2027,
  Array.from({ length: 12 }, (_, i) => hole(2015 + i, 160 + ((i * 37) % 50), 800 + ((i * 151) % 600)))
);

const task = (trunk: Trunk, more: Partial<PlacementTask> = {}): PlacementTask => ({
  trunk,
  practice: DEFAULT_PRACTICE,
  model: DEFAULT_COLUMNS,
  seed: 7,
  draws: 400,
  cellMm: 20,
  ringMm: 1.4,
  ringCv: 0.2,
  wanted: 3,
  taps: 0,
  ...more
});

describe('columns', () => {
  it('are about 197 mm long each way behind a 5/16 in hole', () => {
    const halfWidth = 7.9375 / 2 + DEFAULT_COLUMNS.sideMarginMedianMm;
    expect(columnHalfLength(DEFAULT_COLUMNS.volumeRatioMedian, 7.9375, halfWidth)).toBeCloseTo(199.7, 0);
    expect(meanVolumeRatio(DEFAULT_COLUMNS)).toBeCloseTo(87.2, 1);
  });

  it('hold the volume that their ratio says', () => {
    const a0 = 7;
    const length = columnHalfLength(80, 8, a0);
    // Integrate the spindle's width over its length; the depth is the hole's own and cancels.
    let area = 0;
    const steps = 10_000;
    for (let i = 0; i < steps; i++) {
      const u = (2 * (i + 0.5)) / steps - 1;
      area += (2 * a0 * (1 - u * u) * 2 * length) / steps;
    }
    expect(area / ((Math.PI / 4) * 64)).toBeCloseTo(80, 3);
  });

  it('that overlap on a path are counted once', () => {
    const interval = (max: number) =>
      fc
        .tuple(fc.integer({ min: 0, max }), fc.integer({ min: 1, max: 6 }))
        .map(([a, n]) => [a, Math.min(max + 1, a + n)] as const);
    const rectangle = fc
      .tuple(interval(7), interval(9))
      .map(([[left, right], [from, to]]): Overlap => ({ left, right, from, to }));
    fc.assert(
      fc.property(fc.array(rectangle, { maxLength: 6 }), (overlaps) => {
        let cells = 0;
        for (let x = 0; x < 8; x++)
          for (let s = 0; s < 10; s++)
            if (overlaps.some((o) => o.left <= x && x < o.right && o.from <= s && s < o.to)) cells += 1;
        expect(stainedShare(overlaps, 8, 10)).toBeCloseTo(cells / 80, 9);
      })
    );
  });
});

describe('the heat map', () => {
  it('says at every cell what asking that spot says', () => {
    const path = DEFAULT_PRACTICE;
    const on = { trunk: sunnySide, path, model: DEFAULT_COLUMNS };
    const drawn = drawTrunks(on, { draws: 150, rng: seededRng(3), ringCv: 0.2 });
    for (const depthMm of [38.1, 90]) {
      const deep = { ...drawn, path: { ...path, depthMm } };
      const map = heatMap(deep, gridFor(sunnySide, 600, 1500, 35));
      for (let row = 0; row < map.rows; row++)
        for (let column = 0; column < map.columns; column++) {
          const spot = judgeSpot(deep, { bearingDeg: columnBearing(map, column), heightMm: rowHeight(map, row) });
          expect(map.pClear[row * map.columns + column]).toBeCloseTo(spot.pClear, 4);
          expect(map.stained[row * map.columns + column]).toBeCloseTo(spot.stained, 4);
        }
    }
  });

  it('is the same for the same seed, and turns with the trunk', () => {
    const turned: Trunk = {
      ...sunnySide,
      holes: sunnySide.holes.map((h) => ({ ...h, bearingDeg: (h.bearingDeg + 170) % 360 }))
    };
    expect(placeHoles(task(sunnySide)).map.pClear).toEqual(placeHoles(task(sunnySide)).map.pClear);
    const at = askSpot(task(sunnySide), 195, 1000);
    const there = askSpot(task(turned), 5, 1000);
    expect(there.pClear).toBeCloseTo(at.pClear, 9);
  });

  it('an untouched trunk is clear everywhere; new wood only ever clears', () => {
    const bare = placeHoles(task({ ...sunnySide, holes: [] }));
    expect(Math.min(...bare.map.pClear)).toBe(1);
    const mean = (trunk: Trunk) => placeHoles(task(trunk)).map.stained.reduce((a, b) => a + b, 0);
    const grown: Trunk = { ...sunnySide, holes: sunnySide.holes.map((h) => ({ ...h, buriedMm: h.buriedMm + 12 })) };
    expect(mean(grown)).toBeLessThan(mean(sunnySide));
  });

  it('counts wood beyond the sapwood as lost', () => {
    const path = { ...DEFAULT_PRACTICE, depthMm: 100 };
    const drawn = { trunk: { ...sunnySide, holes: [] }, draws: [[]], path, model: DEFAULT_COLUMNS };
    const spot = judgeSpot(drawn, { bearingDeg: 0, heightMm: 1000 });
    expect(spot.stained).toBeCloseTo(0.25, 9);
    expect(spot.pClear).toBe(0);
  });

  it('asks for no hole deeper than the sapwood', () => {
    const practice = { ...DEFAULT_PRACTICE, depthMm: 100 };
    const { depthMm, proposals } = placeHoles(task({ ...sunnySide, holes: [] }, { practice }));
    expect(depthMm).toBe(DEFAULT_COLUMNS.sapwoodMm);
    expect(proposals[0]!.outlook.pClear).toBe(1);
  });
});

describe('the best holes', () => {
  it('are clear, lie in the band, and keep their spacing from each other and from this season’s', () => {
    const taken = [{ bearingDeg: 0, heightMm: 1000 }];
    const { proposals } = placeHoles(task(sunnySide, { taken }));
    expect(proposals).toHaveLength(3);
    const arc = (a: number, b: number) =>
      (Math.abs(((a - b + 540) % 360) - 180) * Math.PI * sunnySide.woodRadiusMm) / 180;
    const all = [...taken, ...proposals];
    all.forEach((a, i) =>
      all.slice(i + 1).forEach((b) => {
        expect(Math.hypot(arc(a.bearingDeg, b.bearingDeg), a.heightMm - b.heightMm)).toBeGreaterThanOrEqual(299);
        expect(arc(a.bearingDeg, b.bearingDeg)).toBeGreaterThanOrEqual(152);
      })
    );
    for (const { heightMm, outlook } of proposals) {
      expect(outlook.pClear).toBeGreaterThan(0.97);
      expect(heightMm).toBeGreaterThan(600);
      expect(heightMm).toBeLessThan(1500);
    }
  });

  it('keep away from defects', () => {
    const defect = { bearingDeg: 90, heightMm: 1050, marginMm: 500 };
    for (const p of placeHoles(task(sunnySide, { keepOff: [defect] })).proposals) {
      const arc = (Math.abs(((p.bearingDeg - 90 + 540) % 360) - 180) * Math.PI * sunnySide.woodRadiusMm) / 180;
      expect(Math.hypot(arc, p.heightMm - 1050)).toBeGreaterThanOrEqual(500);
    }
  });

  it('leave clear wood beside a hole that is in the way, and say which', () => {
    const spot = askSpot(task(trunkToday(400, 1.5, 2027, [hole(2026, 90, 1000)])), 90, 1025);
    expect(spot.pClear).toBeLessThan(0.5);
    expect(spot.inTheWay[0]).toMatchObject({ hole: 0 });
  });
});

describe('an instruction', () => {
  const trunk = trunkToday(400, 1.5, 2027, []);
  const mark = { name: { kind: 'feature' as const, what: 'nail' as const }, bearingDeg: 180, heightMm: 1200 };

  it('left is left for someone who faces the trunk: from the south side, west', () => {
    const bearingDeg = 180 + (90 / 200 / Math.PI) * 180;
    const { from, body } = instruct(trunk, { bearingDeg, heightMm: 960 }, mark);
    expect(from!.leftMm).toBeCloseTo(90, 9);
    expect([from!.upMm, body]).toEqual([-240, 'hip']);
    expect(instruct(trunk, { bearingDeg, heightMm: 960 }, null).from).toBeNull();
  });

  it('reads heights off the body from the snow that she stands on; what hangs too high without it is known', () => {
    expect(instruct(trunk, { bearingDeg: 138, heightMm: 1750 }, null, 700)).toMatchObject({
      body: 'belly',
      highBare: true
    });
    expect(instruct(trunk, { bearingDeg: 138, heightMm: 1400 }, null, 700).highBare).toBe(false);
  });
});
