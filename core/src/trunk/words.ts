import { compassPoint, toRadians, wrapDegrees } from '../math/index.ts';
import { formatLength, type UnitSystem } from '../units/index.ts';
import { type Trunk } from './trunk.ts';

/** A point on the bark that can be found in the woods: the newest paint mark, a tag nail. */
export interface Landmark {
  /** how one says it: "the hole at the newest green mark" */
  readonly name: string;
  readonly bearingDeg: number;
  readonly heightMm: number;
}

/** Where to drill, said as one would in the woods. */
export interface Instruction {
  /** "From the hole at the newest green mark: 9 cm left, 24 cm down." or, without a landmark, by compass and height */
  readonly sentence: string;
  /** "chest height"; on snow, as the body reads it that stands on it */
  readonly bodyHeight: string;
  readonly compass: string;
  /** so high that a full bucket cannot be lifted down once the snow is gone */
  readonly highBare: boolean;
}

/** From here on a full bucket hangs too high to be lifted down, mm above bare ground. Working assumption. */
export const HIGH_BUCKET_MM = 1650;

/**
 * Puts a hole into words from a landmark. Sideways runs along the bark, as a tape laid on the trunk reads it; left and
 * right are the steward's, facing the trunk (bearings grow to the left).
 * @param snowMm snow that she stands on; heights are from the ground, words of the body from the snow
 */
export function instruct(
  trunk: Trunk,
  spot: { readonly bearingDeg: number; readonly heightMm: number },
  landmark: Landmark | null,
  system: UnitSystem,
  snowMm = 0
): Instruction {
  const bearing = Math.round(spot.bearingDeg / 5) * 5;
  const compass = `${compassPoint(spot.bearingDeg)} side, bearing ${bearing === 360 ? 0 : bearing}°`;
  const bodyHeight = heightWords(spot.heightMm - snowMm) + (snowMm > 0 ? ' as you stand on the snow' : '');
  const highBare = snowMm > 0 && spot.heightMm > HIGH_BUCKET_MM;
  if (!landmark) {
    return {
      sentence: `On the ${compass}, ${formatLength(spot.heightMm, system, 'hand')} above the ground${snowMm > 0 ? `, ${formatLength(Math.max(0, spot.heightMm - snowMm), system, 'hand')} above the snow` : ''}.`,
      bodyHeight,
      compass,
      highBare
    };
  }
  const sidewaysMm = toRadians(wrapDegrees(spot.bearingDeg - landmark.bearingDeg)) * trunk.barkRadiusMm;
  const upMm = spot.heightMm - landmark.heightMm;
  const parts = [part(sidewaysMm, 'left', 'right', system), part(upMm, 'up', 'down', system)].filter((p) => p !== null);
  return {
    sentence: `From ${landmark.name}: ${parts.length ? parts.join(', ') : 'at the same place'}.`,
    bodyHeight,
    compass,
    highBare
  };
}

function part(mm: number, positive: string, negative: string, system: UnitSystem): string | null {
  const text = formatLength(Math.abs(mm), system, 'hand');
  return /^0 /.test(text) ? null : `${text} ${mm > 0 ? positive : negative}`;
}

/** Heights by the body of a grown person; working assumption. */
export function heightWords(heightMm: number): string {
  if (heightMm < 550) return 'knee height';
  if (heightMm < 850) return 'thigh height';
  if (heightMm < 1050) return 'hip height';
  if (heightMm < 1250) return 'belly height';
  if (heightMm < 1450) return 'chest height';
  if (heightMm < 1650) return 'shoulder height';
  return 'above the shoulder';
}
