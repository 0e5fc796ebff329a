import Flatbush from 'flatbush';

import { distanceBetween, type GroundPoint, type Point } from '../geometry/index.ts';
import type { SiteFeatureKind } from './hazard.ts';

/** A tree on the walk. */
export interface WalkTree {
  readonly id: string;
  readonly standId: string | null;
  /** null where it has no place on the map */
  readonly eastM: number | null;
  readonly northM: number | null;
}

type PlacedTree = WalkTree & GroundPoint;

/** Where people come into a bush: the first entrance drawn; null where none is. */
export function entranceOf(
  features: readonly { readonly kind: SiteFeatureKind; readonly points: readonly Point[] }[]
): GroundPoint | null {
  const at = features.find(({ kind }) => kind === 'entrance')?.points[0];
  return at ? { eastM: at[0], northM: at[1] } : null;
}

/** Length of a walk past trees in their order, metres; trees without a place are passed over. */
export function walkLength(trees: readonly WalkTree[]): number {
  const places = trees.filter(isPlaced);
  return places.reduce((sum, tree, i) => sum + (i === 0 ? 0 : distanceBetween(places[i - 1]!, tree)), 0);
}

/**
 * A short walk past all trees, stand by stand: the nearest stand next, within it on to the nearest tree, then turned and
 * moved about for as long as that shortens the way. Not the shortest walk there is, but near it. Trees without a place
 * come last, in the order in which they came.
 * @param entrance where the walk begins; the first tree's place by default
 * @returns ids in walking order
 */
export function shortWalk(trees: readonly WalkTree[], entrance?: GroundPoint): string[] {
  const placed = trees.filter(isPlaced);
  const order: string[] = [];
  let at: GroundPoint | undefined = entrance ?? placed[0];
  const stands = new Map<string | null, PlacedTree[]>();
  for (const tree of placed) stands.set(tree.standId, [...(stands.get(tree.standId) ?? []), tree]);
  while (at && stands.size > 0) {
    const from: GroundPoint = at;
    const reach = (list: readonly PlacedTree[]) => Math.min(...list.map((tree) => distanceBetween(from, tree)));
    const [standId, list] = [...stands].reduce((best, next) => (reach(next[1]) < reach(best[1]) ? next : best));
    stands.delete(standId);
    const walk = shorten(nearestNext(list, from), from);
    order.push(...walk.map((tree) => tree.id));
    at = walk.at(-1);
  }
  return [...order, ...trees.filter((tree) => !isPlaced(tree)).map((tree) => tree.id)];
}

function isPlaced(tree: WalkTree): tree is PlacedTree {
  return tree.eastM !== null && tree.northM !== null;
}

/** Always on to the nearest tree that was not passed yet. */
function nearestNext(trees: readonly PlacedTree[], from: GroundPoint): PlacedTree[] {
  const left = [...trees];
  const walk: PlacedTree[] = [];
  let at = from;
  while (left.length > 0) {
    let nearest = 0;
    for (let i = 1; i < left.length; i++)
      if (distanceBetween(left[i]!, at) < distanceBetween(left[nearest]!, at)) nearest = i;
    at = left[nearest]!;
    walk.push(left[nearest]!);
    left[nearest] = left.at(-1)!;
    left.pop();
  }
  return walk;
}

/** No better than this is worth another round, metres. */
const WORTH_M = 1e-6;
/** The walk is bettered in at most so many rounds. */
const MAX_ROUNDS = 30;
/** Longest run of trees that is moved elsewhere as a whole. */
const LONGEST_RUN = 3;

/** A better next step leads to one of so many nearest trees. */
const NEAREST = 12;

/**
 * 2-opt (Croes 1958) and Or-opt (Or 1976) among near neighbours (Bentley 1992): turns a stretch round, or moves a short run
 * of trees elsewhere, wherever that shortens an open walk that begins at a fixed place.
 */
function shorten(trees: readonly PlacedTree[], from: GroundPoint): PlacedTree[] {
  if (trees.length < 3) return [...trees];
  const index = new Flatbush(trees.length);
  for (const { eastM, northM } of trees) index.add(eastM, northM);
  index.finish();
  const near = trees.map(({ eastM, northM }, i) =>
    index.neighbors(eastM, northM, NEAREST + 1).filter((other) => other !== i)
  );
  // The walk as numbers of trees, and where on the walk each tree stands. Step -1 is the place that it begins at.
  const walk = trees.map((_, i) => i);
  const at = trees.map((_, i) => i);
  const place = (k: number): GroundPoint => (k < 0 ? from : trees[walk[k]!]!);
  const step = (i: number, j: number) => (j >= walk.length ? 0 : distanceBetween(place(i), place(j)));
  const number = (a: number, b: number) => {
    for (let k = a; k <= b; k++) at[walk[k]!] = k;
  };
  const turn = (a: number, b: number) => {
    for (let l = a, r = b; l < r; l++, r--) [walk[l], walk[r]] = [walk[r]!, walk[l]!];
    number(a, b);
  };

  /** Steps i → i+1 and j → j+1 become i → j and i+1 → j+1, where that is shorter. */
  const tryTurn = (i: number, j: number): boolean => {
    if (j <= i + 1 || step(i, j) + step(i + 1, j + 1) >= step(i, i + 1) + step(j, j + 1) - WORTH_M) return false;
    turn(i + 1, j);
    return true;
  };
  /** Moves the run a .. b between k and k+1, turned or not, where that is shorter. */
  const tryMove = (a: number, b: number, k: number): boolean => {
    if (k >= a - 1 && k <= b) return false;
    const saved = step(a - 1, a) + step(b, b + 1) - (b + 1 < walk.length ? step(a - 1, b + 1) : 0);
    const straight = step(k, a) + (k + 1 < walk.length ? step(b, k + 1) : 0);
    const turned = step(k, b) + (k + 1 < walk.length ? step(a, k + 1) : 0);
    if (Math.min(straight, turned) - step(k, k + 1) >= saved - WORTH_M) return false;
    const run = walk.splice(a, b - a + 1);
    walk.splice(k < a ? k + 1 : k + 1 - run.length, 0, ...(turned < straight ? run.reverse() : run));
    number(Math.min(a, k + 1), Math.max(b, k));
    return true;
  };

  for (let round = 0, better = true; better && round < MAX_ROUNDS; round++) {
    better = false;
    // Only steps to a near tree can be shorter than those they take the place of.
    for (let tree = 0; tree < trees.length; tree++)
      for (const other of near[tree]!) {
        const [p, q] = [at[tree]!, at[other]!];
        if (tryTurn(Math.min(p, q), Math.max(p, q)) || tryTurn(Math.min(p, q) - 1, Math.max(p, q) - 1)) better = true;
      }
    for (let tree = 0; tree < trees.length; tree++) if (tryTurn(-1, at[tree]!)) better = true;
    for (let run = 1; run <= LONGEST_RUN; run++)
      for (let tree = 0; tree < trees.length; tree++)
        for (const other of near[tree]!) {
          const p = at[tree]!;
          const q = at[other]!;
          // The run begins or ends at the tree, and goes before or behind its neighbour.
          const runs = [
            [p, p + run - 1],
            [p - run + 1, p]
          ] as const;
          const moved = runs.some(([a, b]) => a >= 0 && b < walk.length && (tryMove(a, b, q) || tryMove(a, b, q - 1)));
          if (moved) better = true;
        }
  }
  return walk.map((tree) => trees[tree]!);
}
