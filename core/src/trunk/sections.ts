import type { BarkSpot } from '../geometry/index.ts';
import { normaliseBearing, toDegrees } from '../math/index.ts';
import { overlapOf, type Column } from './column.ts';
import type { DrawnTrunk, TrunkDraw } from './draws.ts';
import { beyondSapwood, shorterWay } from './spot.ts';
import { alongSurface, type Trunk } from './trunk.ts';

/** A buried column where a section cuts it, in the mean over what is thought possible. */
export interface CutColumn {
  readonly hole: number;
  /** chance that it reaches this height at all */
  readonly chance: number;
  /** where it lies there, and half its width */
  readonly bearingDeg: number;
  readonly halfWidthMm: number;
  readonly fromDepthMm: number;
  readonly toDepthMm: number;
}

/** Old columns as a saw at this height would show them. */
export function crossSection(trunk: Trunk, draws: readonly TrunkDraw[], heightMm: number): CutColumn[] {
  const sums = new Map<number, { n: number; left: number; half: number; from: number; to: number }>();
  for (const columns of draws)
    for (const column of columns) {
      const half = halfWidthAt(column, heightMm);
      if (half <= 0) continue;
      const sum = sums.get(column.hole) ?? { n: 0, left: 0, half: 0, from: 0, to: 0 };
      sum.n += 1;
      sum.left += column.leftMm + (heightMm - column.heightMm) * column.lean;
      sum.half += half;
      sum.from += column.fromDepthMm;
      sum.to += column.toDepthMm;
      sums.set(column.hole, sum);
    }
  return [...sums].map(([hole, { n, left, half, from, to }]) => ({
    hole,
    chance: n / draws.length,
    bearingDeg: normaliseBearing(toDegrees(left / n / trunk.woodRadiusMm)),
    halfWidthMm: half / n,
    fromDepthMm: from / n,
    toDepthMm: to / n
  }));
}

function halfWidthAt(column: Column, heightMm: number): number {
  const part = (heightMm - column.heightMm) / column.halfLengthMm;
  return Math.abs(part) < 1 ? column.halfWidthMm * (1 - part * part) : 0;
}

/**
 * What a bit meets on its way in: for each millimetre of depth the share of its width that is stained, in the mean over
 * the draws. Their mean over the depth is the stained share that the heat map shows there.
 */
export function alongPath({ trunk, draws, path, model }: DrawnTrunk, { bearingDeg, heightMm }: BarkSpot): Float32Array {
  const { bitMm, depthMm } = path;
  const steps = Math.ceil(depthMm);
  const along = new Float32Array(steps);
  const round = 2 * Math.PI * trunk.woodRadiusMm;
  const here = alongSurface(trunk, bearingDeg);
  const tooDeep = beyondSapwood(trunk, path, model);
  for (const columns of draws) {
    const met = columns.flatMap(
      (column) =>
        overlapOf(column, { offsetMm: shorterWay(column.leftMm - here, round), heightMm, bitMm, depthMm }) ?? []
    );
    if (tooDeep) met.push(tooDeep);
    if (met.length === 0) continue;
    met.sort((a, b) => a.left - b.left);
    for (let step = 0; step < steps; step++) {
      // The last step may be a part of a millimetre.
      const [top, bottom] = [step, Math.min(step + 1, depthMm)];
      let [reached, width] = [-Infinity, 0];
      for (const { left, right, from, to } of met) {
        const deep = (Math.min(bottom, to) - Math.max(top, from)) / (bottom - top);
        if (deep <= 0) continue;
        const start = Math.max(left, reached);
        if (right <= start) continue;
        width += (right - start) * deep;
        reached = right;
      }
      along[step]! += width / bitMm / draws.length;
    }
  }
  return along;
}

/** A picture of chances, row by row from the lowest height; columns run inward from the wood's surface. */
export interface LengthwiseSection {
  readonly rows: number;
  readonly columns: number;
  readonly lowestMm: number;
  readonly stepMm: number;
  /** chance of stain, 0 to 1 */
  readonly stained: Float32Array;
}

/** The trunk cut open along a path's bearing: chance of stain by height and depth. */
export function lengthwise(
  trunk: Trunk,
  draws: readonly TrunkDraw[],
  bearingDeg: number,
  extent: { readonly lowestMm: number; readonly highestMm: number; readonly depthMm: number; readonly stepMm: number }
): LengthwiseSection {
  const { lowestMm, stepMm } = extent;
  const rows = Math.max(1, Math.round((extent.highestMm - lowestMm) / stepMm));
  const columns = Math.max(1, Math.round(extent.depthMm / stepMm));
  const stained = new Float32Array(rows * columns);
  const round = 2 * Math.PI * trunk.woodRadiusMm;
  const here = alongSurface(trunk, bearingDeg);
  const seen = new Int32Array(rows * columns).fill(-1);
  draws.forEach((drawn, draw) => {
    for (const column of drawn) {
      const offset = shorterWay(column.leftMm - here, round);
      const first = Math.max(0, Math.ceil((column.heightMm - column.halfLengthMm - lowestMm) / stepMm - 0.5));
      const last = Math.min(rows - 1, Math.floor((column.heightMm + column.halfLengthMm - lowestMm) / stepMm - 0.5));
      const from = Math.max(0, Math.round(column.fromDepthMm / stepMm));
      const to = Math.min(columns, Math.round(column.toDepthMm / stepMm));
      for (let row = first; row <= last; row++) {
        const heightMm = lowestMm + (row + 0.5) * stepMm;
        const centre = offset + (heightMm - column.heightMm) * column.lean;
        if (Math.abs(centre) >= halfWidthAt(column, heightMm)) continue;
        for (let c = from; c < to; c++) {
          const cell = row * columns + c;
          if (seen[cell] === draw) continue;
          seen[cell] = draw;
          stained[cell]! += 1 / draws.length;
        }
      }
    }
  });
  return { rows, columns, lowestMm, stepMm, stained };
}
