/** A tree on the walk. */
export interface WalkTree {
  readonly id: string;
  readonly standId: string | null;
  /** null where it has no place on the map */
  readonly eastM: number | null;
  readonly northM: number | null;
}

interface Place {
  readonly eastM: number;
  readonly northM: number;
}

type PlacedTree = WalkTree & Place;

const apart = (a: Place, b: Place) => Math.hypot(a.eastM - b.eastM, a.northM - b.northM);

/** Length of a walk past trees in their order, metres; trees without a place are passed over. */
export function walkLength(trees: readonly WalkTree[]): number {
  const places = trees.filter(isPlaced);
  return places.reduce((sum, tree, i) => sum + (i === 0 ? 0 : apart(places[i - 1]!, tree)), 0);
}

/**
 * A short walk past all trees, stand by stand: the nearest stand next, within it on to the nearest tree, then turned and
 * moved about for as long as that shortens the way. Not the shortest walk there is, but near it. Trees without a place
 * come last, in the order in which they came.
 * @param entrance where the walk begins; the first tree's place by default
 * @returns ids in walking order
 */
export function shortWalk(trees: readonly WalkTree[], entrance?: Place): string[] {
  const placed = trees.filter(isPlaced);
  const order: string[] = [];
  let at: Place | undefined = entrance ?? placed[0];
  const stands = new Map<string | null, PlacedTree[]>();
  for (const tree of placed) stands.set(tree.standId, [...(stands.get(tree.standId) ?? []), tree]);
  while (at && stands.size > 0) {
    const from: Place = at;
    const reach = (list: readonly PlacedTree[]) => Math.min(...list.map((tree) => apart(from, tree)));
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
function nearestNext(trees: readonly PlacedTree[], from: Place): PlacedTree[] {
  const left = [...trees];
  const walk: PlacedTree[] = [];
  let at = from;
  while (left.length > 0) {
    let nearest = 0;
    for (let i = 1; i < left.length; i++) if (apart(left[i]!, at) < apart(left[nearest]!, at)) nearest = i;
    at = left[nearest]!;
    walk.push(left[nearest]!);
    left[nearest] = left.at(-1)!;
    left.pop();
  }
  return walk;
}

/** No better than this is worth another round, metres. */
const WORTH_M = 1e-6;
const MOST_ROUNDS = 30;
/** Longest run of trees that is moved elsewhere as a whole. */
const LONGEST_RUN = 3;

/**
 * 2-opt (Croes 1958) and Or-opt (Or 1976): turns a stretch round, or moves a short run of trees elsewhere, wherever that
 * shortens an open walk that begins at a fixed place.
 */
function shorten(trees: readonly PlacedTree[], from: Place): PlacedTree[] {
  const walk = [...trees];
  const place = (i: number): Place => (i < 0 ? from : walk[i]!);
  const step = (i: number, j: number) => (j >= walk.length ? 0 : apart(place(i), place(j)));
  for (let round = 0, better = true; better && round < MOST_ROUNDS; round++) {
    better = false;
    for (let i = -1; i < walk.length - 2; i++)
      for (let j = i + 2; j < walk.length; j++) {
        // Turning i+1 .. j round changes the two steps at its ends.
        if (step(i, j) + step(i + 1, j + 1) >= step(i, i + 1) + step(j, j + 1) - WORTH_M) continue;
        for (let a = i + 1, b = j; a < b; a++, b--) [walk[a], walk[b]] = [walk[b]!, walk[a]!];
        better = true;
      }
    for (let run = 1; run <= LONGEST_RUN; run++)
      for (let i = 0; i + run <= walk.length; i++) {
        const saved = step(i - 1, i) + step(i + run - 1, i + run) - (i + run < walk.length ? step(i - 1, i + run) : 0);
        if (saved <= WORTH_M) continue;
        const moved = walk.splice(i, run);
        let best = { at: i, costs: saved, turned: false };
        for (let k = 0; k <= walk.length; k++) {
          const old = step(k - 1, k);
          const [head, tail] = [moved[0]!, moved.at(-1)!];
          for (const turned of run > 1 ? [false, true] : [false]) {
            const [first, last] = turned ? [tail, head] : [head, tail];
            const costs = apart(place(k - 1), first) + (k < walk.length ? apart(last, walk[k]!) : 0) - old;
            if (costs < best.costs - WORTH_M) best = { at: k, costs, turned };
          }
        }
        walk.splice(best.at, 0, ...(best.turned ? moved.reverse() : moved));
        if (best.costs < saved - WORTH_M) better = true;
      }
  }
  return walk;
}
