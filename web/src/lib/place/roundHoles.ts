import { wrapDegrees, type BarkSpot } from '@baumkin/core';

/** A hole this far from where it was planned was meant to be another one, mm. */
const ANOTHER_MM = 150;

/** What became of a tree's planned holes. */
export interface RoundState<T extends BarkSpot, D extends BarkSpot> {
  /** planned, and not drilled yet */
  readonly open: readonly T[];
  /** planned, and drilled there or thereabouts */
  readonly done: readonly T[];
  /** how far the farthest of the drilled ones is from where it was planned, mm; null where nothing planned was drilled */
  readonly offMm: number | null;
  /** drilled where nothing was planned */
  readonly elsewhere: readonly D[];
}

/** Tells which planned holes were drilled: each drilled hole takes the planned one that it lies nearest to. */
export function roundState<T extends BarkSpot, D extends BarkSpot>(
  planned: readonly T[],
  drilled: readonly D[],
  barkRadiusMm: number
): RoundState<T, D> {
  const away = (a: BarkSpot, b: BarkSpot) =>
    Math.hypot((wrapDegrees(a.bearingDeg - b.bearingDeg) * Math.PI * barkRadiusMm) / 180, a.heightMm - b.heightMm);
  const pairs = drilled
    .flatMap((hole) => planned.map((to) => ({ hole, to, mm: away(hole, to) })))
    .filter(({ mm }) => mm <= ANOTHER_MM)
    .sort((a, b) => a.mm - b.mm);
  const [holes, done] = [new Set<D>(), new Map<T, number>()];
  for (const { hole, to, mm } of pairs) {
    if (holes.has(hole) || done.has(to)) continue;
    holes.add(hole);
    done.set(to, mm);
  }
  return {
    open: planned.filter((to) => !done.has(to)),
    done: planned.filter((to) => done.has(to)),
    offMm: done.size > 0 ? Math.max(...done.values()) : null,
    elsewhere: drilled.filter((hole) => !holes.has(hole))
  };
}
