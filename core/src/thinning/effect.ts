import { mean, sampleDeviation, Z_EIGHTY } from '../math/index.ts';
import { seedlingMetrics, type SeedlingPlot } from './regeneration.ts';

/** A tree before and after a thinning, of whatever is compared: ring, closing, litres, sugar. */
export interface BeforeAndAfter {
  readonly id: string;
  readonly freed: boolean;
  /** only trees of one kind are compared */
  readonly kind: string;
  readonly dbhMm: number;
  /** what is compared, in the years before, and in those after */
  readonly before: number;
  readonly after: number;
}

/** What a thinning did. */
export interface ThinningEffect {
  /** how much more those that were freed changed than comparable ones that were not */
  readonly effect: number;
  /** the interval that holds it in 80 of 100 such thinnings */
  readonly low: number;
  readonly high: number;
  /** freed trees that found comparable ones, and those that did not */
  readonly compared: number;
  readonly alone: number;
  readonly verdict: 'tooEarly' | 'tooFew' | 'cannotTell' | 'more' | 'less';
}

/** Crowns take so many years to fill the room: before, nothing is told. Common practice. */
export const EFFECT_AFTER_YEARS = 3;
/** Fewer freed trees with a comparable one tell nothing. Working assumption. */
export const EFFECT_TREES = 8;
/** A tree is comparable where its thickness lies no farther away than this share. Working assumption. */
const ALIKE_DBH = 0.25;
/** So many comparable trees are taken for each at the most: the nearest by what they were before. */
const MOST_ALIKE = 3;

/**
 * Did a thinning do what it was for? Each freed tree's change is held against the change of comparable ones that were not freed: of
 * its kind, about as thick, and alike in what they were before. What a year did to all of them falls out (difference in
 * differences).
 * @param years since the thinning
 */
export function thinningEffect(trees: readonly BeforeAndAfter[], years: number): ThinningEffect {
  const others = trees.filter(({ freed }) => !freed);
  const freed = trees.filter((tree) => tree.freed);
  const usedFor = new Map<string, number>();
  const pairs = freed.flatMap((tree) => {
    const alike = others
      .filter(({ kind, dbhMm }) => kind === tree.kind && Math.abs(dbhMm / tree.dbhMm - 1) <= ALIKE_DBH)
      .sort((a, b) => Math.abs(a.before - tree.before) - Math.abs(b.before - tree.before))
      .slice(0, MOST_ALIKE);
    if (alike.length === 0) return [];
    for (const { id } of alike) usedFor.set(id, (usedFor.get(id) ?? 0) + 1 / alike.length);
    return [{ own: tree.after - tree.before, theirs: mean(alike.map(({ after, before }) => after - before)) }];
  });
  const effect = pairs.length > 0 ? mean(pairs.map(({ own, theirs }) => own - theirs)) : NaN;
  const changes = others.map(({ after, before }) => after - before);
  // A tree that is compared with several counts in all of them: their errors go together.
  const shares = [...usedFor.values()].reduce((sum, uses) => sum + (uses / pairs.length) ** 2, 0);
  const se =
    pairs.length > 1 && others.length > 1
      ? Math.sqrt(
          sampleDeviation(pairs.map(({ own }) => own)) ** 2 / pairs.length + sampleDeviation(changes) ** 2 * shares
        )
      : Infinity;
  const [low, high] = [effect - Z_EIGHTY * se, effect + Z_EIGHTY * se];
  const said = low > 0 ? 'more' : high < 0 ? 'less' : 'cannotTell';
  return {
    effect,
    low,
    high,
    compared: pairs.length,
    alone: freed.length - pairs.length,
    verdict: years < EFFECT_AFTER_YEARS ? 'tooEarly' : pairs.length < EFFECT_TREES ? 'tooFew' : said
  };
}

/** A place with many trees before and after a thinning: what its sap gave, against all others of the same season. */
export interface PartlyFreed {
  /** of its trees that have more room now, 0..1 */
  readonly share: number;
  readonly before: number;
  readonly after: number;
}

/** Fewer places tell nothing. Working assumption. */
export const EFFECT_PLACES = 5;
/** Nor do places that were all freed alike, 1 sd of their shares. Working assumption. */
const SHARES_DIFFER = 0.15;

