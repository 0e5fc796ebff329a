import { stainedShare, type Overlap } from './column.ts';
import type { DrawnTrunk } from './draws.ts';
import { beyondSapwood } from './spot.ts';
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
 * wood and not with cells times holes. Most cells meet one column at most: its overlap is kept in plain arrays, and
 * only cells that meet more get a list. The same geometry as `overlapOf`, with what is the same along a row taken out.
 */
export function heatMap({ trunk, draws, path, model }: DrawnTrunk, grid: HeatMapGrid): HeatMap {
  const { columns, rows } = grid;
  const { bitMm, depthMm } = path;
  const cells = columns * rows;
  const hits = new Float32Array(cells);
  const sum = new Float32Array(cells);
  const cellWidth = (2 * Math.PI * trunk.woodRadiusMm) / columns;
  const rowStep = (grid.highestMm - grid.lowestMm) / rows;
  const tooDeep = beyondSapwood(trunk, path, model);
  const always = stainedShare(tooDeep ? [tooDeep] : [], bitMm, depthMm);
  const alwaysHit = always > model.hitShare ? 1 : 0;

  // What the present draw has put on a cell: the draw that touched it last, and its first overlap.
  const touchedBy = new Int32Array(cells).fill(-1);
  const [left, right, from, to] = [0, 0, 0, 0].map(() => new Float64Array(cells)) as [
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array
  ];
  const touched: number[] = [];
  const several = new Map<number, Overlap[]>();

  const put = (draw: number, cell: number, overlap: Overlap): void => {
    if (touchedBy[cell] !== draw) {
      touchedBy[cell] = draw;
      touched.push(cell);
      left[cell] = overlap.left;
      right[cell] = overlap.right;
      from[cell] = overlap.from;
      to[cell] = overlap.to;
      if (tooDeep) several.set(cell, [tooDeep, overlap]);
      return;
    }
    const list = several.get(cell) ?? [{ left: left[cell]!, right: right[cell]!, from: from[cell]!, to: to[cell]! }];
    list.push(overlap);
    several.set(cell, list);
  };

  draws.forEach((drawn, draw) => {
    for (const column of drawn) {
      const f = Math.max(0, column.fromDepthMm);
      const t = Math.min(depthMm, column.toDepthMm);
      if (f >= t) continue;
      const { heightMm, halfLengthMm } = column;
      const first = Math.max(0, Math.ceil((heightMm - halfLengthMm - grid.lowestMm) / rowStep - 0.5));
      const last = Math.min(rows - 1, Math.floor((heightMm + halfLengthMm - grid.lowestMm) / rowStep - 0.5));
      for (let row = first; row <= last; row++) {
        const up = rowHeight(grid, row) - heightMm;
        const part = up / halfLengthMm;
        const halfWidth = column.halfWidthMm * (1 - part * part);
        if (halfWidth <= 0) continue;
        const centre = column.leftMm + up * column.lean;
        const reach = halfWidth + bitMm / 2;
        const end = Math.floor((centre + reach) / cellWidth - 0.5);
        for (let c = Math.ceil((centre - reach) / cellWidth - 0.5); c <= end; c++) {
          const offset = centre - (c + 0.5) * cellWidth;
          const l = Math.max(-bitMm / 2, offset - halfWidth);
          const r = Math.min(bitMm / 2, offset + halfWidth);
          if (l < r)
            put(draw, row * columns + (((c % columns) + columns) % columns), { left: l, right: r, from: f, to: t });
        }
      }
    }
    for (const cell of touched) {
      const list = several.size > 0 ? several.get(cell) : undefined;
      const share = list
        ? stainedShare(list, bitMm, depthMm)
        : ((right[cell]! - left[cell]!) * (to[cell]! - from[cell]!)) / (bitMm * depthMm);
      // Cells that no column reaches keep the share beyond the sapwood; here only what differs from it is added.
      sum[cell]! += share - always;
      hits[cell]! += (share > model.hitShare ? 1 : 0) - alwaysHit;
    }
    touched.length = 0;
    several.clear();
  });
  const n = Math.max(1, draws.length);
  return {
    ...grid,
    draws: draws.length,
    pClear: hits.map((h) => 1 - alwaysHit - h / n),
    stained: sum.map((s) => always + s / n)
  };
}
