import { normaliseBearing, toDegrees } from '@baumkin/core/math';
import type { Trunk } from '@baumkin/core/trunk';

/** The unrolled trunk on the screen, in true proportion: the same scale round the trunk and up it. */
export interface SheetGeometry {
  readonly width: number;
  readonly height: number;
  /** pixels for each millimetre of bark */
  readonly scale: number;
  readonly lowestMm: number;
  readonly highestMm: number;
}

/** Where an arrow key moves a spot on the bark; null for other keys. Bearings grow to the left. */
export function movedBy<T extends { readonly bearingDeg: number; readonly heightMm: number }>(
  key: string,
  spot: T,
  stepMm: number,
  woodRadiusMm: number
): T | null {
  const turn = toDegrees(stepMm / woodRadiusMm);
  const [left, up] = { ArrowLeft: [1, 0], ArrowRight: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[key] ?? [0, 0];
  if (left === 0 && up === 0) return null;
  return { ...spot, bearingDeg: spot.bearingDeg + left! * turn, heightMm: spot.heightMm + up! * stepMm };
}

/** Bark shown beyond the band at either end, mm. */
const BEYOND_MM = 90;

/** The bark as it is laid flat: scale and bounds. @param most pixels that it may take */
export function sheetGeometry(
  trunk: Trunk,
  bandLowMm: number,
  bandHighMm: number,
  most: { width: number; height: number }
): SheetGeometry {
  const round = 2 * Math.PI * trunk.woodRadiusMm;
  const lowestMm = bandLowMm - BEYOND_MM;
  const highestMm = bandHighMm + BEYOND_MM;
  const scale = Math.min(most.width / round, most.height / (highestMm - lowestMm));
  return { width: round * scale, height: (highestMm - lowestMm) * scale, scale, lowestMm, highestMm };
}

/** The trunk is cut at north and seen from outside: bearings grow to the left. */
export function xOf(geometry: SheetGeometry, bearingDeg: number): number {
  return geometry.width * (1 - normaliseBearing(bearingDeg) / 360);
}

/** How far down a height is on the sheet, pixels. */
export function yOf(geometry: SheetGeometry, heightMm: number): number {
  return (geometry.highestMm - heightMm) * geometry.scale;
}

/** The place on the trunk under a point of the sheet, pixels. */
export function spotAt(geometry: SheetGeometry, x: number, y: number): { bearingDeg: number; heightMm: number } {
  return {
    bearingDeg: normaliseBearing(360 * (1 - x / geometry.width)),
    heightMm: geometry.highestMm - y / geometry.scale
  };
}
