import type { RoundShare } from '../records/index.ts';

/** A tree of a round, with what is to be done at it. */
export interface SharedTree {
  readonly treeId: string;
  readonly standId: string | null;
  /** holes to drill, or whatever is to be done; in whatever unit */
  readonly work: number;
}

/** A stretch of the walk that one helper takes. */
export interface Stretch {
  readonly helper: string;
  readonly fromTreeId: string;
  readonly toTreeId: string;
  readonly trees: number;
  readonly work: number;
}

/** A cut is put at the end of a stand instead, where that shifts it by no more than this share of a helper's work. */
const TO_STAND = 0.25;

/**
 * Shares a round among helpers: each takes one stretch of the walk, about as much work as the others; where a stand ends close by,
 * the stretch ends there. Work at one tree stays together.
 * @param trees with something to do, in walking order
 * @param helpers in the order in which they take stretches
 * @returns a stretch for each helper; fewer where there are fewer trees
 */
export function shareRound(trees: readonly SharedTree[], helpers: readonly string[]): Stretch[] {
  const takers = helpers.slice(0, trees.length);
  const stretches: Stretch[] = [];
  let from = 0;
  for (const [i, helper] of takers.entries()) {
    const others = takers.length - i - 1;
    const to = others === 0 ? trees.length : cutAfter(trees, from, others);
    const own = trees.slice(from, to);
    const work = own.reduce((sum, tree) => sum + tree.work, 0);
    stretches.push({
      helper,
      fromTreeId: own[0]!.treeId,
      toTreeId: own.at(-1)!.treeId,
      trees: own.length,
      work
    });
    from = to;
  }
  return stretches;
}

/** Where the stretch that begins at a tree ends, if as much is left for each of the others. */
function cutAfter(trees: readonly SharedTree[], from: number, others: number): number {
  const left = trees.slice(from).reduce((sum, { work }) => sum + work, 0);
  const share = left / (others + 1);
  let done = 0;
  let best = { at: from + 1, off: Infinity };
  for (let at = from + 1; at <= trees.length - others; at++) {
    done += trees[at - 1]!.work;
    const endsStand = trees[at - 1]!.standId !== trees[at]!.standId;
    const off = Math.abs(done - share) - (endsStand ? TO_STAND * share : 0);
    if (off < best.off) best = { at, off };
  }
  return best.at;
}

/**
 * Who walks which tree, as a round was handed out.
 * @param stretches as they were written down; a tree that is not on the walk any more begins none
 * @param walk ids of trees in walking order
 * @returns helpers by tree; empty where nothing is handed out
 */
export function helpersByTree(
  stretches: RoundShare['stretches'],
  walk: readonly string[]
): ReadonlyMap<string, string> {
  const begins = new Map(stretches.map(({ fromTreeId, helper }) => [fromTreeId, helper]));
  const first = walk.find((id) => begins.has(id));
  if (first === undefined) return new Map();
  // What was put before the first stretch since belongs to it.
  let helper = begins.get(first)!;
  return new Map(walk.map((id) => [id, (helper = begins.get(id) ?? helper)]));
}
