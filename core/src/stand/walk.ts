import { extent } from 'd3-array';
import Flatbush from 'flatbush';

import { seededRng } from '../math/index.ts';
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
  for (const tree of placed) {
    const list = stands.get(tree.standId);
    if (list) list.push(tree);
    else stands.set(tree.standId, [tree]);
  }
  while (at && stands.size > 0) {
    const from: GroundPoint = at;
    const reach = (list: readonly PlacedTree[]) =>
      list.reduce((least, tree) => Math.min(least, distanceBetween(from, tree)), Infinity);
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

/** A run of trees from its first to its last, between those that stand before and after it. */
type Run = readonly [before: number, first: number, last: number, after: number];

/** Always on to the nearest tree that was not passed yet. Trees are looked for in the squares of a grid around the last one. */
function nearestNext(trees: readonly PlacedTree[], from: GroundPoint): PlacedTree[] {
  const [minE, maxE] = extent(trees, (tree) => tree.eastM) as [number, number];
  const [minN, maxN] = extent(trees, (tree) => tree.northM) as [number, number];
  const cellM = Math.max(1, Math.sqrt(((maxE - minE) * (maxN - minN) * TREES_A_SQUARE) / trees.length));
  const [columns, rows] = [Math.floor((maxE - minE) / cellM) + 1, Math.floor((maxN - minN) / cellM) + 1];
  const column = (eastM: number) => Math.min(columns - 1, Math.max(0, Math.floor((eastM - minE) / cellM)));
  const row = (northM: number) => Math.min(rows - 1, Math.max(0, Math.floor((northM - minN) / cellM)));
  const squares: PlacedTree[][] = Array.from({ length: columns * rows }, () => []);
  for (const tree of trees) squares[row(tree.northM) * columns + column(tree.eastM)]!.push(tree);

  const walk: PlacedTree[] = [];
  let at = from;
  while (walk.length < trees.length) {
    const [c, r] = [column(at.eastM), row(at.northM)];
    let nearest: PlacedTree | null = null;
    let [nearestM, square, place] = [Infinity, 0, 0];
    // Whatever lies beyond a ring of squares is at least as far as the ring is wide, from the beginning outside of them too.
    for (let ring = 0; (ring - 1) * cellM < nearestM && ring <= Math.max(columns, rows); ring++)
      for (let y = Math.max(0, r - ring); y <= Math.min(rows - 1, r + ring); y++) {
        const whole = ring === 0 || y === r - ring || y === r + ring;
        for (let x = c - ring; x <= c + ring; x += whole ? 1 : 2 * ring) {
          if (x < 0 || x >= columns) continue;
          const here = squares[y * columns + x]!;
          for (let i = 0; i < here.length; i++) {
            const m = distanceBetween(here[i]!, at);
            if (m < nearestM) [nearest, nearestM, square, place] = [here[i]!, m, y * columns + x, i];
          }
        }
      }
    const left = squares[square]!;
    left[place] = left.at(-1)!;
    left.pop();
    walk.push(nearest!);
    at = nearest!;
  }
  return walk;
}

/** Trees that a square of the grid holds on the average: fewer make more squares to look at, more make more trees. */
const TREES_A_SQUARE = 3;
/** No better than this is worth another step, metres. */
const WORTH_M = 1e-6;
/** Longest run of trees that is moved elsewhere as a whole. */
const LONGEST_RUN = 3;
/** A better next step leads to one of so many nearest trees. */
const NEAREST = 10;
/** Stretches of up to so many trees change places. */
const LONGEST_STRETCH = 30;
/** So many trials are made for each tree. */
const TRIALS_A_TREE = 5;
/** More than so many trials take longer than somebody waits. */
const MOST_TRIALS = 20_000;
/** What ties the place where the walk begins to where it ends, metres: no step is worth as much. */
const TIED_M = -1e7;

/**
 * 2-opt (Croes 1958) and Or-opt (Or 1976) among near neighbours, looking again only at trees whose steps changed (Bentley
 * 1992): turns a stretch round, or moves a short run of trees elsewhere, wherever that shortens an open walk that begins at
 * a fixed place; then stretches change places and the rest is settled anew, for as long as there are trials (Johnson and
 * McGeoch 1997). The walk is held as a round: its last tree leads at no cost to a mark, and the mark to the beginning, so that
 * of a stretch and the rest of the round the shorter can be turned.
 */
function shorten(trees: readonly PlacedTree[], from: GroundPoint): PlacedTree[] {
  const n = trees.length;
  if (n < 3) return [...trees];
  // Trees are 0 .. n-1, the beginning is n, the mark n+1.
  const [start, mark, size] = [n, n + 1, n + 2];
  const east = Float64Array.from([...trees.map(({ eastM }) => eastM), from.eastM, 0]);
  const north = Float64Array.from([...trees.map(({ northM }) => northM), from.northM, 0]);
  const way = (a: number, b: number): number => {
    if (a !== mark && b !== mark) return Math.sqrt((east[a]! - east[b]!) ** 2 + (north[a]! - north[b]!) ** 2);
    return a === start || b === start ? TIED_M : 0;
  };
  const index = new Flatbush(n);
  for (const { eastM, northM } of trees) index.add(eastM, northM);
  index.finish();
  // Any tree may be the last; the first is near the beginning.
  const near = Array.from({ length: size }, (_, i) => {
    if (i === mark) return [];
    const others = index.neighbors(east[i]!, north[i]!, NEAREST + 1).filter((other) => other !== i);
    if (i === start) return [mark, ...others];
    return [mark, ...[...others, start].sort((a, b) => way(i, a) - way(i, b))];
  });

  const round = Int32Array.from([start, ...trees.keys(), mark]);
  const at = new Int32Array(size);
  round.forEach((node, k) => (at[node] = k));
  const next = (a: number) => round[at[a]! + 1 === size ? 0 : at[a]! + 1]!;
  const prev = (a: number) => round[at[a] === 0 ? size - 1 : at[a]! - 1]!;
  /** Turns as many steps of the round from place l on. */
  const flip = (from: number, steps: number) => {
    let l = from;
    let r = (from + steps - 1) % size;
    for (let swaps = steps >> 1; swaps > 0; swaps--) {
      const [left, right] = [round[l]!, round[r]!];
      round[l] = right;
      at[right] = l;
      round[r] = left;
      at[left] = r;
      l = l + 1 === size ? 0 : l + 1;
      r = r === 0 ? size - 1 : r - 1;
    }
  };
  /** what was turned since the last trial began */
  const turned: [from: number, steps: number][] = [];
  /** Turns the stretch from a on to b round, or all of the rest, which comes to the same. */
  const turn = (a: number, b: number) => {
    const inside = ((at[b]! - at[a]! + size) % size) + 1;
    const stretch: [number, number] = inside * 2 > size ? [(at[b]! + 1) % size, size - inside] : [at[a]!, inside];
    flip(...stretch);
    turned.push(stretch);
  };
  /** Steps a → b and c → d, both read in one direction, become a → c and b → d. */
  const exchange = (a: number, b: number, c: number, d: number) => (next(a) === b ? turn(b, c) : turn(a, d));
  /** Takes the run a‥z out from between p and q, and puts it between c and d, a beside c. */
  const move = ([p, a, z, q]: Run, c: number, d: number) => {
    // Read from p through the run, the step between c and d comes after it, however the round lies.
    const [first, second] = (next(p) === a ? next(c) : prev(c)) === d ? [c, d] : [d, c];
    exchange(p, a, first, second);
    exchange(p, first, q, z);
    if (c === first) exchange(first, z, a, second);
  };

  // Those whose steps changed are looked at again, each once.
  let gained = 0;
  const waiting: number[] = [...trees.keys()].reverse();
  const waits = new Uint8Array(size).fill(1, 0, n);
  const again = (...nodes: number[]) => {
    for (const node of nodes)
      if (!waits[node]) {
        waits[node] = 1;
        waiting.push(node);
      }
  };

  /** Turns a stretch that a stands beside, where that is shorter. */
  const tryTurn = (a: number): boolean => {
    for (const forward of [true, false]) {
      const b = forward ? next(a) : prev(a);
      const ab = way(a, b);
      for (const c of near[a]!) {
        const ac = way(a, c);
        if (ac >= ab) {
          if (c === mark) continue;
          break;
        }
        const d = forward ? next(c) : prev(c);
        const gain = ab + way(c, d) - ac - way(b, d);
        if (c === b || d === a || gain <= WORTH_M) continue;
        gained += gain;
        exchange(a, b, c, d);
        again(a, b, c, d);
        return true;
      }
    }
    return false;
  };
  const isOn = (a: number, z: number, node: number, forward: boolean): boolean => {
    for (let k = a; ; k = forward ? next(k) : prev(k)) {
      if (k === node) return true;
      if (k === z) return false;
    }
  };
  /** Moves a run that ends at a to beside a near tree, where that is shorter. */
  const tryMove = (a: number): boolean => {
    if (a >= start) return false;
    for (const forward of [true, false]) {
      const p = forward ? prev(a) : next(a);
      let z = a;
      for (let run = 1; run <= LONGEST_RUN; run++, z = forward ? next(z) : prev(z)) {
        const q = forward ? next(z) : prev(z);
        if (z >= start || p === q) break;
        const saved = way(p, a) + way(z, q) - way(p, q);
        for (const c of near[a]!) {
          const ac = way(a, c);
          if (ac >= saved) {
            if (c === mark) continue;
            break;
          }
          if (isOn(a, z, c, forward)) continue;
          for (let side = 0; side < 2; side++) {
            const d = side === 0 ? next(c) : prev(c);
            const gain = saved + way(c, d) - ac - way(z, d);
            if (isOn(a, z, d, forward) || gain <= WORTH_M) continue;
            gained += gain;
            move([p, a, z, q], c, d);
            again(p, a, z, q, c, d);
            return true;
          }
        }
      }
    }
    return false;
  };

  const settle = () => {
    while (waiting.length > 0) {
      const node = waiting.pop()!;
      waits[node] = 0;
      while (tryTurn(node) || tryMove(node));
    }
  };
  settle();

  // Two short stretches beside each other change places, which neither turning nor moving a run finds; what follows from it is
  // settled, and kept where it is shorter.
  const rng = seededRng(n);
  const longest = Math.min(LONGEST_STRETCH, Math.floor(size / 5));
  const trials = longest > 1 ? Math.min(MOST_TRIALS, TRIALS_A_TREE * n) : 0;
  for (let trial = 0; trial < trials; trial++) {
    const [p, length] = [Math.floor(rng.uniform() * size), 1 + Math.floor(rng.uniform() * (longest - 1))];
    const node = (step: number) => round[(p + step) % size]!;
    const [before, a, z] = [node(0), node(1), node(length)];
    const [c, d, after] = [node(length + 1), node(2 * length), node(2 * length + 1)];
    const was = way(before, a) + way(z, c) + way(d, after);
    const is = way(before, c) + way(d, a) + way(z, after);
    if (was < 0 || is < 0) continue;
    turned.length = 0;
    gained = was - is;
    turn(a, d);
    turn(d, c);
    turn(z, a);
    again(before, a, z, c, d, after);
    settle();
    if (gained < WORTH_M) for (const stretch of turned.reverse()) flip(...stretch);
  }
  const onwards = next(start) !== mark;
  const walk: PlacedTree[] = [];
  for (let node = onwards ? next(start) : prev(start); node !== mark; node = onwards ? next(node) : prev(node))
    walk.push(trees[node]!);
  return walk;
}
