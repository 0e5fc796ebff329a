import type { BarkSpot } from '../geometry/index.ts';

import { overlapOf, stainedShare, type Overlap } from './column.ts';
import type { BitPath, ColumnModel } from './defaults.ts';
import type { DrawnTrunk } from './draws.ts';
import { alongSurface, type Trunk } from './trunk.ts';

/** What the wood at one spot promises. */
export interface SpotOutlook {
  /** chance that no more than the hit share of the path is stained */
  readonly pClear: number;
  /** mean share of the path in stained wood */
  readonly stained: number;
  /** expected flow against a hole in clear wood: `1 - stained` */
  readonly flow: number;
  /** mean depth at which the path first meets stain, mm; the hole's depth where it never does */
  readonly clearDepthMm: number;
  /** old holes in the way, most often first, with the share of draws in which they were */
  readonly inTheWay: readonly { readonly hole: number; readonly share: number }[];
}

/** The end of a path that runs past the sapwood or past the middle of the trunk, as an overlap; null if none does. */
export function beyondSapwood(trunk: Trunk, { bitMm, depthMm }: BitPath, model: ColumnModel): Overlap | null {
  const reach = Math.min(model.sapwoodMm, trunk.woodRadiusMm);
  return depthMm > reach ? { left: -bitMm / 2, right: bitMm / 2, from: reach, to: depthMm } : null;
}

/** A distance round the trunk brought to the shorter way. */
export function shorterWay(mm: number, roundMm: number): number {
  return mm - roundMm * Math.round(mm / roundMm);
}

/** Judges one spot against the drawn truths of its trunk. */
export function judgeSpot({ trunk, draws, path, model }: DrawnTrunk, { bearingDeg, heightMm }: BarkSpot): SpotOutlook {
  const round = 2 * Math.PI * trunk.woodRadiusMm;
  const here = alongSurface(trunk, bearingDeg);
  const { bitMm, depthMm } = path;
  const tooDeep = beyondSapwood(trunk, path, model);
  const times = new Map<number, number>();
  let hits = 0;
  let stained = 0;
  let clearDepth = 0;
  for (const columns of draws) {
    const overlaps: Overlap[] = tooDeep ? [tooDeep] : [];
    for (const column of columns) {
      const offset = shorterWay(column.leftMm - here, round);
      const overlap = overlapOf(column, { offsetMm: offset, heightMm, bitMm, depthMm });
      if (!overlap) continue;
      overlaps.push(overlap);
      times.set(column.hole, (times.get(column.hole) ?? 0) + 1);
    }
    const share = stainedShare(overlaps, bitMm, depthMm);
    stained += share;
    if (share > model.hitShare) hits += 1;
    clearDepth += Math.min(depthMm, ...overlaps.map((o) => o.from));
  }
  const n = Math.max(1, draws.length);
  return {
    pClear: 1 - hits / n,
    stained: stained / n,
    flow: 1 - stained / n,
    clearDepthMm: clearDepth / n,
    inTheWay: [...times]
      .map(([hole, count]) => ({ hole, share: count / n }))
      .sort((a, b) => b.share - a.share || a.hole - b.hole)
  };
}