/**
 * What a thinning did to places whose trees were freed in part: by how much more a place changes all of whose trees were freed than
 * one without any (least squares over the places, with Student's t for how few they are).
 * @param years since the thinning
 */
export function gradedEffect(places: readonly PartlyFreed[], years: number): Omit<ThinningEffect, 'alone'> {
  const many = places.length;
  const shares = mean(places.map(({ share }) => share));
  const changes = mean(places.map(({ after, before }) => after - before));
  const spread = places.reduce((sum, { share }) => sum + (share - shares) ** 2, 0);
  const effect =
    places.reduce((sum, { share, after, before }) => sum + (share - shares) * (after - before), 0) / spread;
  const left = places.reduce(
    (sum, { share, after, before }) => sum + (after - before - changes - effect * (share - shares)) ** 2,
    0
  );
  const isTold = many >= EFFECT_PLACES && Math.sqrt(spread / many) >= SHARES_DIFFER;
  const half = isTold ? studentEighty(many - 2) * Math.sqrt(left / (many - 2) / spread) : Infinity;
  const [low, high] = [effect - half, effect + half];
  const said = low > 0 ? 'more' : high < 0 ? 'less' : 'cannotTell';
  const verdict = years < EFFECT_AFTER_YEARS ? 'tooEarly' : isTold ? said : 'tooFew';
  return { effect, low, high, compared: many, verdict };
}

/** Half the width of Student's 80 % interval in standard errors (Cornish-Fisher, within 1 % from 3 degrees of freedom on). */
function studentEighty(freedom: number): number {
  const z = Z_EIGHTY;
  return (
    z +
    (z ** 3 + z) / (4 * freedom) +
    (5 * z ** 5 + 16 * z ** 3 + 3 * z) / (96 * freedom ** 2) +
    (3 * z ** 7 + 19 * z ** 5 + 17 * z ** 3 - 15 * z) / (384 * freedom ** 3)
  );
}

/** What stands on plots inside fences against plots outside of them. */
export interface FenceEffect {
  /** maples above the knee a hectare, in the mean of the plots */
  readonly inside: number;
  readonly outside: number;
  /** how many more inside, with the interval that holds it in 80 of 100 */
  readonly more: number;
  readonly low: number;
  readonly high: number;
  readonly plots: readonly [inside: number, outside: number];
  readonly verdict: 'tooEarly' | 'tooFew' | 'cannotTell' | 'more' | 'less';
}

/** So many plots on either side tell something. Working assumption. */
const FENCE_PLOTS = 3;

/**
 * Did the fences work? Plots inside against plots outside (Welch's two means).
 * @param plots as they were counted last @param years since the first plot was fenced
 */
export function fenceEffect(plots: readonly SeedlingPlot[], years: number): FenceEffect {
  const perHa = (plot: SeedlingPlot) => seedlingMetrics([plot]).establishedMaplesPerHa;
  const [inside, outside] = [true, false].map((fenced) =>
    plots.filter((plot) => plot.fenced === fenced).map(perHa)
  ) as [number[], number[]];
  const isTold = inside.length >= FENCE_PLOTS && outside.length >= FENCE_PLOTS;
  const parts = [inside, outside].map((side) => sampleDeviation(side) ** 2 / side.length);
  const variance = parts.reduce((a, b) => a + b, 0);
  const freedom = variance ** 2 / (parts[0]! ** 2 / (inside.length - 1) + parts[1]! ** 2 / (outside.length - 1));
  const more = mean(inside) - mean(outside);
  // Plots that are all alike differ surely or not at all.
  const half = !isTold ? Infinity : variance === 0 ? 0 : studentEighty(freedom) * Math.sqrt(variance);
  const [low, high] = [more - half, more + half];
  const said = low > 0 ? 'more' : high < 0 ? 'less' : 'cannotTell';
  return {
    inside: mean(inside),
    outside: mean(outside),
    more,
    low,
    high,
    plots: [inside.length, outside.length],
    verdict: years < EFFECT_AFTER_YEARS ? 'tooEarly' : isTold ? said : 'tooFew'
  };
}
