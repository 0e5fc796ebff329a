import { barkDistance, type BarkSpot } from '../geometry/index.ts';
import type { Paint, TrunkFeature } from '../records/index.ts';
import { instruct, type Instruction, type Landmark } from '../trunk/index.ts';
import type { TreePlacement } from './placement.ts';

/** A tape is laid this far without a second hand, mm. From farther marks than this, a nearer one is easier to find. */
const EASY_MM = 400;
/** A tape is laid no farther than this, mm: beyond, compass and height say it better. */
const FARTHEST_MM = 900;
/** Paint of the last seasons can be told apart on the bark. */
const SEASONS_TOLD = 3;

/** The season and the snow that holes are placed for, and the paints that can be seen. */
export interface PlannedAt {
  readonly season: number;
  readonly snowMm: number;
  readonly paintOf: (season: number) => Paint | null;
}

/**
 * What to measure from: the newest hole, by its paint where there is any, within easy reach of a tape; where there is none, the tag nail, a big root
 * or limb if it is nearer than the nearest mark of the last seasons, else that mark. Where there is none of these, an old scar.
 */
export function landmarkNear(
  { holes, scars, task }: Pick<TreePlacement, 'holes' | 'scars' | 'task'>,
  features: readonly TrunkFeature[],
  spot: BarkSpot,
  { season, paintOf }: Pick<PlannedAt, 'season' | 'paintOf'>
): Landmark | null {
  const away = (mark: BarkSpot) => barkDistance(mark, spot, task.trunk.barkRadiusMm);
  const nearest = <T extends BarkSpot>(all: readonly T[]): T | undefined =>
    all.length > 0 ? all.reduce((a, b) => (away(b) < away(a) ? b : a)) : undefined;
  const told = [...new Set(holes.map((hole) => hole.season))].sort((a, b) => b - a).slice(0, SEASONS_TOLD);
  const marks = told.map((year) => nearest(holes.filter((hole) => hole.season === year))!);
  const feature = nearest(features.filter(({ what }) => what === 'nail' || what === 'root' || what === 'limb'));
  const mark = marks.find((each) => away(each) <= EASY_MM) ?? nearest(marks);
  const near = mark && (away(mark) <= EASY_MM || !feature || away(feature) >= away(mark)) ? mark : null;
  if (near && away(near) <= FARTHEST_MM) {
    const { bearingDeg, heightMm } = near;
    return {
      bearingDeg,
      heightMm,
      name: {
        kind: 'hole',
        season: near.season,
        age: near.season === season ? 'thisSeason' : near.season === told[0] ? 'newest' : 'older',
        // The tape is laid from the hole, whichever side of it the paint is on; paint that is not there is never named.
        paint: paintOf(near.season),
        sideDeg: holes.filter((hole) => hole.season === near.season).length > 1 ? bearingDeg : null
      }
    };
  }
  if (!feature || away(feature) > FARTHEST_MM) {
    const scar = nearest(scars);
    return scar && away(scar) <= FARTHEST_MM ? { ...scar, name: { kind: 'scar' } } : null;
  }
  return {
    bearingDeg: feature.bearingDeg,
    heightMm: feature.heightMm,
    name: { kind: 'feature', what: feature.what }
  };
}

/** Where to drill a spot, measured from what lies nearest and can be found. @param at the season, the snow, the paints */
export function instructionFor(
  placing: Pick<TreePlacement, 'holes' | 'scars' | 'task'>,
  features: readonly TrunkFeature[],
  spot: BarkSpot,
  at: PlannedAt
): Instruction {
  const landmark = landmarkNear(placing, features, spot, at);
  return instruct(placing.task.trunk, spot, landmark, at.snowMm);
}
