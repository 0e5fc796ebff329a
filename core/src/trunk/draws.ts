import type { Rng } from '../random/index.ts';
import type { Column } from './column.ts';
import { drawColumn } from './column.ts';
import type { ColumnModel, DrillPractice } from './defaults.ts';
import { alongSurface, type Trunk } from './trunk.ts';

/**
 * One possible truth about a trunk: every column that a new hole could still meet. Columns that straddle the line where
 * the unrolled trunk is cut are held once; askers wrap their own distances.
 */
export type TrunkDraw = readonly Column[];

/**
 * Draws possible truths. All places of a trunk are judged against the same draws, so that two places differ by the
 * wood between them and not by chance.
 * @param ringCv relative uncertainty of the growth that buried the holes (0 = taken as known)
 */
export function drawTrunks(
  trunk: Trunk,
  practice: Pick<DrillPractice, 'depthMm'>,
  model: ColumnModel,
  draws: number,
  rng: Rng,
  ringCv = 0
): TrunkDraw[] {
  return Array.from({ length: draws }, () => {
    const lean = Math.tan((rng.normal(0, model.grainSdDeg) * Math.PI) / 180);
    const growth = Math.max(0, rng.normal(1, ringCv));
    const columns: Column[] = [];
    trunk.holes.forEach((hole, index) => {
      const leftMm = alongSurface(trunk, hole.bearingDeg);
      const column = drawColumn(hole, { index, leftMm, lean, buriedMm: hole.buriedMm * growth }, model, rng);
      if (column.fromDepthMm < practice.depthMm) columns.push(column);
    });
    return columns;
  });
}
