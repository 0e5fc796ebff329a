import { describe, expect, it } from 'vitest';

import { seededRng } from '../src/math/index.ts';
import { DEFAULT_COLUMNS, drawTrunks, judgeSpot, type Trunk } from '../src/trunk/index.ts';

// Reference values: an independent Monte Carlo of the column model of docs/model.md, "Where to drill", with at least
// 200,000 draws: one old hole, 5/16 in by 38.1 mm, and a new hole of the same size; growth since in mm of radius.
const TABLE = [
  { left: 0, up: 25.4, grown: 2, pHit: 0.69, within: 0.02, stained: 0.455, stainedWithin: 0.015 },
  { left: 0, up: 203, grown: 2, pHit: 0.155, within: 0.015, stained: 0.072, stainedWithin: 0.006 },
  { left: 25, up: 229, grown: 2, pHit: 0.05, within: 0.006, stained: 0.022, stainedWithin: 0.004 },
  { left: 152, up: 152, grown: 2, pHit: 0, within: 0.001, stained: 0, stainedWithin: 0.001 },
  { left: 0, up: 25.4, grown: 38.2, pHit: 0, within: 0, stained: 0, stainedWithin: 0 }
];

describe('a new hole near one old hole', () => {
  it.each(TABLE)('$left mm beside, $up mm above, $grown mm grown since', (row) => {
    const hole = { season: 2025, bearingDeg: 90, heightMm: 1000, bitMm: 7.9375, depthMm: 38.1, buriedMm: row.grown };
    const trunk: Trunk = { woodRadiusMm: 200, barkRadiusMm: 210, holes: [hole] };
    const path = { bitMm: 7.9375, depthMm: 38.1 };
    const drawn = drawTrunks({ trunk, path, model: DEFAULT_COLUMNS }, { draws: 200_000, rng: seededRng(1) });
    const bearing = 90 + ((row.left / 200) * 180) / Math.PI;
    const outlook = judgeSpot(drawn, { bearingDeg: bearing, heightMm: 1000 + row.up });
    expect(Math.abs(1 - outlook.pClear - row.pHit)).toBeLessThanOrEqual(row.within);
    expect(Math.abs(outlook.stained - row.stained)).toBeLessThanOrEqual(row.stainedWithin);
  });
});
