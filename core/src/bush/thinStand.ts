import {
  conditionOf,
  cutForbidden,
  isSugarbush,
  knownMaple,
  notOurs,
  type BushSettings,
  type StandWord,
  type SiteFeature,
  type Stand,
  type TreeRow,
  type TreeState
} from '../records/index.ts';
import { heightOf, positionSd, withinReach } from '../stand/index.ts';
import { conditionCap, tapsUnder, type TapPolicy } from '../taps/index.ts';
import {
  cropScore,
  fateOf,
  releases,
  isAsh,
  isDoomed,
  LATER_YEARS,
  othersToStay,
  sideStates,
  SOUND_PCT,
  throwsEasily,
  WINDTHROW_SHARE,
  type Clash,
  type GrowingArea,
  type OutlookTree,
  type PlanLimits,
  type PlanStand,
  type PlanTree,
  type ScoredTree,
  type Soil
} from '../thinning/index.ts';
import { policyOf } from './policy.ts';
import { standTrees } from './standTrees.ts';

/** The bush's own limits of a thinning. */
export function limitsOf(settings: BushSettings): PlanLimits {
  return {
    share: settings.removalShare,
    guide: settings.stockingGuide,
    cover: settings.coverLeft,
    residualM2PerHa: settings.residualM2PerHa,
    othersShare: settings.othersShare,
    openingM: settings.openingM,
    tapCost: settings.tapCost
  };
}

/**
 * Taps that a tree carries: by size, condition and growth; none for what is no maple.
 * @param years from now, by its own growth; a young tree without a tag has one by then
 */
export function tapsOf(row: TreeRow, policy: TapPolicy, today: string, years = 0): number {
  if (row.fallen || row.tapBan) return 0;
  if (row.dbhMm === null || knownMaple(row) !== true || (years === 0 && row.tagged === false)) return 0;
  return tapsUnder(policy, {
    dbhMm: row.dbhMm + 2 * row.ringMm * years,
    ringMm: row.ringMm,
    ringSeMm: row.ringSeMm,
    conditionTaps: conditionCap(conditionOf(row), today).taps,
    species: row.species
  });
}

/** Maples of a stand with their points as crop trees; one that is marked to come down is none. */
export function scoredTrees(rows: readonly TreeRow[]): ScoredTree[] {
  return rows.flatMap((row) => {
    if (row.dbhMm === null || row.eastM === null || row.northM === null || releases(row.mark) || row.fallen) return [];
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
      hazards: row.hazards,
      oldestOpenHoleYears: row.oldestOpenHoleYears,
      stressed: row.stressed
    };
    return [{ ...tree, score: cropScore(tree) }];
  });
}

/** Dieback from which a tree is counted on to die, per cent. */
const DYING_FROM_PCT = 25;
/** How surely beech and ash are lost to disease and borer. Working assumption. */
const DOOMED = 0.3;

/** An ash that lives on where the borer is, or a beech that was looked at and is sound: the ones to keep. */
function isResistant(row: TreeRow, ashBorer: boolean): boolean {
  const sound =
    row.diebackPct !== null &&
    row.diebackPct <= SOUND_PCT &&
    !row.defects.some((kind) => kind === 'canker' || kind === 'decay' || kind === 'borers');
  return sound && isDoomed(row.species) && (ashBorer || !isAsh(row.species));
}

/** Has a hazard, or stands dead, over a path, building or line that it can hit. */
export function threatens(row: TreeRow, features: readonly SiteFeature[]): boolean {
  if (row.hazards.length === 0 && !row.fallen && (row.diebackPct ?? 0) < 100) return false;
  const [tree] = standTrees([row]);
  if (!tree) return false;
  return withinReach(tree, heightOf(tree), features, positionSd(tree)).some((r) => r.withinOneLength);
}

export interface ThinStand {
  readonly plan: PlanStand;
  readonly rows: readonly TreeRow[];
  /** crop trees whose crowns nobody can judge: rough positions and no crown card */
  readonly unknown: readonly TreeRow[];
  /** trees of the stand without a place or a diameter */
  readonly unplaced: readonly TreeRow[];
  /** trees that ought to go and ought to stay: the steward decides */
  readonly clashes: readonly { readonly row: TreeRow; readonly clash: Clash }[];
}

/** What a stand is seen among, and what is wished of its plan. */
export interface ThinWishes {
  /** all trees of the bush */
  readonly rows: readonly TreeRow[];
  readonly features: readonly SiteFeature[];
  /** ids of the crop trees */
  readonly crops: ReadonlySet<string>;
  readonly settings: BushSettings;
  /** ISO date */
  readonly today: string;
  readonly wishes?: { readonly keepMarks: boolean; readonly takeHazards: boolean };
}

