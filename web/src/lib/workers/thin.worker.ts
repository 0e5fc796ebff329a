import {
  bindingLimits,
  chooseCropTrees,
  entriesAhead,
  highsSolver,
  planThinning,
  spacingForTaps,
  standOutlook,
  type Binding,
  type CropSet,
  type CropWish,
  type EntriesAsked,
  type LimitId,
  type Outlook,
  type OutlookOptions,
  type PlanLimits,
  type PlanStand,
  type ScoredTree,
  type ThinningPlan
} from '@baumkin/core/thinning';
import { expose } from 'comlink';
import loadHighs from 'highs';

// The page names the address of the solver: what it names is kept for work without a network.
const solver = loadHighs({ locateFile: () => self.name }).then(highsSolver);

/** The best plan so far, and how far it may still be from the best there is. */
export interface Improving {
  readonly taken: ReadonlySet<string>;
  readonly gap: number;
}

/** Crop trees, plans and the years after them, off the page's thread. It is ended by ending the worker. */
const api = {
  crops: async (trees: readonly ScoredTree[], wish: CropWish): Promise<CropSet> =>
    chooseCropTrees(trees, wish, await solver),
  spacing: async (
    trees: readonly ScoredTree[],
    {
      tapsOf,
      ...wish
    }: Omit<CropWish, 'spacingM'> & {
      readonly taps: number;
      readonly tapsOf: Readonly<Record<string, number>>;
    }
  ) => spacingForTaps(trees, { ...wish, tapsOf: (id) => tapsOf[id] ?? 0 }, await solver),
  plan: async (
    stand: PlanStand,
    limits: PlanLimits,
    better: (found: Improving) => void
  ): Promise<ThinningPlan | { readonly clash: readonly LimitId[] }> =>
    planThinning(stand, limits, await solver, { seconds: 120, onBetter: better }),
  binding: async (stand: PlanStand, limits: PlanLimits, plan: ThinningPlan): Promise<Binding[]> =>
    bindingLimits(stand, limits, plan, await solver),
  outlook: async (
    ahead: EntriesAsked,
    again: boolean,
    options: Pick<OutlookOptions, 'season' | 'draws' | 'seed'>,
    told: (done: number) => void
  ): Promise<{ look: Outlook; entries: ReadonlyMap<number, ReadonlySet<string>> }> => {
    const { trees, ground, policy, first, years } = ahead;
    const entries = again ? entriesAhead(ahead, await solver) : new Map([[0, first]]);
    const look = standOutlook(trees, ground, {
      ...options,
      years,
      entries,
      policy,
      onProgress: (done) => {
        told(done);
        return true;
      }
    })!;
    return { look, entries };
  }
};
export type ThinWorker = typeof api;

expose(api);
