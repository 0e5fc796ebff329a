import { isSugarbush, type BushRecord, type Stand } from '@baumkin/core/records';
import {
  cruisedM2PerHa,
  fittingLimits,
  limitsOf,
  policyOf,
  refusal,
  scoredTrees,
  stillTaken,
  tapsOf,
  thinStand
} from '@baumkin/core/bush';
import {
  coverOf,
  DEFAULT_LIMITS,
  releases,
  judgeChoice,
  notYet,
  openingCovers,
  standMetrics,
  type Binding,
  type ChoiceJudgement,
  type LimitId,
  type PlanLimits,
  type StandMetrics,
  type ThinningPlan
} from '@baumkin/core/thinning';
import { proxy } from 'comlink';
import solverUrl from 'highs/runtime?url';

import type { BushState } from '$lib/client/bush.svelte.ts';
import { LongRun } from '$lib/workers/longRun.svelte.ts';
import type { Improving, ThinWorker } from '$lib/workers/thin.worker.ts';

/** A choice of trees to take, to be held against others. */
export interface Choice {
  readonly id: string;
  readonly name: string;
  readonly taken: ReadonlySet<string>;
  /** how the solver left it; null for one made by hand */
  readonly solved: Pick<ThinningPlan, 'status' | 'gap'> | null;
}

interface DrawnChoice extends Choice {
  readonly figures: StandMetrics;
  /** taps that the trees left carry now */
  readonly tapsLeft: number;
}

export interface JudgedChoice extends DrawnChoice {
  readonly judgement: ChoiceJudgement;
}

type Kept = Extract<BushRecord, { kind: 'thinningPlan' }>;

type PlanAnswer = ThinningPlan | { readonly clash: readonly LimitId[] };

/** A light entry and a strong one beside the plan, by their share of the basal area. */
const LIGHT = 0.15;
const STRONG = 0.4;

export const thinWorker = () =>
  new Worker(new URL('../workers/thin.worker.ts', import.meta.url), { type: 'module', name: solverUrl });

/** What lies on the table while a thinning is thought out: a stand, its crop trees, limits, and the choices made so far. */
export class ThinDesk {
  readonly bush: BushState;
  #standId = $state<string | null>(null);
  spacingM = $state(9);
  limits = $state<PlanLimits>({ ...DEFAULT_LIMITS });
  keepMarks = $state(true);
  takeHazards = $state(true);
  /** crop trees that were computed and not written down */
  proposed = $state.raw<readonly string[]>([]);
  /** by what share another set of them may have more points */
  cropGap = $state(0);
  #made = $state.raw<readonly Choice[]>([]);
  /** which choice the map shows */
  shown = $state('marks');
  plan = $state.raw<ThinningPlan | null>(null);
  clash = $state.raw<readonly LimitId[] | null>(null);
  binding = $state.raw<readonly Binding[] | null>(null);
  /** what there is to say of the lighter and the stronger one */
  others = $state('');
  improving = $state.raw<Improving | null>(null);
  /** what the plan was made of */
  #madeOf = $state('');
  readonly work = new LongRun<ThinWorker>(thinWorker);
  readonly price = new LongRun<ThinWorker>(thinWorker);

