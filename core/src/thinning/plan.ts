import { M2_PER_HECTARE } from '../units/index.ts';
import { basalArea, SIDES, type Side, type StandTree } from '../stand/index.ts';
import { freeSides } from './card.ts';
import { netOver, reachesInto, type Disc } from './standMetrics.ts';
import type { PlanLimits, PlanStand, PlanTree } from './planStand.ts';
import { CROWNS_FILL, coverLeft, coverOf, openCrownArea, type Cover } from './stocking.ts';
import { PROVEN_GAP, type Program, type SolveOptions, type Solver } from './solver.ts';

/** How far ahead the plan looks for the taps that a young tree will carry, years. Working assumption. */
export const LATER_YEARS = 20;

/** Worth of a crown with 0, 1, 2, 3, 4 free sides: three or four are the aim, each further side adds less. */
export const RELEASE_WORTH = [0, 0.4, 0.7, 0.92, 1] as const;
/** Worth of taking a tree that dies anyway, in hundredths of a crop tree fully freed. */
const DYING_WORTH = 8;
/** Cost of basal area taken for nothing, a square metre: of two plans that free the same, the lighter one. */
const LIGHT_HAND = 5;

export type LimitId = 'share' | 'residual' | 'cover' | 'others' | 'opening' | 'must';

/** What a choice of trees would do, and which limits it breaks. */
export interface ChoiceJudgement {
  /** hundredths of crop trees fully freed, after the costs */
  readonly worth: number;
  readonly freed: readonly { readonly id: string; readonly before: number; readonly after: number }[];
  readonly lostTaps: number;
  readonly basalAreaM2: number;
  readonly share: number;
  readonly leftM2PerHa: number;
  /** open-grown crowns of what is left over its ground */
  readonly crownsShare: number;
  /** share of the ground under crowns; null without an outline */
  readonly coverLeft: number | null;
  readonly othersShare: number;
  /** openings that come about, of the widest size or more */
  readonly openings: readonly Disc[];
  readonly broken: readonly LimitId[];
}

const sum = <T>(list: readonly T[], value: (each: T) => number) => list.reduce((all, each) => all + value(each), 0);
/** What the taps of a tree cost when it is taken: those of today and those to come count alike. */
function tapPrice({ taps, tapsLater }: PlanTree, { tapCost }: PlanLimits): number {
  return (tapCost * (taps + tapsLater)) / 2;
}

/** Room for rounding, so that a limit met exactly is not broken. */
const EPSILON = 1e-6;

/** Share of other species that is to stay: no more than there is, since no cut brings any. */
export function othersToStay({ trees }: PlanStand, { othersShare }: PlanLimits): number {
  const all = sum(trees, ({ tree }) => basalArea(tree.dbhMm));
  const others = sum(trees, ({ maple, tree }) => (maple ? 0 : basalArea(tree.dbhMm)));
  return all > 0 ? Math.min(othersShare, others / all) : 0;
}

/** What is the same for every choice of trees in a stand. */
export interface KnownGround {
  /** where openings could come about under its limits */
  readonly covers?: ReturnType<typeof openingCovers>;
  /** who shades what; null without an outline */
  readonly cover?: Cover | null;
}

/**
 * Judges any choice of trees by the same measure as the plan: the steward's own marks, or another plan.
 * @param known of the stand already, where many choices are judged
 */
