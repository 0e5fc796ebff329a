import {
  basalArea,
  conditionCap,
  heightOf,
  isSugarbush,
  knownMaple,
  positionSd,
  tapsUnder,
  withinReach,
  type BushSettings,
  type SiteFeature,
  type Stand,
  type TapPolicy,
  type TreeRow,
  type TreeState
} from '@baumkin/core';
import {
  cropScore,
  frees,
  LATER_YEARS,
  sideStates,
  type GrowingGround,
  type OutlookTree,
  type PlanLimits,
  type PlanStand,
  type PlanTree,
  type ScoredTree
} from '@baumkin/core/thinning';

import { policyOf } from '../count/policy.ts';
import { standTrees } from './standTrees.ts';

/** The bush's own limits of a thinning. */
export function limitsOf(settings: BushSettings): PlanLimits {
  return {
    share: settings.removalShare,
    residualM2PerHa: settings.residualM2PerHa,
    othersShare: settings.othersShare,
    openingM: settings.openingM,
    tapCost: settings.tapCost
  };
}

/** A row's condition, as the count sees it; null where nobody looked up. */
function conditionOf(row: TreeRow) {
  return row.diebackPct === null
    ? null
    : { diebackPct: row.diebackPct, oldestOpenHoleYears: row.oldestOpenHoleYears, stressed: row.stressed ?? false };
}

/**
 * Taps that a tree carries: by size, condition and growth; none for what is no maple.
 * @param years from now, by its own growth; a young tree without a tag has one by then
 */
export function tapsOf(row: TreeRow, policy: TapPolicy, years = 0): number {
  if (row.dbhMm === null || knownMaple(row) !== true || (years === 0 && row.tagged === false)) return 0;
  return tapsUnder(policy, {
    dbhMm: row.dbhMm + 2 * row.ringMm * years,
    ringMm: row.ringMm,
    ringSeMm: row.ringSeMm,
    conditionTaps: conditionCap(conditionOf(row)).taps
  });
}

/** Maples of a stand with their points as crop trees; one that is marked to come down is none. */
export function scoredTrees(rows: readonly TreeRow[]): ScoredTree[] {
  return rows.flatMap((row) => {
    if (row.dbhMm === null || row.eastM === null || row.northM === null || frees(row.mark)) return [];
    const tree = {
      id: row.id,
      species: row.species,
      maple: knownMaple(row) === true,
      dbhMm: row.dbhMm,
      eastM: row.eastM,
      northM: row.northM,
      ringMm: row.ringMm,
      diebackPct: row.diebackPct,
      crownClass: row.crownClass,
      defects: row.defects,
      hazards: row.hazards
    };
    return [{ ...tree, score: cropScore(tree) }];
  });
}

/** Dieback from which a tree is counted on to die, per cent. */
const DYING_FROM_PCT = 25;
/** How surely beech and ash are lost to disease and borer. Working assumption. */
const DOOMED = 0.3;

/** Why a tree is not to be taken; null where nothing holds it. */
function holdOf(row: TreeRow): string | null {
  if (row.mark === 'keep') return row.markReason || 'marked to keep';
  if (row.mark === 'watch') return 'marked to watch';
  if (row.mark === 'brace') return 'marked for a brace';
  const home = row.wildlife.find((what) => what !== 'woodpeckers');
  return home && !frees(row.mark) ? `wildlife: ${home}` : null;
}

/** Has a hazard and stands over a path, building or line that it can hit. */
export function threatens(row: TreeRow, features: readonly SiteFeature[]): boolean {
  if (row.hazards.length === 0) return false;
  const [tree] = standTrees([row]);
  if (!tree) return false;
  return withinReach(tree.eastM, tree.northM, heightOf(tree), features, positionSd(tree)).some(
    (r) => r.withinOneLength
  );
}

export interface ThinStand {
  readonly plan: PlanStand;
  readonly rows: readonly TreeRow[];
  /** crop trees whose crowns nobody can judge: rough positions and no crown card */
  readonly unknown: readonly TreeRow[];
  /** trees of the stand without a place or a diameter */
  readonly unplaced: readonly TreeRow[];
}

