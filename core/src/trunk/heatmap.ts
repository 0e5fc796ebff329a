import { overlapOf, stainedShare, type Overlap } from './column.ts';
import type { ColumnModel } from './defaults.ts';
import type { TrunkDraw } from './draws.ts';
import { beyondSapwood, shorterWay, type BitPath } from './spot.ts';
import type { Trunk } from './trunk.ts';

/**
 * Chance of clear wood over the whole band. Row 0 is the lowest height, column 0 the bearing 0 (north); bearings grow
 * with the column. Cell values belong to cell centres.
 */
export interface HeatMap {
  readonly columns: number;
  readonly rows: number;
  readonly lowestMm: number;
  readonly highestMm: number;
  readonly draws: number;
  /** chance of clear wood, `rows * columns` values in 0..1 */
  readonly pClear: Float32Array;
  /** mean stained share of the path */
  readonly stained: Float32Array;
}

export interface HeatMapGrid {
  readonly columns: number;
  readonly rows: number;
  readonly lowestMm: number;
  readonly highestMm: number;
}

/** Cells of about `cellMm` on the trunk's surface. */
export function gridFor(trunk: Trunk, lowestMm: number, highestMm: number, cellMm: number): HeatMapGrid {
  return {
    columns: Math.max(12, Math.round((2 * Math.PI * trunk.woodRadiusMm) / cellMm)),
    rows: Math.max(4, Math.round((highestMm - lowestMm) / cellMm)),
    lowestMm,
    highestMm
  };
}

/** Height of a row's cell centres, mm. */
export function rowHeight(grid: HeatMapGrid, row: number): number {
  return grid.lowestMm + ((row + 0.5) * (grid.highestMm - grid.lowestMm)) / grid.rows;
}

/** Bearing of a column's cell centres, degrees. */
export function columnBearing(grid: HeatMapGrid, column: number): number {
  return ((column + 0.5) * 360) / grid.columns;
}

/**
 * The heat map of a trunk. Every draw paints its columns onto the cells they reach, so the work grows with the stained
 * wood and not with cells times holes.
 */
export function heatMap(
  trunk: Trunk,
  draws: readonly TrunkDraw[],
  path: BitPath,
  model: ColumnModel,
  grid: HeatMapGrid
): HeatMap {
  const { columns, rows } = grid;
  const cells = columns * rows;
  const hits = new Float32Array(cells);
  const sum = new Float32Array(cells);
  const round = 2 * Math.PI * trunk.woodRadiusMm;
  const cellWidth = round / columns;
  const rowStep = (grid.highestMm - grid.lowestMm) / rows;
  const tooDeep = beyondSapwood(trunk, path, model);
  const always = stainedShare(tooDeep ? [tooDeep] : [], path.bitMm, path.depthMm);

  const met = new Map<number, Overlap[]>();
  for (const drawn of draws) {
    met.clear();
    for (const column of drawn) {
      const first = Math.max(0, Math.ceil((column.heightMm - column.halfLengthMm - grid.lowestMm) / rowStep - 0.5));
      const last = Math.min(
        rows - 1,
        Math.floor((column.heightMm + column.halfLengthMm - grid.lowestMm) / rowStep - 0.5)
      );
      const reach = column.halfWidthMm + path.bitMm / 2;
      for (let row = first; row <= last; row++) {
        const height = rowHeight(grid, row);
        const centre = column.leftMm + (height - column.heightMm) * column.lean;
        const from = Math.ceil((centre - reach) / cellWidth - 0.5);
        const to = Math.floor((centre + reach) / cellWidth - 0.5);
        for (let c = from; c <= to; c++) {
          const offset = shorterWay(column.leftMm - (c + 0.5) * cellWidth, round);
          const overlap = overlapOf(column, offset, height, path.bitMm, path.depthMm);
          if (!overlap) continue;
          const cell = row * columns + (((c % columns) + columns) % columns);
          const list = met.get(cell);
          if (list) list.push(overlap);
          else met.set(cell, tooDeep ? [tooDeep, overlap] : [overlap]);
        }
      }
    }
    for (const [cell, overlaps] of met) {
      const share = stainedShare(overlaps, path.bitMm, path.depthMm);
      // Cells that no column reaches keep the share beyond the sapwood; here only what differs from it is added.
      sum[cell]! += share - always;
      hits[cell]! += (share > model.hitShare ? 1 : 0) - (always > model.hitShare ? 1 : 0);
    }
  }
  const n = Math.max(1, draws.length);
  const base = always > model.hitShare ? 1 : 0;
  return {
    ...grid,
    draws: draws.length,
    pClear: hits.map((h) => 1 - base - h / n),
    stained: sum.map((s) => always + s / n)
  };
}