/** A stand as the plan wants it. */
export function thinStand(
  stand: Stand,
  { rows: all, features, crops, settings, today, wishes = { keepMarks: true, takeHazards: true } }: ThinWishes
): ThinStand {
  const policy = policyOf(settings);
  const mapped = standTrees(all);
  const byId = new Map(mapped.map((tree) => [tree.id, tree]));
  const own = all.filter((row) => row.standId === stand.id);
  const rows = own.filter((row) => byId.has(row.id));
  const scores = new Map(scoredTrees(rows).map(({ id, score }) => [id, score.score]));
  const ofKind = new Map<string, number>();
  for (const { species } of own) if (species) ofKind.set(species, (ofKind.get(species) ?? 0) + 1);
  const clashes: { row: TreeRow; clash: Clash }[] = [];
  const trees = rows.map((row): PlanTree => {
    const crop = crops.has(row.id);
    const resistant = isResistant(row, settings.ashBorer);
    const fate = fateOf(
      {
        ...row,
        threatens: threatens(row, features),
        notOurs: notOurs(row, today),
        ofItsKind: row.species ? ofKind.get(row.species)! : null,
        resistant,
        girdled: row.fallen !== null
      },
      wishes
    );
    if (fate.clash !== null) clashes.push({ row, clash: fate.clash });
    const doomed = !resistant && isDoomed(row.species);
    return {
      tree: byId.get(row.id)!,
      crop,
      weight: crop ? (scores.get(row.id) ?? 50) / 100 : 0,
      hold: fate.hold,
      must: !crop && fate.must,
      taps: tapsOf(row, policy, today),
      tapsLater: tapsOf(row, policy, today, LATER_YEARS),
      dying: row.diebackPct !== null && row.diebackPct > DYING_FROM_PCT ? row.diebackPct / 100 : doomed ? DOOMED : 0,
      maple: knownMaple(row) === true
    };
  });
  // A girdled tree is on its way out: it takes a crown tree's light for a year or two, and no more.
  const dying = new Set(all.filter(({ fallen }) => fallen).map(({ id }) => id));
  const upright = mapped.filter(({ id }) => !dying.has(id));
  const sides = new Map(
    rows
      .filter((row) => crops.has(row.id))
      .map((row) => [row.id, sideStates(byId.get(row.id)!, upright, row.crownCard)] as const)
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
    unplaced: own.filter((row) => !byId.has(row.id)),
    clashes
  };
}

/** Of a choice of trees those that may still be taken: some were marked to keep, or found lived in, after it was made. */
export function stillTaken({ plan }: Pick<ThinStand, 'plan'>, taken: Iterable<string>): Set<string> {
  const free = new Set(plan.trees.filter(({ hold }) => hold === null).map(({ tree }) => tree.id));
  return new Set([...taken].filter((id) => free.has(id)));
}

/** Why a tree that is marked to come down stays as things are: by somebody's word on its stand, or until the steward decides. */
export type HeldBack =
  { readonly why: 'forbidden'; readonly word: StandWord } | { readonly why: 'clash'; readonly clash: Clash };

/** null for a tree that may come down as it is marked. @param today ISO date */
export function heldBack(row: TreeRow, stand: Stand | null, today: string): HeldBack | null {
  const word = cutForbidden(stand, today);
  if (word !== null) return { why: 'forbidden', word };
  const marked = { threatens: false, ofItsKind: null, resistant: false, girdled: false };
  const { clash } = fateOf(
    { ...row, ...marked, notOurs: notOurs(row, today) },
    { keepMarks: true, takeHazards: false }
  );
  return clash && { why: 'clash', clash };
}

/** More crop trees than this without a word on their crowns, and no plan is made. */
const TOO_MANY_UNKNOWN = 0.34;

/** Why no plan is made for a stand. */
export type Refusal =
  | { readonly why: 'otherPurpose'; readonly stand: string; readonly note: string }
  | { readonly why: 'forbidden'; readonly word: StandWord }
  | { readonly why: 'areaUnknown' | 'noTrees' }
  | { readonly why: 'roughPositions'; readonly unknown: number; readonly crops: number };

/** null where a plan may be made. @param today ISO date */
export function refusal(stand: Stand, { plan, unknown }: ThinStand, today: string): Refusal | null {
  if (!isSugarbush(stand)) return { why: 'otherPurpose', stand: stand.name, note: stand.note };
  const word = cutForbidden(stand, today);
  if (word !== null) return { why: 'forbidden', word };
  if (stand.areaHa === null && stand.outline === null) return { why: 'areaUnknown' };
  if (plan.trees.length === 0) return { why: 'noTrees' };
  const crops = plan.sides.size;
  return crops > 0 && unknown.length > TOO_MANY_UNKNOWN * crops
    ? { why: 'roughPositions', unknown: unknown.length, crops }
    : null;
}

/**
 * The bush's limits as this stand can keep them: on ground that holds roots badly less is taken at once, and no more of
 * other species, in whole per cent, is asked for than there is.
 */
export function fittingLimits(limits: PlanLimits, plan: PlanStand, soil: Soil): PlanLimits {
  return {
    ...limits,
    share: throwsEasily(soil) ? Math.min(limits.share, WINDTHROW_SHARE) : limits.share,
    othersShare: Math.floor(100 * othersToStay(plan, limits) + 1e-9) / 100
  };
}

/** A stand's trees with what is in their trunks, for the years to come. */
export function outlookTrees(
  known: readonly { readonly row: TreeRow; readonly state: TreeState }[],
  crops: ReadonlySet<string>,
  { today, ashBorer }: { readonly today: string; readonly ashBorer: boolean }
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
        tappable: knownMaple(row) === true && !row.fallen && !row.tapBan,
        crop: crops.has(row.id),
        girdled: row.fallen !== null,
        borer: ashBorer,
        conditionTaps: conditionCap(conditionOf(row), today).taps,
        holes: state.tapholes.map(({ season, bitMm, depthMm }) => ({ season, bitMm, depthMm })),
        ringMm
      }
    ];
  });
}

/** The area on which a stand's trees grow. */
export function growingArea(stand: Stand): GrowingArea {
  return { areaHa: stand.areaHa ?? 1, outlines: stand.outline ? [stand.outline] : [] };
}