export function judgeChoice(
  stand: PlanStand,
  limits: PlanLimits,
  taken: ReadonlySet<string>,
  known: KnownGround = {}
): ChoiceJudgement {
  const { covers = openingCovers(stand, limits), cover = coverOf(stand) } = known;
  const none = new Set<string>();
  const gone = stand.trees.filter(({ tree }) => taken.has(tree.id));
  const left = stand.trees.filter(({ tree }) => !taken.has(tree.id));
  const area = (list: readonly PlanTree[]) => sum(list, ({ tree }) => basalArea(tree.dbhMm));
  const [all, out] = [area(stand.trees), area(gone)];
  const freed = stand.trees.flatMap(({ tree, crop, weight }) => {
    const states = crop ? stand.sides.get(tree.id) : undefined;
    if (!states) return [];
    return [{ id: tree.id, weight, before: freeSides(states, none), after: freeSides(states, taken) }];
  });
  const lostTaps = sum(gone, ({ taps }) => taps);
  const othersShare = out >= all ? 1 : area(left.filter(({ maple }) => !maple)) / (all - out);
  const share = all > 0 ? out / all : 0;
  const leftM2PerHa = (all - out) / stand.areaHa;
  const crownsShare = sum(left, ({ tree }) => openCrownArea(tree.dbhMm)) / (stand.areaHa * M2_PER_HECTARE);
  const shaded = cover && coverLeft(cover, taken);
  const openings = covers.filter(({ trees }) => trees.every((id) => taken.has(id))).map(({ disc }) => disc);
  const missing = stand.trees.some(({ tree, must }) => must && !taken.has(tree.id));
  const broken: LimitId[] = [];
  if (share > limits.share + EPSILON) broken.push('share');
  if (limits.guide === 'timber' ? leftM2PerHa < limits.residualM2PerHa - EPSILON : crownsShare < CROWNS_FILL - EPSILON)
    broken.push('residual');
  if (shaded !== null && shaded < limits.cover - EPSILON) broken.push('cover');
  if (othersShare < othersToStay(stand, limits) - EPSILON) broken.push('others');
  if (openings.length > 0) broken.push('opening');
  if (missing) broken.push('must');
  return {
    worth:
      sum(freed, ({ weight, before, after }) => 100 * weight * (RELEASE_WORTH[after]! - RELEASE_WORTH[before]!)) -
      sum(gone, (each) => tapPrice(each, limits)) +
      DYING_WORTH * sum(gone, ({ dying }) => dying) -
      LIGHT_HAND * out,
    freed: freed.map(({ id, before, after }) => ({ id, before, after })),
    lostTaps,
    basalAreaM2: out,
    share,
    leftM2PerHa,
    crownsShare,
    coverLeft: shaded,
    othersShare,
    openings,
    broken
  };
}

/** Points of the net are this share of an opening's width apart. */
const NET_SHARE = 1 / 6;

/**
 * Where an opening of the greatest width could come about: discs on a net, each with the trees whose crowns keep it
 * closed. Drawn in by half the net's diagonal, so that no disc of full width lies between the points unseen. Discs that
 * are open already are left out, those that a tree which stays keeps closed, and those that only trees keep closed which
 * go in any case.
 */
export function openingCovers(
  stand: PlanStand,
  { openingM }: Pick<PlanLimits, 'openingM'>
): { disc: Disc; trees: readonly string[] }[] {
  if (openingM === null || !stand.outline) return [];
  const stepM = openingM * NET_SHARE;
  const radiusM = openingM / 2 - (stepM * Math.SQRT2) / 2;
  const firm = [...stand.around, ...stand.trees.filter(stays).map(({ tree }) => tree)];
  const loose = stand.trees.filter((each) => !stays(each)).map(({ tree }) => tree);
  const musts = new Set(stand.trees.filter(({ must }) => must).map(({ tree }) => tree.id));
  const covers = netOver(stand.outline, stepM).flatMap(([eastM, northM]) => {
    const disc = { eastM, northM, radiusM };
    const inSight = (tree: StandTree) => Math.abs(tree.eastM - eastM) < 40 && Math.abs(tree.northM - northM) < 40;
    if (firm.some((tree) => inSight(tree) && reachesInto(tree, disc))) return [];
    const trees = loose.filter((tree) => inSight(tree) && reachesInto(tree, disc)).map(({ id }) => id);
    return trees.every((id) => musts.has(id)) ? [] : [{ disc, trees }];
  });
  // A disc whose closing trees include all of another's adds no condition; of equal discs one is kept.
  const bySize = covers.sort((a, b) => a.trees.length - b.trees.length);
  const kept: { disc: Disc; trees: readonly string[]; set: ReadonlySet<string> }[] = [];
  const holding = new Map<string, number[]>();
  for (const cover of bySize) {
    const set = new Set(cover.trees);
    const rivals = new Set(cover.trees.flatMap((id) => holding.get(id) ?? []));
    if ([...rivals].some((k) => kept[k]!.trees.every((id) => set.has(id)))) continue;
    for (const id of cover.trees) holding.set(id, [...(holding.get(id) ?? []), kept.length]);
    kept.push({ ...cover, set });
  }
  return kept.map(({ disc, trees }) => ({ disc, trees }));
}

function stays({ crop, hold, must }: PlanTree): boolean {
  return !must && (crop || hold !== null);
}

export interface ThinningPlan {
  readonly taken: readonly { readonly id: string; readonly reasons: readonly TakeReason[] }[];
  readonly judgement: ChoiceJudgement;
  readonly status: 'optimal' | 'timeLimit';
  /** no plan within the limits is worth more */
  readonly bound: number;
  /** share by which the plan may still fall short of the best */
  readonly gap: number;
}

export type TakeReason =
  | { readonly why: 'frees'; readonly crop: string; readonly side: Side }
  | { readonly why: 'dying' }
  | { readonly why: 'must' };