  readonly stands = $derived.by((): readonly Stand[] => this.bush.overview?.stands ?? []);
  readonly stand = $derived(
    this.stands.find(({ id }) => id === this.#standId) ??
      this.stands.find(({ purpose }) => purpose === 'syrup') ??
      this.stands.find(isSugarbush) ??
      this.stands[0] ??
      null
  );
  readonly settings = $derived.by(() => this.bush.overview!.bush.settings);
  readonly policy = $derived(policyOf(this.settings));
  readonly rows = $derived.by(() => this.bush.rows.filter((row) => row.standId === this.stand?.id));
  readonly pinned = $derived(new Set(this.rows.filter(({ crop }) => crop === 'crop').map(({ id }) => id)));
  readonly vetoed = $derived(new Set(this.rows.filter(({ crop }) => crop === 'veto').map(({ id }) => id)));
  readonly scored = $derived(scoredTrees(this.rows));
  readonly crops = $derived(
    new Set([
      ...this.pinned,
      ...this.proposed.filter((id) => !this.vetoed.has(id) && this.bush.byId.get(id)?.cut === null)
    ])
  );
  /** the stand as the plan is made of it */
  readonly thin = $derived.by(
    () =>
      this.stand &&
      thinStand(this.stand, {
        rows: this.bush.rows,
        features: this.bush.features,
        crops: this.crops,
        settings: this.settings,
        today: this.bush.today,
        wishes: {
          keepMarks: this.keepMarks,
          takeHazards: this.takeHazards
        }
      })
  );
  readonly refused = $derived.by(() =>
    this.stand && this.thin ? refusal(this.stand, this.thin, this.bush.today) : null
  );
  readonly #cover = $derived(this.thin ? coverOf(this.thin.plan) : null);
  readonly #covers = $derived(this.thin ? openingCovers(this.thin.plan, { openingM: this.limits.openingM }) : []);
  readonly kept = $derived.by((): readonly Kept[] =>
    this.bush.bushRecords.filter((r): r is Kept => r.kind === 'thinningPlan' && r.standId === this.stand?.id)
  );
  readonly marked = $derived(new Set(this.rows.filter(({ mark }) => releases(mark)).map(({ id }) => id)));
  /** the choices with what a limit has no say in, so that a moved slider judges them anew and no more */
  readonly #drawn = $derived.by((): readonly DrawnChoice[] => {
    const { thin } = this;
    if (!thin) return [];
    const all: Choice[] = [
      { id: 'now', name: 'Nothing taken', taken: new Set(), solved: null },
      { id: 'marks', name: 'The marks as they are', taken: this.marked, solved: null },
      ...this.#made,
      ...this.kept.map(({ id, name, taken }) => ({ id, name, taken: new Set(taken), solved: null }))
    ];
    return all.map((choice) => this.#draw({ ...choice, taken: stillTaken(thin, choice.taken) }));
  });
  readonly #judged = $derived.by((): readonly JudgedChoice[] => {
    const { thin, limits } = this;
    return thin
      ? this.#drawn.map((choice) => ({
          ...choice,
          judgement: judgeChoice(thin.plan, limits, choice.taken, { covers: this.#covers, cover: this.#cover })
        }))
      : [];
  });
  /** the stand as it is, to hold the choices against */
  readonly now = $derived(this.#judged[0] ?? null);
  readonly choices = $derived(this.#judged.slice(1));
  readonly choice = $derived(this.choices.find(({ id }) => id === this.shown) ?? this.choices[0] ?? null);
  /** Why this stand is better left alone this year, and what its plots say of that; null where it may be thinned. */
  readonly notYet = $derived.by(() => {
    const why = this.stand && this.thin ? notYet(this.thin.plan, this.limits, this.#cover) : null;
    return why && { ...why, cruised: cruisedM2PerHa(this.bush.bushRecords, this.stand!.id) };
  });
  /** were crop trees, limits or wishes changed since the plan was made? */
  readonly stale = $derived(this.plan !== null && this.#madeOf !== this.#wishes());

  /** the limits that the stand was begun with */
  #begunWith = '';

  constructor(bush: BushState) {
    this.bush = bush;
  }

  /** Begins with a stand: its crop trees are proposed and its limits set by the bush's own. */
  async begin(standId: string | null): Promise<void> {
    this.work.stop();
    this.price.stop();
    this.#standId = standId;
    this.spacingM = this.settings.cropSpacingM;
    this.proposed = [];
    this.cropGap = 0;
    this.#made = [];
    this.plan = null;
    this.clash = null;
    this.binding = null;
    this.shown = 'marks';
    this.limits = this.#own;
    this.#begunWith = JSON.stringify(this.#own);
    if (this.stand && isSugarbush(this.stand)) await this.proposeCrops();
  }

  /** The bush's own limits came in anew (from a cache to the server's): they are taken over while nobody has moved a slider. */
  follow(): void {
    const own = JSON.stringify(this.#own);
    if (!this.begun || own === this.#begunWith || JSON.stringify(this.limits) !== this.#begunWith) return;
    this.limits = this.#own;
    this.#begunWith = own;
  }

  /** Is there a stand on the table? */
  get begun(): boolean {
    return this.#standId !== null;
  }

  async proposeCrops(): Promise<void> {
    const wish = { spacingM: this.spacingM, pinned: this.pinned, vetoed: this.vetoed };
    const found = await this.work.run((remote) => remote.crops(this.scored, wish));
    if (found) [this.proposed, this.cropGap] = [found.ids, found.gap];
  }

  /** The widest spacing that still gives the wished taps. @returns taps that it gives, and whether they are enough */
  async spaceFor(taps: number): Promise<{ taps: number; enough: boolean } | null> {
    const carried = Object.fromEntries(this.rows.map((row) => [row.id, tapsOf(row, this.policy, this.bush.today)]));
    const wish = { pinned: this.pinned, vetoed: this.vetoed, taps, tapsOf: carried };
    const found = await this.work.run((remote) => remote.spacing(this.scored, wish));
    if (!found) return null;
    this.spacingM = found.spacingM;
    [this.proposed, this.cropGap] = [found.ids, found.gap];
    return found;
  }

  async makePlan(): Promise<void> {
    const [thin, limits, wishes] = [this.thin, $state.snapshot(this.limits), this.#wishes()];
    if (!thin) return;
    this.improving = null;
    this.clash = null;
    const better = proxy((found: Improving) => (this.improving = found));
    const answer = await this.work.run<PlanAnswer>(async (remote) => remote.plan(thin.plan, limits, better));
    const best = this.improving as Improving | null;
    this.improving = null;
    if (!answer) {
      // Stopped: what was found so far is kept.
      if (best)
        this.#put({
          id: 'plan',
          name: 'The plan, stopped early',
          taken: best.taken,
          solved: { status: 'timeLimit', gap: best.gap }
        });
      return;
    }
    if ('clash' in answer) {
      this.clash = answer.clash;
      return;
    }
    this.plan = answer;
    this.#madeOf = wishes;
    this.binding = null;
    this.#put({ id: 'plan', name: 'The plan', taken: new Set(answer.taken.map(({ id }) => id)), solved: answer });
    this.binding = await this.price.run((remote) => remote.binding(thin.plan, limits, answer));
  }

  /** The bush's own limits, but for those that this stand does not fit. */
  readonly #own = $derived.by((): PlanLimits => {
    const own = limitsOf(this.settings);
    return this.thin && this.stand ? fittingLimits(own, this.thin.plan, this.stand) : own;
  });
  /** Do the limits and the spacing differ from the bush's own? */
  readonly differs = $derived(
    JSON.stringify([this.#own, this.settings.cropSpacingM]) !== JSON.stringify([this.limits, this.spacingM])
  );

  /** Keeps limits and spacing as the bush's own. @returns a sentence when that was refused */
  async keepLimits(): Promise<string | null> {
    const { share, guide, residualM2PerHa, cover, othersShare, openingM, tapCost } = this.limits;
    return this.bush.change.settings({
      removalShare: share,
      stockingGuide: guide,
      residualM2PerHa,
      coverLeft: cover,
      othersShare,
      openingM,
      tapCost,
      cropSpacingM: this.spacingM
    });
  }

  /** A light entry and a strong one within the other limits. */
  async makeOthers(): Promise<void> {
    const [thin, limits] = [this.thin, $state.snapshot(this.limits)];
    if (!thin) return;
    this.others = '';
    const nothing = proxy(() => undefined);
    for (const [id, name, share] of [
      ['light', 'Lighter', Math.min(LIGHT, limits.share / 2)],
      ['strong', 'Stronger', Math.max(STRONG, limits.share * 1.3)]
    ] as const) {
      const answer = await this.work.run<PlanAnswer>(async (remote) =>
        remote.plan(thin.plan, { ...limits, share }, nothing)
      );
      if (!answer) return;
      if ('clash' in answer) continue;
      const taken = new Set(answer.taken.map((tree) => tree.id));
      // A choice equal to the plan gets no column of its own.
      const same = taken.size === this.plan?.taken.length && this.plan.taken.every((tree) => taken.has(tree.id));
      if (same) this.others = `A ${id === 'light' ? 'lighter' : 'stronger'} one would take the same trees.`;
      else this.#put({ id, name, taken, solved: answer });
    }
  }

  #put(choice: Choice): void {
    this.#made = [...this.#made.filter(({ id }) => id !== choice.id), choice];
    if (choice.id === 'plan') this.shown = 'plan';
  }

  #wishes(): string {
    return JSON.stringify([this.limits, this.keepMarks, this.takeHazards, [...this.crops].sort()]);
  }

  #draw(choice: Choice): DrawnChoice {
    const { plan } = this.thin!;
    const { taken } = choice;
    return {
      ...choice,
      figures: standMetrics(
        plan.trees.map(({ tree }) => tree),
        plan,
        taken,
        plan.around
      ),
      tapsLeft: plan.trees.reduce((sum, { tree, taps }) => sum + (taken.has(tree.id) ? 0 : taps), 0)
    };
  }
}

const desks = new WeakMap<BushState, ThinDesk>();

/** The table of a bush: it stays laid while one walks from page to page. */
export function deskOf(bush: BushState): ThinDesk {
  const known = desks.get(bush);
  if (known) return known;
  // An effect root: the desk outlives the page that opened it, and so must its derived values.
  let made!: ThinDesk;
  $effect.root(() => {
    made = new ThinDesk(bush);
  });
  desks.set(bush, made);
  return made;
}
