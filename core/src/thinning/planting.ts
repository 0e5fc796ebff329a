/** What keeps deer and mice from planted trees. */
export const GUARDS = ['none', 'tube', 'mesh', 'fence'] as const;
export type Guard = (typeof GUARDS)[number];

/** Height growth of planted maples until breast height, m a year: slow, usual, fast. Working assumption. */
const CLIMB_M = [0.25, 0.4, 0.6] as const;
/** Diameter growth after that, mm a year: crowded, usual, with the crown kept free. Working assumption. */
const THICKEN_MM = [4, 5.5, 8] as const;
/** Breast height, m: diameters are measured here. */
const BREAST_M = 1.3;
/** A height when planted where none was written down, m. Working assumption. */
const USUAL_HEIGHT_M = 0.5;

/** Years in which a planted tree may bear its first taphole. */
export interface FirstTapping {
  readonly from: number;
  readonly likely: number;
  readonly to: number;
}

/**
 * When planted trees come to the size of a first taphole: up to breast height, then outward. The span is as wide as growth
 * is unsure; no tree of it has a ring to go by yet.
 * @param heightM their middle height in that year; null where nobody measured
 * @param firstDbhMm where the bush's guideline begins
 */
export function firstTapping(year: number, heightM: number | null, firstDbhMm: number): FirstTapping {
  const missing = Math.max(0, BREAST_M - (heightM ?? USUAL_HEIGHT_M));
  const [to, likely, from] = CLIMB_M.map((climb, i) =>
    Math.round(year + missing / climb + firstDbhMm / THICKEN_MM[i]!)
  );
  return { from: from!, likely: likely!, to: to! };
}

/** Share of planted trees that live; null where nobody has counted again. */
export function survival({ many, alive }: { readonly many: number; readonly alive: number | null }): number | null {
  return alive === null ? null : alive / many;
}
