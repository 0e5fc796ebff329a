import { POSITION_SD_M, type PositionQuality } from './sides.ts';

interface Place {
  readonly eastM: number;
  readonly northM: number;
}

/** The place at a bearing (degrees clockwise from true north) and distance (metres) from another. */
export function offset(from: Place, bearingDeg: number, distanceM: number): Place {
  const angle = (bearingDeg * Math.PI) / 180;
  return { eastM: from.eastM + distanceM * Math.sin(angle), northM: from.northM + distanceM * Math.cos(angle) };
}

/** A place that hangs on another is at best as good as the worse of both. */
export function rougher(a: PositionQuality, b: PositionQuality): PositionQuality {
  return POSITION_SD_M[a] >= POSITION_SD_M[b] ? a : b;
}
