import type { Point } from '../geometry/index.ts';
import { seededRng, type Rng } from '../math/index.ts';
import { LEAST_FALL } from './fall.ts';

/** A tree that shall hang on a line, or the place of the vessel at its foot. */
export interface RouteStop {
  readonly at: Point;
  /** of the ground, metres above anything */
  readonly heightM: number;
  readonly taps: number;
}

/** Where lines shall run. */
export interface RouteTask {
  readonly foot: Pick<RouteStop, 'at' | 'heightM'>;
  readonly trees: readonly RouteStop[];
  /** height of the ground anywhere, metres; null where pipes meet at trees alone */
  readonly heightAt: ((at: Point) => number) | null;
  /** what is crossed from one place to another: how often; infinity where no pipe may go */
  readonly crossed: (from: Point, to: Point) => number;
  /** where chance begins in the search */
  readonly seed: number;
}

/** A place of a route. */
export interface RoutePlace {
  readonly at: Point;
  readonly heightM: number;
  /** its pipe runs into this one; null at the foot, and at trees that no falling pipe reaches */
  readonly into: number | null;
  /** taps whose sap leaves it */
  readonly taps: number;
  /** the tree that stands there, by its number from 0; null at the foot, and where pipes meet */
  readonly tree: number | null;
}

/** A route to the foot: from each place down to another. */
export interface Route {
  /** the foot first, then the trees as they were asked for, then places where pipes meet */
  readonly places: readonly RoutePlace[];
  /** as metres of lateral */
  readonly cost: number;
  /** metres of pipe for more taps than a lateral bears, and of laterals */
  readonly wideM: number;
  readonly lateralM: number;
  readonly crossings: number;
  /** trees, by their number from 0, that no falling pipe reaches */
  readonly missed: readonly number[];
}

/** What a route costs, in metres of lateral: a metre of pipe on a wire, and a crossing. Working assumptions, by the hours of `LINE_HOURS`. */
export const ROUTE_COST = { wideMetre: 2.5, crossing: 40 } as const;
/** A pipe that so many taps run through is a lateral still. Common practice: about five. */
const LATERAL_TAPS = 5;
/** A pipe that is shorter is none, metres: what stands so near hangs on the same line. Working assumption. */
const SHORTEST_M = 0.5;
/** Other places that a pipe may run to: so many of the cheapest are tried. */
const NEAREST = 12;
/** How often the search is shaken. */
const SHAKES = 40;
/** How many trees are led elsewhere by each shake. */
const SHAKEN = 6;
/** Beside the place where pipes are shortest they are tried to meet on the way of one of them, so far along it. */
const ON_THE_WAY = [0.3, 0.6] as const;
/** Steps towards the place where three pipes are shortest. */
const MEETING_STEPS = 12;

/** Pipes between places, each falling: who runs into whom. */
class Net {
  readonly at: Point[];
  readonly heightM: number[];
  readonly taps: number[];
  into: number[];
  /** from the highest to the lowest; null where it is to be found again */
  #order: readonly number[] | null = null;

  constructor(
    readonly task: RouteTask,
    /** what lies between two places, by themselves: copies go by the same */
    readonly ways: Map<Point, Map<Point, { readonly metres: number; readonly crossings: number }>> = new Map()
  ) {
    const stops = [{ ...task.foot, taps: 0 }, ...task.trees];
    this.at = stops.map(({ at }) => at);
    this.heightM = stops.map(({ heightM }) => heightM);
    this.taps = stops.map(({ taps }) => taps);
    this.into = stops.map(() => -1);
  }

  get size(): number {
    return this.at.length;
  }