interface PlanProgram extends Program {
  /** the tree of each removal column, in order */
  readonly loose: readonly PlanTree[];
}

/** The rows of a limit left out, to see whether it binds or clashes. */
function planProgram(stand: PlanStand, limits: PlanLimits, without: ReadonlySet<LimitId> = new Set()): PlanProgram {
  const loose = stand.trees.filter((each) => !stays(each));
  const columnOf = new Map(loose.map(({ tree }, i) => [tree.id, i]));
  const area = ({ tree }: PlanTree) => basalArea(tree.dbhMm);
  const columns: { gain: number; lower: number; upper: number; whole: boolean }[] = loose.map((each) => ({
    gain: DYING_WORTH * each.dying - tapPrice(each, limits) - LIGHT_HAND * area(each),
    lower: each.must && !without.has('must') ? 1 : 0,
    upper: 1,
    whole: true
  }));
  const rows: { lower: number; upper: number; terms: [number, number][] }[] = [];
  for (const { tree, crop, weight } of stand.trees) {
    const states = crop ? stand.sides.get(tree.id) : undefined;
    if (!states) continue;
    // A side can be freed where all that blocks it may go; it is free when all of it goes.
    const freeable = states.filter(
      (s) => s.known && s.others === 0 && s.blockers.length > 0 && s.blockers.every((id) => columnOf.has(id))
    );
    if (freeable.length === 0) continue;
    const before = freeSides(states, new Set());
    const sides = freeable.map(({ blockers }) => {
      const column = columns.push({ gain: 0, lower: 0, upper: 1, whole: false }) - 1;
      for (const id of blockers)
        rows.push({
          lower: -Infinity,
          upper: 0,
          terms: [
            [column, 1],
            [columnOf.get(id)!, -1]
          ]
        });
      return column;
    });
    // Each further free side is worth less, so that the solver fills them in order without a condition.
    const steps = freeable.map((_, k) => {
      const gain = 100 * weight * (RELEASE_WORTH[before + k + 1]! - RELEASE_WORTH[before + k]!);
      return columns.push({ gain, lower: 0, upper: 1, whole: false }) - 1;
    });
    rows.push({
      lower: -Infinity,
      upper: 0,
      terms: [...steps.map((k): [number, number] => [k, 1]), ...sides.map((k): [number, number] => [k, -1])]
    });
  }
  const all = sum(stand.trees, area);
  const looseArea = loose.map((each, i): [number, number] => [i, area(each)]);
  if (!without.has('share')) rows.push({ lower: -Infinity, upper: limits.share * all, terms: looseArea });
  if (!without.has('residual') && limits.guide === 'timber' && limits.residualM2PerHa > 0)
    rows.push({ lower: -Infinity, upper: all - limits.residualM2PerHa * stand.areaHa, terms: looseArea });
  if (!without.has('residual') && limits.guide === 'sugarbush')
    rows.push({
      lower: -Infinity,
      upper: sum(stand.trees, ({ tree }) => openCrownArea(tree.dbhMm)) - CROWNS_FILL * stand.areaHa * M2_PER_HECTARE,
      terms: loose.map(({ tree }, i) => [i, openCrownArea(tree.dbhMm)])
    });
  const cover = without.has('cover') || limits.cover === 0 ? null : coverOf(stand, (id) => columnOf.has(id));
  if (cover) {
    // A patch of ground stays shaded while one of those that shade it stands; all patches together make the cover.
    const shaded = cover.patches.map(({ share, trees }): [number, number] => {
      const column = columns.push({ gain: 0, lower: 0, upper: 1, whole: false }) - 1;
      rows.push({
        lower: -Infinity,
        upper: trees.length,
        terms: [[column, 1], ...trees.map((id): [number, number] => [columnOf.get(id)!, 1])]
      });
      return [column, share];
    });
    if (limits.cover > cover.firm) rows.push({ lower: limits.cover - cover.firm, upper: Infinity, terms: shaded });
  }
  if (!without.has('others') && limits.othersShare > 0) {
    // others left >= share * all left, with what is taken on one side.
    const toStay = othersToStay(stand, limits);
    const others = sum(
      stand.trees.filter(({ maple }) => !maple),
      area
    );
    rows.push({
      lower: -Infinity,
      upper: others - toStay * all,
      terms: loose.map((each, i) => [i, area(each) * ((each.maple ? 0 : 1) - toStay)])
    });
  }
  if (!without.has('opening'))
    for (const { trees } of openingCovers(stand, limits))
      rows.push({
        lower: -Infinity,
        upper: trees.length - 1,
        terms: trees.map((id) => [columnOf.get(id)!, 1])
      });
  return { columns, rows, loose };
}