/** A stand as the plan wants it. @param crops ids of the crop trees */
export function thinStand(
  stand: Stand,
  all: readonly TreeRow[],
  features: readonly SiteFeature[],
  crops: ReadonlySet<string>,
  settings: BushSettings,
  wishes: { readonly keepMarks: boolean; readonly takeHazards: boolean } = { keepMarks: true, takeHazards: true }
): ThinStand {
  const policy = policyOf(settings);
  const mapped = standTrees(all);
  const byId = new Map(mapped.map((tree) => [tree.id, tree]));
  const own = all.filter((row) => row.standId === stand.id);
  const rows = own.filter((row) => byId.has(row.id));
  const scores = new Map(scoredTrees(rows).map(({ id, score }) => [id, score.score]));
  const trees = rows.map((row): PlanTree => {
    const crop = crops.has(row.id);
    const must = !crop && ((wishes.keepMarks && frees(row.mark)) || (wishes.takeHazards && threatens(row, features)));
    const doomed = row.species === 'beech' || row.species === 'whiteAsh' || row.species === 'blackAsh';
    return {
      tree: byId.get(row.id)!,
      crop,
      weight: crop ? (scores.get(row.id) ?? 50) / 100 : 0,
      hold: must ? null : holdOf(row),
      must,
      taps: tapsOf(row, policy),
      tapsLater: tapsOf(row, policy, LATER_YEARS),
      dying: row.diebackPct !== null && row.diebackPct > DYING_FROM_PCT ? row.diebackPct / 100 : doomed ? DOOMED : 0,
      maple: knownMaple(row) === true
    };
  });
  const sides = new Map(
    rows
      .filter((row) => crops.has(row.id))
      .map((row) => [row.id, sideStates(byId.get(row.id)!, mapped, row.crownCard)] as const)
  );
  const inside = new Set(rows.map(({ id }) => id));
  return {
    plan: {
      trees,
      sides,
      areaHa: stand.areaHa ?? 1,
      outline: stand.outline,
      around: mapped.filter((tree) => !inside.has(tree.id))
    },
    rows,
    unknown: rows.filter((row) => sides.get(row.id)?.some(({ known }) => !known)),
    unplaced: own.filter((row) => !byId.has(row.id))
  };
}

/** More crop trees than this without a word on their crowns, and no plan is made. */
const TOO_MANY_UNKNOWN = 0.34;

/** Why no plan is made for a stand; null where one may be. */
export function refusal(stand: Stand, { plan, unknown }: ThinStand): string | null {
  if (!isSugarbush(stand))
    return `${stand.name} is managed for something else${stand.note ? `: ${stand.note}` : '.'} Nothing is thinned here for maples.`;
  if (stand.areaHa === null && stand.outline === null)
    return 'How large this stand is is not known: draw it on the map first.';
  if (plan.trees.length === 0) return 'No tree of this stand has a place and a diameter yet.';
  if (plan.sides.size > 0 && unknown.length > TOO_MANY_UNKNOWN * plan.sides.size)
    return `The positions are too rough to say whose crowns touch: ${unknown.length} of ${plan.sides.size} crop trees have no side that can be judged.`;
  return null;
}

/** A floor that a thin stand is below already would forbid everything: it is then off. */
export function fittingLimits(limits: PlanLimits, plan: PlanStand): PlanLimits {
  const all = plan.trees.reduce((sum, { tree }) => sum + basalArea(tree.dbhMm), 0);
  const now = all / plan.areaHa;
  if (all === 0) return limits;
  const others = plan.trees.reduce((sum, { tree, maple }) => sum + (maple ? 0 : basalArea(tree.dbhMm)), 0) / all;
  return {
    ...limits,
    residualM2PerHa: limits.residualM2PerHa >= now ? 0 : limits.residualM2PerHa,
    othersShare: Math.min(limits.othersShare, Math.floor(others * 90) / 100)
  };
}

/** A stand's trees with what is in their trunks, for the years to come. */
export function outlookTrees(
  known: readonly { readonly row: TreeRow; readonly state: TreeState }[],
  crops: ReadonlySet<string>
): OutlookTree[] {
  return known.flatMap(({ row, state }) => {
    const [tree] = standTrees([row]);
    if (!tree) return [];
    const { observed, ringMm } = state.growth;
    return [
      {
        ...tree,
        diebackPct: row.diebackPct,
        observed,
        tappable: knownMaple(row) === true,
        crop: crops.has(row.id),
        conditionTaps: conditionCap(conditionOf(row)).taps,
        holes: state.holes.map(({ season, bitMm, depthMm }) => ({ season, bitMm, depthMm })),
        ringMm
      }
    ];
  });
}

export function growingGround(stand: Stand): GrowingGround {
  return { areaHa: stand.areaHa ?? 1, outlines: stand.outline ? [stand.outline] : [] };
}
