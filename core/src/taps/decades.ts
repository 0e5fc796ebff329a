import { mean, quantiles, seededRng } from '../math/index.ts';
import type { SpeciesId } from '../identify/index.ts';
import { insideBark } from '../measure/index.ts';
import { columnsOf, DEFAULT_COLUMNS, meanVolumeRatio, type ColumnModel } from '../trunk/index.ts';
import { growthBalance } from './balance.ts';
import { guidelineTaps, type TapGuideline } from './guidelines.ts';

/** A tree as the long view knows it. Lengths in mm. */
export interface TapTree {
  readonly dbhMm: number;
  readonly ringMm: number;
  readonly ringSeMm: number;
  /** holes that are in the trunk already */
  readonly holes: readonly { readonly season: number; readonly bitMm: number; readonly depthMm: number }[];
  /** taps that its condition allows */
  readonly conditionTaps: number;
  /** sugar in its sap, per cent */
  readonly sugarPct: number;
  /** null where it is not settled */
  readonly species: SpeciesId | null;
}

/** How a bush is tapped, year after year. */
export interface TapPolicy {
  readonly guideline: TapGuideline;
  readonly bitMm: number;
  readonly depthMm: number;
  readonly bandMm: number;
  readonly acceptedShare: number;
  /** the bush's columns, in sugar maple */
  readonly model: ColumnModel;
  /** thinner trees are left alone, whatever the guideline says; 0 for none */
  readonly leastDbhMm: number;
  /** does the growth balance have a say, or the guideline alone? */
  readonly minds: 'size' | 'growth';
  /** do trees that their condition holds back rest? */
  readonly restsWeak: boolean;
  /** share of its sap that a tap loses whose path is all stained */
  readonly stainLoss: number;
}

/** Taps of a tree in a year under a policy; in a rest rhythm, the mean over it. */
export function tapsUnder(
  policy: TapPolicy,
  tree: Pick<TapTree, 'dbhMm' | 'ringMm' | 'ringSeMm' | 'conditionTaps' | 'species'>
): number {
  const { dbhMm, ringMm, ringSeMm, conditionTaps, species } = tree;
  if (dbhMm < policy.leastDbhMm) return 0;
  const size = guidelineTaps(policy.guideline, dbhMm);
  const held = policy.restsWeak ? Math.min(size, conditionTaps) : size;
  if (policy.minds === 'size' || held === 0) return held;
  const balance = growthBalance({ dbhMm, ringMm, ringSeMm, ...policy, model: columnsOf(species, policy.model) });
  if (balance.suggested >= 1) return Math.min(held, balance.suggested);
  return Number.isFinite(balance.restRhythmYears) ? Math.min(held, 1 / balance.restRhythmYears) : 0;
}

/** Old holes with the wood that has grown over them, mm. */
export interface BuriedTaps {
  readonly buriedMm: number;
  readonly bitMm: number;
  readonly depthMm: number;
  readonly taps?: number;
}

/**
 * Share of a new hole's path that lies in stained wood, in the mean over the band, for holes placed without looking:
 * `1 - exp(-sum)`, where each old hole adds `A(bit) / (pi DIB H)` times the share of the new path that its column still
 * crosses. Careful placing stays below it.
 */
export function stainedShareBehind(
  dbhMm: number,
  holes: Iterable<BuriedTaps>,
  { depthMm, bandMm }: Pick<TapPolicy, 'depthMm' | 'bandMm'>,
  model: ColumnModel = DEFAULT_COLUMNS
): number {
  let lost = 0;
  for (const hole of holes) lost += lostBehind(hole, hole.buriedMm, depthMm);
  return overlapping(lost, dbhMm, bandMm, model);
}

/** The same for a trunk that grows evenly. @param season of the new hole */
export function stainedShareIn(
  season: number,
  { dbhMm, ringMm, holes }: Pick<TapTree, 'dbhMm' | 'ringMm'> & { readonly holes: readonly DrilledTaps[] },
  { depthMm, bandMm }: Pick<TapPolicy, 'depthMm' | 'bandMm'>,
  model: ColumnModel = DEFAULT_COLUMNS
): number {
  let lost = 0;
  for (const hole of holes)
    if (hole.season < season) lost += lostBehind(hole, ringMm * (season - hole.season), depthMm);
  return overlapping(lost, dbhMm, bandMm, model);
}

/** Squares of bit, mm2, that old holes of a season take of a new path, by the share of it that their columns still cross. */
function lostBehind(
  { bitMm, depthMm: deep, taps = 1 }: Pick<DrilledTaps, 'bitMm' | 'depthMm' | 'taps'>,
  buriedMm: number,
  depthMm: number
): number {
  const crossed = Math.max(0, Math.min(depthMm, buriedMm + deep) - buriedMm) / depthMm;
  return taps * bitMm ** 2 * crossed;
}