  /** Metres between two places, and what is crossed: infinity where no pipe may go, or it would not fall. */
  way(from: number, to: number): { readonly metres: number; readonly crossings: number } {
    const [a, b] = [this.at[from]!, this.at[to]!];
    let known = this.ways.get(a);
    if (!known) this.ways.set(a, (known = new Map()));
    let way = known.get(b);
    if (!way) {
      const metres = Math.hypot(a[0] - b[0], a[1] - b[1]);
      const falls = metres >= SHORTEST_M && this.heightM[from]! - this.heightM[to]! >= LEAST_FALL * metres;
      way = { metres, crossings: falls ? this.task.crossed(a, b) : Infinity };
      known.set(b, way);
    }
    return way;
  }

  metres(from: number, to: number): number {
    return this.way(from, to).metres;
  }

  crossings(from: number, to: number): number {
    return this.way(from, to).crossings;
  }

  /** Cost of a pipe between two places for so many taps. */
  price(from: number, to: number, taps: number): number {
    const { metres, crossings } = this.way(from, to);
    return (taps > LATERAL_TAPS ? ROUTE_COST.wideMetre : 1) * metres + ROUTE_COST.crossing * crossings;
  }

  /** Taps whose sap leaves each place. */
  loads(): number[] {
    const loads = [...this.taps];
    // Whatever runs into a place lies higher.
    this.#order ??= Array.from(this.at.keys()).sort((a, b) => this.heightM[b]! - this.heightM[a]!);
    for (const node of this.#order) {
      const to = this.into[node]!;
      if (to >= 0) loads[to] = loads[to]! + loads[node]!;
    }
    return loads;
  }

  cost(): number {
    const loads = this.loads();
    return this.into.reduce((sum, to, node) => (to < 0 ? sum : sum + this.price(node, to, loads[node]!)), 0);
  }

  copy(): Net {
    const net = new Net(this.task, this.ways);
    for (const node of [...this.at.keys()].slice(net.size)) net.meet(this.at[node]!, this.heightM[node]!);
    net.into = [...this.into];
    return net;
  }

  /** A place where pipes meet. @returns its number */
  meet(at: Point, heightM: number): number {
    this.at.push(at);
    this.heightM.push(heightM);
    this.taps.push(0);
    this.into.push(-1);
    this.#order = null;
    return this.size - 1;
  }

  /** Places where fewer than two pipes meet are none: what runs into them runs on. */
  tidy(): void {
    for (let node = this.size - 1; node > this.task.trees.length; node--) {
      const children = [...this.into.keys()].filter((each) => this.into[each] === node);
      const to = this.into[node]!;
      if (children.length > 1 || children.some((child) => !Number.isFinite(this.crossings(child, to)))) continue;
      for (const child of children) this.into[child] = to;
      for (const list of [this.at, this.heightM, this.taps, this.into]) list.splice(node, 1);
      this.#order = null;
      this.into = this.into.map((to) => (to > node ? to - 1 : to));
    }
  }
}

/**
 * The greedy tree: from the foot upwards, always the tree that is cheapest to join to what is there. What another method is held against.
 */
export function greedyRoute(task: RouteTask): Route {
  return routeOf(greedy(task));
}

function greedy(task: RouteTask): Net {
  const net = new Net(task);
  const joined = [0];
  const left = new Set(task.trees.keys());
  while (left.size > 0) {
    let best: { tree: number; to: number; price: number } | null = null;
    for (const tree of left)
      for (const to of joined) {
        const price = net.price(tree + 1, to, 1);
        if (Number.isFinite(price) && (!best || price < best.price)) best = { tree, to, price };
      }
    if (!best) break;
    net.into[best.tree + 1] = best.to;
    joined.push(best.tree + 1);
    left.delete(best.tree);
  }
  return net;
}

/**
 * A route from all trees to the foot, falling everywhere, of few metres and crossings: beginning with the greedy tree each pipe is led elsewhere,
 * and pipes are brought together, as long as that is cheaper; then the search is shaken, and goes on. Never dearer than the greedy tree.
 */
