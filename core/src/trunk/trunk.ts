import { toRadians } from '../math/index.ts';
import { insideBark } from '../measure/index.ts';
import type { OldHole } from './column.ts';

/** A trunk as the placement sees it. Radii in mm, of today's wood surface and of today's bark. */
export interface Trunk {
  readonly woodRadiusMm: number;
  readonly barkRadiusMm: number;
  readonly holes: readonly OldHole[];
}

/** What may stand on a trunk besides its holes. A line is where the tubing passes it; a nail holds its tag. */
export const TRUNK_FEATURES = ['limb', 'root', 'seam', 'wound', 'line', 'nail'] as const;
export type TrunkFeatureKind = (typeof TRUNK_FEATURES)[number];

/** A hole as it was recorded, before today's wood was laid over it. */
export interface RecordedHole {
  readonly season: number;
  readonly bearingDeg: number;
  readonly heightMm: number;
  readonly bitMm: number;
  readonly depthMm: number;
  readonly authorId?: string;
}

/**
 * Today's trunk from its diameter, growth and recorded holes. Angles stay, distances along the bark grow with the girth,
 * and each season since lays one ring over a hole. A hole of this season lies under no new wood.
 * @param season the season that is being planned
 */
export function trunkToday(dbhMm: number, ringMm: number, season: number, holes: readonly RecordedHole[]): Trunk {
  return {
    woodRadiusMm: insideBark(dbhMm) / 2,
    barkRadiusMm: dbhMm / 2,
    holes: holes
      .filter((hole) => hole.season <= season)
      .map((hole) => ({ ...hole, buriedMm: Math.max(0, season - hole.season) * ringMm }))
  };
}

/** Distance along today's wood surface from north to a bearing, to the left as one faces the trunk, mm. */
export function alongSurface(trunk: Trunk, bearingDeg: number): number {
  return toRadians(bearingDeg) * trunk.woodRadiusMm;
}
