import { compassPoint, paintOf, wrapDegrees, type Landmark, type TrunkFeature } from '@baumkin/core';

import type { TreePlacement } from './task.ts';
import { FEATURE_WORDS } from './words.ts';

interface Spot {
  readonly bearingDeg: number;
  readonly heightMm: number;
}

/** A tape is laid no farther than this from a mark, mm: beyond, compass and height say it better. */
const FARTHEST_MM = 900;

/**
 * What to measure from: the newest paint mark; of several of one season, the one nearest to the spot. Where none is near,
 * the tag nail, a big root or limb.
 */
export function landmarkNear(
  { holes, task }: TreePlacement,
  features: readonly TrunkFeature[],
  spot: Spot,
  season: number
): Landmark | null {
  const away = (mark: Spot) =>
    Math.hypot(
      (wrapDegrees(mark.bearingDeg - spot.bearingDeg) * Math.PI * task.trunk.barkRadiusMm) / 180,
      mark.heightMm - spot.heightMm
    );
  const nearest = <T extends Spot>(all: readonly T[]): T | undefined =>
    all.length > 0 ? all.reduce((a, b) => (away(b) < away(a) ? b : a)) : undefined;
  const newest = Math.max(...holes.map((hole) => hole.season));
  const marks = holes.filter((hole) => hole.season === newest);
  const mark = nearest(marks);
  const feature = nearest(features.filter(({ what }) => what === 'nail' || what === 'root' || what === 'limb'));
  if (mark && (away(mark) <= FARTHEST_MM || !feature || away(feature) >= away(mark))) {
    const which = newest === season ? 'this season’s' : 'the newest';
    const side = marks.length > 1 ? ` on the ${compassPoint(mark.bearingDeg)} side` : '';
    return { name: `${which} ${paintOf(newest)} mark${side}`, bearingDeg: mark.bearingDeg, heightMm: mark.heightMm };
  }
  if (!feature) return null;
  const name = FEATURE_WORDS[feature.what].replace(/^a /, 'the ');
  return { name, bearingDeg: feature.bearingDeg, heightMm: feature.heightMm };
}
