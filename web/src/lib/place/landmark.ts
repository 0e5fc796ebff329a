import { compassPoint, paintOf, wrapDegrees, type Landmark } from '@baumkin/core';

import type { TreePlacement } from './task.ts';

interface Spot {
  readonly bearingDeg: number;
  readonly heightMm: number;
}

/** The newest paint mark to measure from; of several of one season, the one nearest to the spot. */
export function landmarkNear({ holes, task }: TreePlacement, spot: Spot, season: number): Landmark | null {
  if (holes.length === 0) return null;
  const newest = Math.max(...holes.map((hole) => hole.season));
  const marks = holes.filter((hole) => hole.season === newest);
  const away = (mark: Spot) =>
    Math.hypot(
      (wrapDegrees(mark.bearingDeg - spot.bearingDeg) * Math.PI * task.trunk.barkRadiusMm) / 180,
      mark.heightMm - spot.heightMm
    );
  const { bearingDeg, heightMm } = marks.reduce((a, b) => (away(b) < away(a) ? b : a));
  const which = newest === season ? 'this season’s' : 'the newest';
  const side = marks.length > 1 ? ` on the ${compassPoint(bearingDeg)} side` : '';
  return { name: `${which} ${paintOf(newest)} mark${side}`, bearingDeg, heightMm };
}
