import Flatbush from 'flatbush';

import { basalArea, openGrownCrownWidth, radiusOf, type StandTree } from '../stand/index.ts';
import { M2_PER_HECTARE } from '../units/index.ts';
import { netOver, reachesInto, type Disc } from './standMetrics.ts';
import type { PlanLimits, PlanStand } from './planStand.ts';

/** Above the floor of the timber guides by less than this, a stand is left alone: "17 to 18". m2/ha */
const ALONE_MARGIN_M2 = 1;
/** The open-grown crowns of what is left should come to this share of the ground. Working assumption. */
export const CROWNS_FILL = 1;
/** An entry is not worth its harm where so little may be taken, share of the crowns or of the cover. Working assumption. */
const LITTLE = 0.05;

/** Ground that a tree's crown would shade if it stood open, m2. Ek 1974 for sugar maple, taken for all. */
export function openCrownArea(dbhMm: number): number {
  return (Math.PI / 4) * (openGrownCrownWidth(dbhMm) / 1000) ** 2;
}

/** What a stand holds, by both schools. */
export interface Stocking {
  readonly basalAreaPerHa: number;
  /** open-grown crowns of its trees over its ground */
  readonly crownsShare: number;
}

/** How full a stand is, against what its trees would shade if they all stood open. @param areaHa of the stand, hectares */
export function stockingOf(trees: readonly Pick<StandTree, 'dbhMm'>[], areaHa: number): Stocking {
  return {
    basalAreaPerHa: trees.reduce((sum, { dbhMm }) => sum + basalArea(dbhMm), 0) / areaHa,
    crownsShare: trees.reduce((sum, { dbhMm }) => sum + openCrownArea(dbhMm), 0) / (areaHa * M2_PER_HECTARE)
  };
}

/** Why a stand is better left alone this year. */
export interface NotYet {
  readonly why: 'stocking' | 'cover';
  /** m2/ha, or a share */
  readonly now: number;
  readonly wanted: number;
}

/** Is there too little in a stand to thin it by these limits? null where there is enough. */
export function notYet(stand: PlanStand, limits: PlanLimits, cover = coverOf(stand)): NotYet | null {
  const { basalAreaPerHa, crownsShare } = stockingOf(
    stand.trees.map(({ tree }) => tree),
    stand.areaHa
  );
  if (limits.guide === 'timber') {
    const wanted = limits.residualM2PerHa === 0 ? 0 : limits.residualM2PerHa + ALONE_MARGIN_M2;
    if (basalAreaPerHa < wanted) return { why: 'stocking', now: basalAreaPerHa, wanted: limits.residualM2PerHa };
  } else if (crownsShare < CROWNS_FILL * (1 + LITTLE))
    return { why: 'stocking', now: crownsShare, wanted: CROWNS_FILL };
  const now = cover && coverLeft(cover, new Set());
  if (now !== null && now < limits.cover * (1 + LITTLE) && limits.cover > 0)
    return { why: 'cover', now, wanted: limits.cover };
  return null;
}

/** The net on which cover is counted, metres. */
const COVER_STEP_M = 1.5;

/** Ground of a stand by who shades it: what stays shaded in any case, and patches that only some trees shade. */
export interface Cover {
  /** share of the ground shaded by trees that stay, or from beyond the edge */
  readonly firm: number;
  /** shares of the ground, each with the trees that alone shade it */
  readonly patches: readonly { readonly share: number; readonly trees: readonly string[] }[];
}

/**
 * Who shades which part of a stand, on a net of a metre and a half; null without an outline.
 * @param mayGo trees that a plan may take; all of the stand where left out
 */
export function coverOf(stand: PlanStand, mayGo: (id: string) => boolean = () => true): Cover | null {
  if (!stand.outline) return null;
  const own = stand.trees.map(({ tree }) => tree);
  const all = [...own, ...stand.around];
  const ground = netOver(stand.outline, COVER_STEP_M);
  if (all.length === 0 || ground.length === 0) return { firm: 0, patches: [] };
  const index = new Flatbush(all.length);
  for (const tree of all) {
    const r = tree.crownRadiiM ? Math.max(...tree.crownRadiiM) : radiusOf(tree);
    index.add(tree.eastM - r, tree.northM - r, tree.eastM + r, tree.northM + r);
  }
  index.finish();
  let firm = 0;
  const patches = new Map<string, { count: number; trees: string[] }>();
  for (const [eastM, northM] of ground) {
    const spot: Disc = { eastM, northM, radiusM: 0 };
    const shading = index.search(eastM, northM, eastM, northM).filter((i) => reachesInto(all[i]!, spot));
    if (shading.length === 0) continue;
    if (shading.some((i) => i >= own.length || !mayGo(all[i]!.id))) {
      firm += 1;
      continue;
    }
    const trees = shading.sort((a, b) => a - b).map((i) => all[i]!.id);
    const key = trees.join('/');
    const patch = patches.get(key);
    if (patch) patch.count += 1;
    else patches.set(key, { count: 1, trees });
  }
  return {
    firm: firm / ground.length,
    patches: [...patches.values()].map(({ count, trees }) => ({ share: count / ground.length, trees }))
  };
}

/** Share of the ground that is shaded once the given trees are gone. */
export function coverLeft({ firm, patches }: Cover, taken: ReadonlySet<string>): number {
  return patches.reduce((sum, { share, trees }) => (trees.some((id) => !taken.has(id)) ? sum + share : sum), firm);
}

/** What the soil of a stand says of an entry. */
export interface Soil {
  readonly wetness: 'dry' | 'moist' | 'wet' | null;
  readonly soilDepth: 'deep' | 'shallow' | null;
  readonly hardPan: boolean | null;
  readonly soilPh: number | null;
}

/** On ground that holds roots badly one entry takes no more than this share. Working assumption. */
export const WINDTHROW_SHARE = 0.2;
/** Below this pH sugar maple is short of calcium, and its crowns are looked at more often. Working assumption. */
const ACID_PH = 4.5;

/** Does the ground hold roots badly? Wind throws trees there when their neighbours are gone. */
export function throwsEasily({ wetness, soilDepth, hardPan }: Soil): boolean {
  return wetness === 'wet' || soilDepth === 'shallow' || hardPan === true;
}

/** Is the soil so sour that sugar maple wants lime before light? */
export function isAcid({ soilPh }: Soil): boolean {
  return soilPh !== null && soilPh < ACID_PH;
}
