import { bearingTo } from '../geometry/index.ts';
import { heightOf, radiusOf, sideOf, SIDES, type Side, type StandTree } from '../stand/index.ts';

/** A tree that a falling one could hurt. */
export interface InReach {
  readonly tree: StandTree;
  readonly side: Side;
  readonly distanceM: number;
}

/**
 * What stands within a tree's own length, by the side on which it stands, nearest first. It says what could be hurt, never
 * where to fell.
 */
export function withinItsLength(tree: StandTree, others: readonly StandTree[]): InReach[] {
  const length = heightOf(tree);
  return others
    .flatMap((other) => {
      const distanceM = Math.hypot(other.eastM - tree.eastM, other.northM - tree.northM);
      return other.id === tree.id || distanceM > length
        ? []
        : [{ tree: other, side: sideOf(bearingTo(tree, other)), distanceM }];
    })
    .sort((a, b) => SIDES.indexOf(a.side) - SIDES.indexOf(b.side) || a.distanceM - b.distanceM);
}

/** Ways to fall that are looked at, every ten degrees. */
const WAYS = 36;
/** A falling crown sweeps this share of its radius to either side, and hurts a crown that it meets in this share. */
const SWEEP = 0.7;

/** Of all ways to fall, the share on which a tree meets none of the others. */
export function roomToFall(tree: StandTree, others: readonly StandTree[]): number {
  const length = heightOf(tree);
  const half = SWEEP * radiusOf(tree);
  let free = 0;
  for (let way = 0; way < WAYS; way++) {
    const angle = (2 * Math.PI * way) / WAYS;
    const [e, n] = [Math.sin(angle), Math.cos(angle)];
    const meets = others.some((other) => {
      const [de, dn] = [other.eastM - tree.eastM, other.northM - tree.northM];
      const along = de * e + dn * n;
      return along > 0 && along < length && Math.abs(de * n - dn * e) < half + (SWEEP * radiusOf(other)) / 2;
    });
    if (!meets) free += 1;
  }
  return free / WAYS;
}

export interface FellingStep {
  readonly id: string;
  /** share of all ways to fall on which it then meets nothing that stands */
  readonly room: number;
}

/**
 * An order of felling that leaves little hurt: each time the tree that has most ways to fall clear of what is kept and of
 * what still stands; those that come later have the room that the earlier ones leave. No direction follows from it: that is
 * for whoever fells the tree.
 */
export function fellingOrder(taken: readonly StandTree[], kept: readonly StandTree[]): FellingStep[] {
  const near = (tree: StandTree, all: readonly StandTree[]) => {
    const reach = heightOf(tree) + 10;
    return all.filter(
      (other) =>
        other.id !== tree.id &&
        Math.abs(other.eastM - tree.eastM) < reach &&
        Math.abs(other.northM - tree.northM) < reach
    );
  };
  const standing = new Map(taken.map((tree) => [tree.id, tree]));
  const keptNear = new Map(taken.map((tree) => [tree.id, near(tree, kept)]));
  const takenNear = new Map(taken.map((tree) => [tree.id, near(tree, taken)]));
  const room = (tree: StandTree) =>
    roomToFall(tree, [...keptNear.get(tree.id)!, ...takenNear.get(tree.id)!.filter((other) => standing.has(other.id))]);
  const rooms = new Map(taken.map((tree) => [tree.id, room(tree)]));
  const order: FellingStep[] = [];
  while (standing.size > 0) {
    const next = [...standing.values()].reduce((best, tree) =>
      rooms.get(tree.id)! > rooms.get(best.id)! ? tree : best
    );
    order.push({ id: next.id, room: rooms.get(next.id)! });
    standing.delete(next.id);
    for (const other of takenNear.get(next.id)!) if (standing.has(other.id)) rooms.set(other.id, room(other));
  }
  return order;
}