export function proposeRoute(task: RouteTask): Route {
  const rng = seededRng(task.seed);
  const first = greedy(task);
  const reached = [...first.into.keys()].filter((node) => first.into[node]! >= 0);
  let best = improved(first.copy());
  // Each to the cheapest that lies lower: another beginning.
  const other = first.copy();
  for (const node of reached) other.into[node] = cheapest(other, node)[0]!;
  best = cheaper(best, improved(other));
  for (let shake = 0; shake < SHAKES && reached.length > 1; shake++)
    best = cheaper(best, improved(shaken(best, reached, rng)));
  return routeOf(best);
}

const cheaper = (a: Net, b: Net) => (b.cost() < a.cost() - 1e-9 ? b : a);

/** Places that a pipe may run to and that are reached themselves, the cheapest first. */
function cheapest(net: Net, node: number): number[] {
  return [...net.at.keys()]
    .filter((to) => (to === 0 || net.into[to]! >= 0) && Number.isFinite(net.crossings(node, to)))
    .sort((a, b) => net.price(node, a, 1) - net.price(node, b, 1))
    .slice(0, NEAREST);
}

/** Some neighbours led to one of what lies lower, by chance. */
function shaken(of: Net, reached: readonly number[], rng: Rng): Net {
  const net = of.copy();
  const middle = reached[Math.floor(reached.length * rng.uniform())]!;
  const near = [...reached].sort((a, b) => net.metres(middle, a) - net.metres(middle, b)).slice(0, SHAKEN);
  for (const node of near) {
    const places = cheapest(net, node).slice(0, 5);
    net.into[node] = places[Math.floor(places.length * rng.uniform())]!;
  }
  net.tidy();
  return net;
}

/** Led elsewhere and brought together as long as that is cheaper. */
function improved(net: Net): Net {
  let now = net;
  let cost = now.cost();
  for (let goesOn = true; goesOn;) {
    goesOn = false;
    for (let node = 1; node < now.size; node++) {
      if (now.into[node]! < 0) continue;
      for (const to of [...cheapest(now, node), 0]) {
        const before = now.into[node]!;
        if (to === before || !Number.isFinite(now.crossings(node, to))) continue;
        now.into[node] = to;
        const next = now.cost();
        if (next < cost - 1e-9) {
          cost = next;
          goesOn = true;
        } else now.into[node] = before;
      }
    }
    now.tidy();
    const together = broughtTogether(now, now.cost());
    if (together) {
      now = together;
      goesOn = true;
    }
    cost = now.cost();
  }
  return now;
}

/** Two pipes into one place, or a pipe beside another, that meet above it; null where nothing is cheaper. */
function broughtTogether(net: Net, cost: number): Net | null {
  const { heightAt } = net.task;
  if (!heightAt) return null;
  const loads = net.loads();
  const nodes = [...net.into.keys()].filter((node) => net.into[node]! >= 0);
  for (const a of nodes)
    for (const b of nodes) {
      const foot = net.into[a]!;
      if (a >= b || net.into[b] !== foot) continue;
      const cheap = meetingOf(net, [a, b, foot], [loads[a]!, loads[b]!, loads[a]! + loads[b]!]);
      for (const at of [
        cheap,
        ...ON_THE_WAY.flatMap((share) => [between(net, a, foot, share), between(net, b, foot, share)])
      ]) {
        const tried = net.copy();
        const place = tried.meet(at, heightAt(at));
        const falls = [tried.crossings(a, place), tried.crossings(b, place), tried.crossings(place, foot)];
        if (!falls.every(Number.isFinite)) continue;
        [tried.into[a], tried.into[b], tried.into[place]] = [place, place, foot];
        if (tried.cost() < cost - 1e-6) return tried;
      }
    }
  return null;
}

/** A place on the way from one to another. */
function between(net: Net, from: number, to: number, share: number): Point {
  const [[ax, ay], [bx, by]] = [net.at[from]!, net.at[to]!];
  return [Number((ax + share * (bx - ax)).toFixed(2)), Number((ay + share * (by - ay)).toFixed(2))];
}

