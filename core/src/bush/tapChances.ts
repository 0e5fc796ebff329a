import { TAP_FAULTS, type TapFault } from '../lines/index.ts';
import type { LineLookRecord, ShavingsSeen, TreeRow } from '../records/index.ts';

/** Somebody who looks overlooks one in so many. Working assumption. */
export const OVERLOOKED = 0.15;
/** What was found is so. */
export const FOUND = 0.999;
/** Chance that a hole stays dry, by its shavings: few in pale wood, most where nothing came. Working assumptions. */
const DRY_BY_SHAVINGS: Readonly<Record<ShavingsSeen, number>> = { pale: 0.02, partly: 0.1, brown: 0.4, dry: 0.7 };
/** The same where only a prediction is known: so much in clear wood, and so much more in brown; and where nothing is. Working assumptions. */
const DRY = { clear: 0.02, brown: 0.4, unknown: 0.05 } as const;
/** Spouts forgotten: where each was reported set, and where none ever is; so many more where all others were. Working assumptions. */
const FORGOTTEN = { reported: 0.004, never: 0.01, others: 0.3 } as const;
/** A tap that was set anew runs, as far as anybody knows. Working assumption. */
const AFTER_A_MEND: Readonly<Record<TapFault, number>> = { dry: DRY.clear, notSet: FORGOTTEN.reported };

/** Is a find a fault of a tap? */
export const isTapFault = (found: string): found is TapFault => (TAP_FAULTS as readonly string[]).includes(found);

const sure = (fault: TapFault): Record<TapFault, number> => ({
  dry: fault === 'dry' ? FOUND : 0,
  notSet: fault === 'notSet' ? FOUND : 0
});

/** How likely a tap is dry or was forgotten before anything came. @param reported share of the taps that were reported set */
export function chancesOf(
  row: TreeRow,
  {
    season,
    reported,
    looks
  }: { readonly season: number; readonly reported: number; readonly looks: readonly LineLookRecord[] }
): Record<TapFault, number> {
  const last = looks.at(-1);
  if (last && isTapFault(last.found)) return last.mended ? AFTER_A_MEND : sure(last.found);
  const slip = OVERLOOKED ** looks.filter(({ found }) => found === 'nothing').length;
  const dry =
    row.shavingsSeen !== null
      ? DRY_BY_SHAVINGS[row.shavingsSeen]
      : row.clearChance !== null
        ? DRY.clear + DRY.brown * (1 - row.clearChance)
        : DRY.unknown;
  const notSet = row.hungSeason === season ? FORGOTTEN.reported : FORGOTTEN.never + FORGOTTEN.others * reported ** 2;
  return { dry: dry * slip, notSet: notSet * slip };
}

/** Stain of a path by what was said of its shavings; and of one that hit stain where only the chance of clear wood is known. Working assumptions. */
const STAINED = { pale: 0, partly: 0.5, brown: 0.9, dry: 1, hit: 0.7 } as const;
/** A tap that runs at all gives so much of a clear one at the least. Working assumption. */
const RUNS_AT_LEAST = 0.15;

/**
 * What a tap that is not dry gives of one in clear wood, by its stain: what stained taps lose on average, less those of them that are dry.
 * @param stainLoss share of its sap that a tap loses whose path is all stained
 */
export function givesBy({ shavingsSeen, clearChance }: TreeRow, stainLoss: number): number {
  const stained =
    shavingsSeen !== null ? STAINED[shavingsSeen] : clearChance !== null ? STAINED.hit * (1 - clearChance) : 0;
  const dry = shavingsSeen !== null ? DRY_BY_SHAVINGS[shavingsSeen] : DRY.unknown;
  return Math.min(1, Math.max(RUNS_AT_LEAST, (1 - stainLoss * stained) / (1 - dry)));
}