/** What is lost of the band, columns that lie over each other counted once. */
function overlapping(lostMm2: number, dbhMm: number, bandMm: number, model: ColumnModel): number {
  const perBit = meanVolumeRatio(model) * (Math.PI / 4);
  return 1 - Math.exp(-(perBit * lostMm2) / (Math.PI * insideBark(dbhMm) * bandMm));
}

/** Holes of a season; fewer than one where a rest rhythm is spread over its years. */
export interface DrilledTaps {
  readonly season: number;
  readonly bitMm: number;
  readonly depthMm: number;
  readonly taps?: number;
}

/** A figure with the band in which it lies eight times in ten. */
export interface Banded {
  readonly mean: number;
  readonly low: number;
  readonly high: number;
}

export interface BushYear {
  readonly season: number;
  /** taps set by the policy */
  readonly taps: Banded;
  /** share of the paths of that year's holes that lies in stained wood, by tap */
  readonly stained: Banded;
  /** taps whose stain new wood replaces, by what growth surely carries and size allows */
  readonly carried: Banded;
  /** sugar of all the sap together, per cent; 0 without taps */
  readonly sugarPct: number;
}

export interface ProjectionOptions {
  /** first season to come */
  readonly season: number;
  readonly years: number;
  readonly draws: number;
  readonly seed: number;
  /** told after each draw; false ends the work */
  readonly onProgress?: (done: number) => boolean;
}

/**
 * How far the growth of a whole bush may lie off what its trees laid lately, one standard deviation of the logarithm: other
 * weather, crowns that close or are freed. Working assumption.
 */
export const BUSH_DRIFT_SD = 0.15;

/**
 * The bush under a policy, year by year: every tree grows on as it did, is tapped as the policy says, and carries its holes
 * along. Each draw takes every tree's growth anew within its error, and one drift for the whole bush.
 * @returns null where it was ended before its time
 */
export function projectBush(
  trees: readonly TapTree[],
  policy: TapPolicy,
  { season, years, draws, seed, onProgress }: ProjectionOptions
): BushYear[] | null {
  const rng = seededRng(seed);
  const taps = Array.from({ length: years }, () => [] as number[]);
  const stained = Array.from({ length: years }, () => [] as number[]);
  const carried = Array.from({ length: years }, () => [] as number[]);
  const sweet = Array.from({ length: years }, () => ({ sap: 0, sugar: 0 }));
  for (let draw = 0; draw < draws; draw++) {
    const drift = Math.exp(rng.normal(0, BUSH_DRIFT_SD));
    const sums = Array.from({ length: years }, () => ({ taps: 0, stained: 0, carried: 0 }));
    for (const tree of trees) {
      const ringMm = Math.max(0.05, drift * rng.normal(tree.ringMm, tree.ringSeMm));
      const holes: DrilledTaps[] = [...tree.holes];
      for (let year = 0; year < years; year++) {
        // Within one future its growth is certain: what is unsure of it lies between the futures.
        const now = { ...tree, dbhMm: tree.dbhMm + 2 * ringMm * year, ringMm, ringSeMm: 0 };
        const set = tapsUnder(policy, now);
        const sum = sums[year]!;
        sum.carried += tapsUnder({ ...policy, minds: 'growth', restsWeak: true }, now);
        if (set === 0) continue;
        sum.taps += set;
        const lost = stainedShareIn(season + year, { ...now, holes }, policy, columnsOf(tree.species, policy.model));
        sum.stained += set * lost;
        sweet[year]!.sap += set * (1 - lost);
        sweet[year]!.sugar += set * (1 - lost) * tree.sugarPct;
        holes.push({ season: season + year, bitMm: policy.bitMm, depthMm: policy.depthMm, taps: set });
      }
    }
    sums.forEach((sum, year) => {
      taps[year]!.push(sum.taps);
      stained[year]!.push(sum.taps > 0 ? sum.stained / sum.taps : 0);
      carried[year]!.push(sum.carried);
    });
    if (onProgress && !onProgress(draw + 1)) return null;
  }
  return taps.map((_, year) => ({
    season: season + year,
    taps: banded(taps[year]!),
    stained: banded(stained[year]!),
    carried: banded(carried[year]!),
    sugarPct: sweet[year]!.sap > 0 ? sweet[year]!.sugar / sweet[year]!.sap : 0
  }));
}

/** Mean and the band from the tenth to the ninetieth of a hundred. */
export function banded(values: readonly number[]): Banded {
  const [low, high] = quantiles(values, [0.1, 0.9]);
  return { mean: mean(values), low, high };
}
