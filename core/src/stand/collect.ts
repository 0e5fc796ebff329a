import Flatbush from 'flatbush';

/** A tree with buckets. */
export interface TappedTree {
  readonly id: string;
  readonly eastM: number;
  readonly northM: number;
  readonly taps: number;
}

/** A place to stand at, or to leave the gathering tank at, with the trees that are reached from there. */
export interface CollectingPoint {
  /** the tree that it is at */
  readonly at: TappedTree;
  readonly trees: readonly TappedTree[];
  readonly taps: number;
}

/**
 * Where many taps hang close together. The place with most taps within reach first, its trees taken out, then the next,
 * for as long as one is worth it: the greedy rule for covering, never below 63 % of the best choice of as many places
 * (Nemhauser, Wolsey & Fisher 1978).
 * @param reachM how far a full bucket is carried, metres
 * @param leastTaps fewer are no cluster
 */
export function collectingPoints(trees: readonly TappedTree[], reachM: number, leastTaps: number): CollectingPoint[] {
  const tapped = trees.filter((tree) => tree.taps > 0);
  if (tapped.length === 0) return [];
  const index = new Flatbush(tapped.length);
  for (const { eastM, northM } of tapped) index.add(eastM, northM);
  index.finish();
  const near = tapped.map(({ eastM, northM }) => index.neighbors(eastM, northM, Infinity, reachM));
  const sums = near.map((list) => list.reduce((sum, i) => sum + tapped[i]!.taps, 0));
  const left = tapped.map(() => true);
  const points: CollectingPoint[] = [];
  for (;;) {
    let best = 0;
    for (let i = 1; i < sums.length; i++) if (sums[i]! > sums[best]!) best = i;
    const taps = sums[best]!;
    if (taps < Math.max(1, leastTaps)) return points;
    const members = near[best]!.filter((i) => left[i]);
    for (const i of members) {
      left[i] = false;
      for (const j of near[i]!) sums[j] = sums[j]! - tapped[i]!.taps;
    }
    points.push({ at: tapped[best]!, trees: members.map((i) => tapped[i]!), taps });
  }
}
