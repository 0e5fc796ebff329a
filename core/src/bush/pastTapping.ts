import type { BarkSpot } from '../geometry/index.ts';
import { normaliseBearing } from '../math/index.ts';
import type { BushSettings, Scars, TreeState } from '../records/index.ts';
import { SCAR_AGES, usualHole, type OldHole, type ScarLook, type Trunk } from '../trunk/index.ts';

/** A scar that somebody points at is where she points, give or take this, degrees. Working assumption. */
const POINTED_SD_DEG = 3;
/** A scar whose place is known so well can be measured from, degrees. */
const FOUND_SD_DEG = 5;

/** The scar that somebody points at, as it is written down. */
export function scarSeen(
  { bearingDeg, heightMm }: BarkSpot,
  look: ScarLook,
  { season, settings }: { readonly season: number; readonly settings: Pick<BushSettings, 'bitMm' | 'depthMm'> }
): Omit<Scars, 'id' | 'treeId' | 'on' | 'recordedAt' | 'authorId' | 'correctsId' | 'withdrawn'> {
  const [fewest, most] = SCAR_AGES[look];
  const [fromSeason, toSeason] = [season - most, season - fewest];
  return {
    kind: 'scars',
    many: 1,
    bearingDeg: normaliseBearing(Math.round(bearingDeg)),
    spreadDeg: POINTED_SD_DEG,
    heightMm: Math.round(heightMm),
    fromSeason,
    toSeason,
    ...usualHole(fromSeason, toSeason, settings),
    note: ''
  };
}

/** Scars that can be found again on a trunk, to lay a tape from. */
export function scarsToFind({ scars }: Pick<TreeState, 'scars'>): BarkSpot[] {
  return scars.flatMap(({ many, bearingDeg, heightMm, spreadDeg }) =>
    many === 1 && bearingDeg !== null && heightMm !== null && spreadDeg <= FOUND_SD_DEG
      ? [{ bearingDeg, heightMm }]
      : []
  );
}

/** Is nothing known of what was drilled into a trunk before this season: no hole, no scar, and nobody's word? */
export function pastUnknown({ tapholes, scars, tappedBefore }: TreeState, season: number): boolean {
  return tappedBefore === null && scars.length === 0 && tapholes.every((hole) => hole.season >= season);
}

/** So many holes a trunk is taken to hide that was tapped, or perhaps was, and shows no scar. Working assumption. */
export const HIDDEN_HOLES = 3;
/** The chance of each of them where nobody knows whether the tree was tapped. Working assumption: one such tree in three was. */
export const HIDDEN_CHANCE = 1 / 3;
/** Seasons ago in which they were drilled: closed by now, and still in the way of a bit. Working assumption. */
const HIDDEN_SINCE = [2, 25] as const;

/** Holes that a trunk may hide: where it was tapped, or nobody knows, and no hole or scar of earlier seasons is noted. */
export function hiddenHoles(
  { tapholes, scars, tappedBefore, growth: { ringMm } }: TreeState,
  trunk: Pick<Trunk, 'woodRadiusMm'>,
  {
    season,
    settings,
    band
  }: {
    readonly season: number;
    readonly settings: Pick<BushSettings, 'bitMm' | 'depthMm'>;
    readonly band: { readonly lowestMm: number; readonly highestMm: number };
  }
): OldHole[] {
  if (tappedBefore === null || tappedBefore.answer === 'never') return [];
  if (scars.length > 0 || tapholes.some((hole) => hole.season < season)) return [];
  const [fewest, most] = HIDDEN_SINCE;
  const hole: OldHole = {
    season: season - fewest,
    bearingDeg: 0,
    heightMm: (band.lowestMm + band.highestMm) / 2,
    ...usualHole(season - most, season - fewest, settings),
    buriedMm: ((fewest + most) / 2) * ringMm,
    unsure: {
      // Anywhere round the trunk: a bell so wide that it is even once it has been wrapped.
      sidewaysMm: Math.PI * trunk.woodRadiusMm,
      upMm: (band.highestMm - band.lowestMm) / 3,
      buriedFromMm: fewest * ringMm,
      buriedToMm: most * ringMm,
      ...(tappedBefore.answer === 'perhaps' && { chance: HIDDEN_CHANCE })
    }
  };
  return Array.from({ length: HIDDEN_HOLES }, () => hole);
}
