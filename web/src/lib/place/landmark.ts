import { compassPoint, wrapDegrees, type BarkSpot, type Landmark, type Paint, type TrunkFeature } from '@baumkin/core';

import type { TreePlacement } from './task.ts';
import { FEATURE_WORDS } from './words.ts';

/** A tape is laid this far without a second hand, mm. From farther marks than this, a nearer one is easier to find. */
const EASY_MM = 400;
/** A tape is laid no farther than this, mm: beyond, compass and height say it better. */
const FARTHEST_MM = 900;
/** Paint of the last seasons can be told apart on the bark. */
const SEASONS_TOLD = 3;

/**
 * What to measure from: the newest hole, by its paint where there is any, within easy reach of a tape; where there is none, the tag nail, a big root
 * or limb if it is nearer than the nearest mark of the last seasons, else that mark.
 */
export function landmarkNear(
  { holes, task }: TreePlacement,
  features: readonly TrunkFeature[],
  spot: BarkSpot,
  season: number,
  paintOf: (season: number) => Paint | null
): Landmark | null {
  const away = (mark: BarkSpot) =>
    Math.hypot(
      (wrapDegrees(mark.bearingDeg - spot.bearingDeg) * Math.PI * task.trunk.barkRadiusMm) / 180,
      mark.heightMm - spot.heightMm
    );
  const nearest = <T extends BarkSpot>(all: readonly T[]): T | undefined =>
    all.length > 0 ? all.reduce((a, b) => (away(b) < away(a) ? b : a)) : undefined;
  const told = [...new Set(holes.map((hole) => hole.season))].sort((a, b) => b - a).slice(0, SEASONS_TOLD);
  const marks = told.map((year) => nearest(holes.filter((hole) => hole.season === year))!);
  const feature = nearest(features.filter(({ what }) => what === 'nail' || what === 'root' || what === 'limb'));
  const mark = marks.find((each) => away(each) <= EASY_MM) ?? nearest(marks);
  const near = mark && (away(mark) <= EASY_MM || !feature || away(feature) >= away(mark)) ? mark : null;
  if (near && away(near) <= FARTHEST_MM) {
    const which =
      near.season === season ? 'this season’s' : near.season === told[0] ? 'the newest' : `the ${near.season}`;
    const side =
      holes.filter((hole) => hole.season === near.season).length > 1
        ? ` on the ${compassPoint(near.bearingDeg)} side`
        : '';
    const { bearingDeg, heightMm } = near;
    // The tape is laid from the hole, whichever side of it the paint is on; words never name paint that is not there.
    const paint = paintOf(near.season);
    const name = paint
      ? `the hole at ${which} ${paint} mark`
      : near.season === season
        ? 'this season’s hole'
        : near.season === told[0]
          ? 'the newest hole'
          : `the hole of ${near.season}`;
    return { name: `${name}${side}`, bearingDeg, heightMm };
  }
  if (!feature || away(feature) > FARTHEST_MM) return null;
  const name = FEATURE_WORDS[feature.what].replace(/^a /, 'the ');
  return { name, bearingDeg: feature.bearingDeg, heightMm: feature.heightMm };
}
