import type { SpeciesId } from '../identify/index.ts';
import { normalCdf } from '../math/index.ts';

/** The warmth by which the buds of a species swell: then its sap turns, whatever the nights do. */
export interface BudNeed {
  /** degree-days above `BUD_BASE_C` since `BUD_START` */
  readonly degreeDays: number;
  /** from tree to tree and year to year, 1 sd */
  readonly sd: number;
}

/** Buds feel warmth above this, °C. Working assumption. */
export const BUD_BASE_C = 5;
/** They feel it from this day of the year on: month and day. Working assumption. */
export const BUD_START = '-02-01';

/** Sugar and black maple. Working assumption. */
const LATE: BudNeed = { degreeDays: 75, sd: 22 };
/** Red and silver maple swell ten days to a fortnight before. Common practice; the figure is a working assumption. */
const EARLY: BudNeed = { degreeDays: 38, sd: 16 };

/** When the buds of a species swell. @param species null where it is open: as the sugar maple's */
export function budNeedOf(species: SpeciesId | null): BudNeed {
  return species === 'redMaple' || species === 'silverMaple' || species === 'boxElder' ? EARLY : LATE;
}

/** What somebody saw of the buds of a species on a day, by the warmth that they had had. */
export interface BudLook {
  readonly degreeDays: number;
  readonly swollen: boolean;
}

/**
 * How likely the season of a species is over by its buds, given what was seen of them: closed buds say that they need more warmth
 * than they had, swollen ones that they needed no more.
 * @returns the chance by the degree-days that the buds had, 0..1
 */
export function overByBuds(need: BudNeed, looks: readonly BudLook[] = []): (degreeDays: number) => number {
  const by = (value: number) => normalCdf((value - need.degreeDays) / need.sd);
  const least = Math.max(0, ...looks.flatMap((look) => (look.swollen ? [] : [look.degreeDays])));
  const most = Math.min(Infinity, ...looks.flatMap((look) => (look.swollen ? [look.degreeDays] : [])));
  const [low, high] = [by(least), Number.isFinite(most) ? by(most) : 1];
  return (degreeDays) => {
    // Looks that contradict each other: the trees differ, and what was seen swollen is over.
    if (degreeDays >= most) return 1;
    if (degreeDays <= least) return 0;
    if (high - low > 1e-6) return (by(degreeDays) - low) / (high - low);
    // Far from all that was expected: evenly between the looks, or within what trees differ.
    return (degreeDays - least) / (Number.isFinite(most) ? most - least : need.sd + degreeDays - least);
  };
}