function takenBy({ loose }: PlanProgram, values: Float64Array): Set<string> {
  return new Set(loose.filter((_, i) => values[i]! > 0.5).map(({ tree }) => tree.id));
}

export interface PlanOptions extends Omit<SolveOptions, 'onBetter'> {
  /** told of each better plan as it is found */
  readonly onBetter?: (better: { readonly taken: ReadonlySet<string>; readonly gap: number }) => void;
}

/**
 * Which trees to take: the choice worth most to the crop trees within the limits, as a mixed-integer program.
 * @returns the plan; or, where no choice keeps all limits, a smallest set of limits that clash
 */
export function planThinning(
  stand: PlanStand,
  limits: PlanLimits,
  solve: Solver,
  { onBetter, ...options }: PlanOptions = {}
): ThinningPlan | { readonly clash: readonly LimitId[] } {
  const program = planProgram(stand, limits);
  const answer = solve(program, {
    gap: PROVEN_GAP,
    ...options,
    ...(onBetter && {
      onBetter: ({ values, gain, bound }) =>
        onBetter({ taken: takenBy(program, values), gap: Math.abs(bound - gain) / Math.max(1e-9, Math.abs(gain)) })
    })
  });
  if (answer.status === 'infeasible') return { clash: clashing(stand, limits, solve) };
  const taken = takenBy(program, answer.values!);
  return {
    taken: [...taken].map((id) => ({ id, reasons: reasonsFor(stand, id, taken) })),
    judgement: judgeChoice(stand, limits, taken),
    status: answer.status,
    bound: answer.bound,
    gap: answer.gap
  };
}

/** Why a tree is among those taken. */
export function reasonsFor(stand: PlanStand, id: string, taken: ReadonlySet<string>): TakeReason[] {
  const own = stand.trees.find(({ tree }) => tree.id === id)!;
  const reasons: TakeReason[] = own.must ? [{ why: 'must' }] : [];
  for (const [crop, states] of stand.sides)
    for (const { side, blockers, others, known } of states)
      if (known && others === 0 && blockers.includes(id) && blockers.every((other) => taken.has(other)))
        reasons.push({ why: 'frees', crop, side });
  if (own.dying > 0) reasons.push({ why: 'dying' });
  return reasons;
}

const LIMITS: readonly LimitId[] = ['share', 'residual', 'cover', 'others', 'opening', 'must'];

/** A smallest set of limits of which no choice keeps all: each is left out in turn, and stays out where that mends nothing. */
function clashing(stand: PlanStand, limits: PlanLimits, solve: Solver): LimitId[] {
  const out = new Set<LimitId>();
  for (const id of LIMITS) {
    const answer = solve(planProgram(stand, limits, new Set([...out, id])), { gap: 1, seconds: 5 });
    if (answer.status === 'infeasible') out.add(id);
  }
  return LIMITS.filter((id) => !out.has(id));
}

/** What a limit costs. */
export interface Binding {
  readonly id: LimitId;
  /** what the plan would be worth more without it, hundredths of a crop tree fully freed */
  readonly worth: number;
}

/** Worth below this is the solver's slack, not a limit's price. */
const PRICE_FROM = 1;

/**
 * Which limits bind: the plan is made again without each. The one that costs most comes first; those that cost nothing
 * are left out.
 */
export function bindingLimits(stand: PlanStand, limits: PlanLimits, plan: ThinningPlan, solve: Solver): Binding[] {
  const price = (id: LimitId): Binding => {
    const { gain } = solve(planProgram(stand, limits, new Set([id])), { gap: PROVEN_GAP, seconds: 20 });
    return { id, worth: gain - plan.judgement.worth };
  };
  const slack = PRICE_FROM + PROVEN_GAP * Math.abs(plan.bound);
  return LIMITS.filter((id) => id !== 'must' || stand.trees.some(({ must }) => must))
    .map(price)
    .filter(({ worth }) => worth > slack)
    .sort((a, b) => b.worth - a.worth);
}

/** Sides of all crop trees that a choice of trees leaves free. */
export function sidesReleased(judgement: ChoiceJudgement): number {
  return sum(judgement.freed, ({ before, after }) => after - before);
}

/** Crop trees that are free to grow: three sides or four (Perkey, Wilkins & Smith 1993, NA-TP-19-93). */
export function freeToGrow(judgement: ChoiceJudgement, wanted = SIDES.length - 1): number {
  return judgement.freed.filter(({ after }) => after >= wanted).length;
}
