import type { BarkSpot } from '../geometry/index.ts';
import { toRadians, wrapDegrees } from '../math/index.ts';
import type { Trunk, TrunkFeatureKind } from './trunk.ts';

/** What a tape is laid from: a hole, by its season and its paint where there is any, or something on the trunk. */
export type LandmarkName =
  | {
      readonly kind: 'hole';
      readonly season: number;
      /** how old it is among the holes that can be told apart */
      readonly age: 'thisSeason' | 'newest' | 'older';
      /** the paint of its mark; null where none is seen */
      readonly paint: string | null;
      /** its bearing where its season has more than one hole; null where it needs none */
      readonly sideDeg: number | null;
    }
  | { readonly kind: 'feature'; readonly what: TrunkFeatureKind }
  /** an old hole of unknown year that can be seen */
  | { readonly kind: 'scar' };

/** A point on the bark that can be found in the woods: the newest paint mark, a tag nail. */
export interface Landmark extends BarkSpot {
  readonly name: LandmarkName;
}

/** Heights by the body of a grown person; working assumption. */
export const BODY_HEIGHTS = [
  ['knee', 550],
  ['thigh', 850],
  ['hip', 1050],
  ['belly', 1250],
  ['chest', 1450],
  ['shoulder', 1650],
  ['above', Infinity]
] as const;
export type BodyHeight = (typeof BODY_HEIGHTS)[number][0];

/** Where on the body of a grown person a height is, mm above where she stands. */
export function bodyHeight(heightMm: number): BodyHeight {
  return BODY_HEIGHTS.find(([, below]) => heightMm < below)![0];
}

/** Parts of the body that a height is told by, from below. */
export const BODY_PARTS = ['knee', 'hip', 'breast', 'shoulder', 'reach'] as const;
export type BodyPart = (typeof BODY_PARTS)[number];
/** How high each is above where somebody stands, mm, as she measured herself once. */
export type OwnBody = Readonly<Record<BodyPart, number>>;

/**
 * Where on her own body a height is: the part that is nearest, and how far above it.
 * @param heightMm above where she stands
 */
export function onOwnBody(heightMm: number, body: OwnBody): { readonly part: BodyPart; readonly aboveMm: number } {
  const off = (part: BodyPart) => Math.abs(heightMm - body[part]);
  const part = BODY_PARTS.reduce((best, each) => (off(each) < off(best) ? each : best));
  return { part, aboveMm: heightMm - body[part] };
}

/** Do somebody's measures rise from knee to reach? */
export function isBody(body: OwnBody): boolean {
  return BODY_PARTS.every((part, i) => i === 0 || body[part] > body[BODY_PARTS[i - 1]!]);
}

/** Where to drill, by what a hand measures. */
export interface Instruction extends BarkSpot {
  /** null where nothing is near enough to measure from: by compass and height then */
  readonly from: {
    readonly name: LandmarkName;
    /** along the bark, as a tape laid on the trunk reads it; to the left as one faces the trunk, mm */
    readonly leftMm: number;
    readonly upMm: number;
  } | null;
  /** snow that she stands on, mm */
  readonly snowMm: number;
  /** as the body reads it that stands on the snow */
  readonly body: BodyHeight;
  /** so high that a full bucket cannot be lifted down once the snow is gone */
  readonly highBare: boolean;
}

/** From here on a full bucket hangs too high to be lifted down, mm above bare ground. Working assumption. */
export const HIGH_BUCKET_MM = 1650;

/**
 * How a hole is found from a landmark. Left and right are the steward's, facing the trunk (bearings grow to the left).
 * @param snowMm snow that she stands on; heights are from the ground, those of the body from the snow
 */
export function instruct(trunk: Trunk, spot: BarkSpot, landmark: Landmark | null, snowMm = 0): Instruction {
  return {
    bearingDeg: spot.bearingDeg,
    heightMm: spot.heightMm,
    from: landmark && {
      name: landmark.name,
      leftMm: toRadians(wrapDegrees(spot.bearingDeg - landmark.bearingDeg)) * trunk.barkRadiusMm,
      upMm: spot.heightMm - landmark.heightMm
    },
    snowMm,
    body: bodyHeight(spot.heightMm - snowMm),
    highBare: snowMm > 0 && spot.heightMm > HIGH_BUCKET_MM
  };
}
