import { mean, sampleDeviation, Z_EIGHTY } from '../math/index.ts';

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