/** Where three pipes meet so that together they are cheapest: Weiszfeld's steps. */
function meetingOf(net: Net, nodes: readonly [number, number, number], taps: readonly [number, number, number]): Point {
  const ends = nodes.map((node) => net.at[node]!);
  const weights = taps.map((many) => (many > LATERAL_TAPS ? ROUTE_COST.wideMetre : 1));
  let [x, y] = [0, 1].map((axis) => ends.reduce((sum, end) => sum + end[axis]! / 3, 0)) as [number, number];
  for (let step = 0; step < MEETING_STEPS; step++) {
    const pulls = ends.map(([ex, ey], i) => weights[i]! / Math.max(0.01, Math.hypot(ex - x, ey - y)));
    const all = pulls.reduce((sum, pull) => sum + pull, 0);
    [x, y] = [
      ends.reduce((sum, [ex], i) => sum + (pulls[i]! * ex) / all, 0),
      ends.reduce((sum, [, ey], i) => sum + (pulls[i]! * ey) / all, 0)
    ];
  }
  return [Number(x.toFixed(2)), Number(y.toFixed(2))];
}

function routeOf(net: Net): Route {
  const loads = net.loads();
  const pipes = [...net.into.keys()].filter((node) => net.into[node]! >= 0);
  const metres = (isWide: boolean) =>
    pipes.reduce(
      (sum, node) => (loads[node]! > LATERAL_TAPS === isWide ? sum + net.metres(node, net.into[node]!) : sum),
      0
    );
  return {
    places: net.at.map((at, node) => ({
      at,
      heightM: net.heightM[node]!,
      into: net.into[node]! < 0 ? null : net.into[node]!,
      taps: loads[node]!,
      tree: node > 0 && node <= net.task.trees.length ? node - 1 : null
    })),
    cost: net.cost(),
    wideM: metres(true),
    lateralM: metres(false),
    crossings: pipes.reduce((sum, node) => sum + net.crossings(node, net.into[node]!), 0),
    missed: [...net.task.trees.keys()].filter((tree) => net.into[tree + 1]! < 0)
  };
}

/** A line of a route, as it would be drawn. */
export interface RoutedLine {
  readonly use: 'main' | 'spur' | 'lateral';
  /** from its upper end to its foot */
  readonly points: readonly Point[];
  /** the line that it runs into, by its number among them; null at the foot of all */
  readonly into: number | null;
  /** trees that hang on it, by their number from 0, the highest first */
  readonly trees: readonly number[];
}

/** A route as lines: each goes on upwards where most taps come from, and whatever else runs into it is a line of its own. Those below stand first. */
export function linesOfRoute({ places }: Route): RoutedLine[] {
  const above = (node: number) =>
    [...places.keys()].filter((each) => places[each]!.into === node).sort((a, b) => places[b]!.taps - places[a]!.taps);
  const isWide = (node: number) => places[node]!.taps > LATERAL_TAPS;
  const lines: RoutedLine[] = [];
  const waiting: { readonly node: number; readonly into: number | null }[] = above(0).map((node) => ({
    node,
    into: null
  }));
  for (let next = waiting.shift(); next; next = waiting.shift()) {
    const chain = [next.node];
    const nth = lines.length;
    for (let goesOn = true; goesOn;) {
      const [first, ...others] = above(chain[0]!);
      goesOn = first !== undefined && isWide(first) === isWide(next.node);
      waiting.push(...(goesOn ? others : above(chain[0]!)).map((node) => ({ node, into: nth })));
      if (goesOn) chain.unshift(first!);
    }
    lines.push({
      use: !isWide(next.node) ? 'lateral' : next.into === null ? 'main' : 'spur',
      points: [...chain, places[next.node]!.into!].map((node) => places[node]!.at),
      into: next.into,
      trees: chain.flatMap((node) => places[node]!.tree ?? [])
    });
  }
  return lines;
}
