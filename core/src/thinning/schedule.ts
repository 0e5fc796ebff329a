import { tapsUnder, type TapPolicy } from '../taps/index.ts';
import { sideStates } from './card.ts';
import type { GrowingArea } from './growth.ts';
import { standIn, type OutlookTree } from './outlook.ts';
import { LATER_YEARS, planThinning } from './plan.ts';
import type { PlanLimits, PlanStand } from './planStand.ts';
import type { Solver } from './solver.ts';

/** Years between entries. Common practice: about ten. */
export const ENTRY_YEARS = 10;

/** What the coming entries of a stand are planned from. */
export interface EntriesAsked {
  readonly stand: PlanStand;
  readonly trees: readonly OutlookTree[];
  readonly ground: GrowingArea;
  readonly limits: PlanLimits;
  readonly policy: TapPolicy;
  /** ids taken now */
  readonly first: ReadonlySet<string>;
  readonly years: number;
}

/**
 * The entries after the first, planned on the stand as it will most likely be by then: same crop trees, same limits. A stand
 * that has no need of one gets an empty one.
 * @param onEntry told of each as it is made, with the year; false ends the work
 * @returns ids taken by year from now, the first entry included
 */
export function entriesAhead(
  { stand, trees, ground, limits, policy, first, years }: EntriesAsked,
  solve: Solver,
  onEntry?: (year: number) => boolean
): Map<number, ReadonlySet<string>> {
  const entries = new Map<number, ReadonlySet<string>>([[0, first]]);
  const known = new Map(stand.trees.map((each) => [each.tree.id, each]));
  for (let year = ENTRY_YEARS; year < years; year += ENTRY_YEARS) {
    const then = standIn(trees, ground, year, entries);
    const planned = then.flatMap((tree) => {
      const before = known.get(tree.id);
      if (!before) return [];
      const { dbhMm, conditionTaps, ringMm, species, tappable } = tree;
      const tapsIn = (more: number) =>
        tappable
          ? tapsUnder(policy, { dbhMm: dbhMm + 2 * ringMm * more, ringMm, ringSeMm: 0, conditionTaps, species })
          : 0;
      return [{ ...before, tree, taps: tapsIn(0), tapsLater: tapsIn(LATER_YEARS), must: false }];
    });
    const all = [...planned.map(({ tree }) => tree), ...stand.around];
    const sides = new Map(
      planned.filter(({ crop }) => crop).map(({ tree }) => [tree.id, sideStates(tree, all, null)] as const)
    );
    const plan = planThinning({ ...stand, trees: planned, sides }, limits, solve, { gap: 0.01, seconds: 10 });
    entries.set(year, new Set('clash' in plan ? [] : plan.taken.map(({ id }) => id)));
    if (onEntry && !onEntry(year)) break;
  }
  return entries;
}
