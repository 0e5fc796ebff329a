import type { BitPath } from './defaults.ts';

/** What lays wood open as a bit does, only wider; a limb is one that broke off. */
export const WOUND_KINDS = ['wound', 'seam', 'limb'] as const;
export type WoundKind = (typeof WOUND_KINDS)[number];

/**
 * A hole of an earlier season, as today's trunk holds it.
 * Bearing in degrees clockwise from north seen from above; heights and depths in mm.
 */
export interface OldHole {
  readonly season: number;
  readonly bearingDeg: number;
  readonly heightMm: number;
  readonly bitMm: number;
  /** depth into the wood of its season */
  readonly depthMm: number;
  /** wood laid over it since, radially */
  readonly buriedMm: number;
  /** who wrote it down; left out where nobody is known */
  readonly authorId?: string;
  /** errors of place of whoever drilled it, against the bush's; 1 where nothing is said */
  readonly hand?: number;
  /** what laid the wood open where no bit did: the opening is as wide as its `bitMm`, and reaches to the pith */
  readonly wound?: WoundKind;
  /** how little is known of a scar that nobody wrote down; its own numbers are then the middle of what is thought likely */
  readonly unsure?: {
    /** one standard deviation of its place, mm */
    readonly sidewaysMm: number;
    readonly upMm: number;
    /** wood over it lies somewhere between */
    readonly buriedFromMm: number;
    readonly buriedToMm: number;
    /** how likely it is there at all; left out where it is */
    readonly chance?: number;
  };
}

/**
 * One drawn truth about an old hole's column of stained, non-conductive wood. Sideways distances are measured along
 * the wood's surface, to the left as the steward faces the trunk (that is the way bearings grow).
 */
export interface Column {
  /** which of the trunk's old holes it belongs to */
  readonly hole: number;
  /** centre at the hole's own height */
  readonly leftMm: number;
  readonly heightMm: number;
  /** half-width at the hole, half-length up and down */
  readonly halfWidthMm: number;
  readonly halfLengthMm: number;
  /** tangent of the grain's lean: sideways shift per height */
  readonly lean: number;
  /** radial extent under today's wood surface */
  readonly fromDepthMm: number;
  readonly toDepthMm: number;
}

/**
 * Half-length of the spindle whose width falls as `1 - (u/L)^2` and whose volume is `rho` times the hole's:
 * the radial depth cancels, leaving `2 * a0 * 4L/3 = rho * pi/4 * d^2`, so `L = 3 * rho * (pi/4 d^2) / (8 * a0)`.
 */
export function columnHalfLength(volumeRatio: number, bitMm: number, halfWidthMm: number): number {
  return (3 * volumeRatio * (Math.PI / 4) * bitMm * bitMm) / (8 * halfWidthMm);
}

/** The part of a drill path that a column takes: across the strip of the bit's width, and along its depth. */
export interface Overlap {
  readonly left: number;
  readonly right: number;
  readonly from: number;
  readonly to: number;
}

/** Where a path lies beside a column. */
export interface PathBeside extends BitPath {
  /** how far left of the path the column's centre lies at the column's own height */
  readonly offsetMm: number;
  /** at which the path is drilled */
  readonly heightMm: number;
}

/**
 * What a column takes of a path.
 * @returns null where the path misses the column
 */
export function overlapOf(column: Column, { offsetMm, heightMm, bitMm, depthMm }: PathBeside): Overlap | null {
  const up = heightMm - column.heightMm;
  const part = up / column.halfLengthMm;
  if (part <= -1 || part >= 1) return null;
  const halfWidth = column.halfWidthMm * (1 - part * part);
  const centre = offsetMm + up * column.lean;
  const left = Math.max(-bitMm / 2, centre - halfWidth);
  const right = Math.min(bitMm / 2, centre + halfWidth);
  const from = Math.max(0, column.fromDepthMm);
  const to = Math.min(depthMm, column.toDepthMm);
  return left < right && from < to ? { left, right, from, to } : null;
}

/**
 * Share of the path (a strip, bit wide and hole deep) that lies in the union of the overlaps.
 * Overlaps are rectangles: cut the depth at every edge and join the intervals across in each slab.
 */
export function stainedShare(overlaps: readonly Overlap[], bitMm: number, depthMm: number): number {
  if (overlaps.length === 0) return 0;
  const whole = bitMm * depthMm;
  const [a, b] = overlaps as [Overlap, Overlap | undefined];
  if (!b) return areaOf(a) / whole;
  if (overlaps.length === 2) return (areaOf(a) + areaOf(b) - areaShared(a, b)) / whole;
  const cuts = [...new Set(overlaps.flatMap((o) => [o.from, o.to]))].sort((a, b) => a - b);
  const across = [...overlaps].sort((a, b) => a.left - b.left);
  let area = 0;
  for (let i = 0; i + 1 < cuts.length; i++) {
    const from = cuts[i]!;
    const to = cuts[i + 1]!;
    let reached = -Infinity;
    let width = 0;
    for (const o of across) {
      if (o.from >= to || o.to <= from) continue;
      const start = Math.max(o.left, reached);
      if (o.right > start) {
        width += o.right - start;
        reached = o.right;
      }
    }
    area += width * (to - from);
  }
  return area / whole;
}

function areaOf(o: Overlap): number {
  return (o.right - o.left) * (o.to - o.from);
}

function areaShared(a: Overlap, b: Overlap): number {
  const across = Math.min(a.right, b.right) - Math.max(a.left, b.left);
  const along = Math.min(a.to, b.to) - Math.max(a.from, b.from);
  return across > 0 && along > 0 ? across * along : 0;
}
