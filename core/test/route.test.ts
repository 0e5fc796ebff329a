import { describe, expect, it } from 'vitest';

import { routeLines } from '../src/bush/index.ts';
import { alongCourse, crossingsAlong, placeAlong, type Point } from '../src/geometry/index.ts';
import {
  greedyRoute,
  groundFrom,
  LEAST_FALL,
  linesOfRoute,
  proposeRoute,
  ROUTE_COST,
  type Route,
  type RouteTask
} from '../src/lines/index.ts';
import { seededRng } from '../src/math/index.ts';
import { shortOrLong } from '../../testing/long.ts';

/* Where lines may run: never uphill, never dearer than the greedy tree, and the best where all ways can be tried. */

/** A made bush on a slope with hollows and knolls, a path across it, its tank at the foot. */
function bush(seed: number, many: number, meets = true): RouteTask {
  const rng = seededRng(seed);
  const [fall, turn] = [0.04 + 0.12 * rng.uniform(), 2 * Math.PI * rng.uniform()];
  const waves = Array.from({ length: 4 }, () => [
    0.02 + 0.05 * rng.uniform(),
    0.02 + 0.05 * rng.uniform(),
    6.28 * rng.uniform(),
    0.6 * rng.uniform()
  ]);
  const heightAt = ([x, y]: Point) =>
    fall * (x * Math.sin(turn) + y * Math.cos(turn)) +
    waves.reduce((sum, [a, b, c, high]) => sum + high! * Math.sin(a! * x + b! * y + c!), 0);
  const stop = (at: Point, taps: number) => ({ at, heightM: heightAt(at), taps });
  const trees = Array.from({ length: many }, () =>
    stop([100 * rng.uniform() - 50, 100 * rng.uniform() - 50], 1 + Math.floor(2 * rng.uniform()))
  );
  const foot: Point = [-75 * Math.sin(turn), -75 * Math.cos(turn)];
  const path: Point[] = [
    [-80, 20 * rng.uniform()],
    [80, 20 * rng.uniform()]
  ];
  return {
    foot: stop(foot, 0),
    trees,
    heightAt: meets ? heightAt : null,
    crossed: (from, to) => crossingsAlong([from, to], path, false).length,
    seed
  };
}

/** What a route costs, by its own definition: nothing of how it was found is used. */
function costOf(task: RouteTask, into: readonly (number | null)[], places: readonly { at: Point; heightM: number }[]) {
  const taps = (node: number): number =>
    (task.trees[node - 1]?.taps ?? 0) +
    into.reduce<number>((sum, to, child) => (to === node ? sum + taps(child) : sum), 0);
  let cost = 0;
  for (const [node, to] of into.entries()) {
    if (to === null) continue;
    const [from, end] = [places[node]!, places[to]!];
    const metres = Math.hypot(from.at[0] - end.at[0], from.at[1] - end.at[1]);
    if (from.heightM - end.heightM < LEAST_FALL * metres) return Infinity;
    cost += (taps(node) > 5 ? ROUTE_COST.wideMetre : 1) * metres + ROUTE_COST.crossing * task.crossed(from.at, end.at);
  }
  return cost;
}
const told = (task: RouteTask, { places }: Route) =>
  costOf(
    task,
    places.map(({ into }) => into),
    places
  );

/** The cheapest of all ways in which trees can run into each other and the foot. */
function cheapestOfAll(task: RouteTask): number {
  const places = [task.foot, ...task.trees];
  let best = Infinity;
  const into: (number | null)[] = [null];
  const choose = (node: number) => {
    if (node === places.length) {
      best = Math.min(best, costOf(task, into, places));
      return;
    }
    for (const [to, place] of places.entries()) {
      if (to === node || place.heightM >= places[node]!.heightM) continue;
      into[node] = to;
      choose(node + 1);
    }
  };
  choose(1);
  return best;
}

describe('a proposed route', () => {
  it('falls everywhere, reaches all that greed reaches, and is never dearer than the greedy tree', () => {
    let saved = 0;
    const bushes = 50;
    for (let seed = 1; seed <= bushes; seed++) {
      const task = bush(seed, 12 + (seed % 5) * 6);
      const [greedy, route] = [greedyRoute(task), proposeRoute(task)];
      expect(route.missed).toEqual(greedy.missed);
      expect(route.cost).toBeLessThanOrEqual(greedy.cost + 1e-6);
      expect(told(task, route)).toBeCloseTo(route.cost, 6);
      expect(route.wideM * ROUTE_COST.wideMetre + route.lateralM + route.crossings * ROUTE_COST.crossing).toBeCloseTo(
        route.cost,
        6
      );
      saved += 1 - route.cost / greedy.cost;
    }
    expect(saved / bushes).toBeGreaterThan(0.1);
  });

  it('is the best of all ways on tiny bushes, where pipes meet at trees alone', () => {
    for (let seed = 101; seed <= 100 + shortOrLong(20, 60); seed++) {
      const task = bush(seed, 3 + (seed % 4), false);
      const route = proposeRoute(task);
      if (route.missed.length > 0) continue;
      expect(route.cost).toBeCloseTo(cheapestOfAll(task), 6);
    }
  });

  it('brings pipes together above the foot where that is shorter', () => {
    // Three corners of even sides: pipes that meet in the middle are shorter by an eighth (Fermat’s point).
    const side = 20;
    const corner = (angle: number): Point => [side * Math.sin(angle), side * Math.cos(angle)];
    const heightAt = ([, y]: Point) => 10 + 0.2 * y;
    const [a, b, foot] = [corner(Math.PI / 3), corner(-Math.PI / 3), corner(Math.PI)];
    const task: RouteTask = {
      foot: { at: foot, heightM: heightAt(foot) },
      trees: [a, b].map((at) => ({ at, heightM: heightAt(at), taps: 1 })),
      heightAt,
      crossed: () => 0,
      seed: 1
    };
    const route = proposeRoute(task);
    expect(route.places).toHaveLength(4);
    expect(route.lateralM).toBeCloseTo(3 * side, 1);
    expect(greedyRoute(task).lateralM).toBeCloseTo(2 * Math.sqrt(3) * side, 6);
  });

  it('is drawn as lines: as long together, each tree on one, each foot on the line that it runs into', () => {
    const task = bush(9, 36);
    const route = proposeRoute(task);
    const lines = linesOfRoute(route);
    const lengthOf = (wide: boolean) =>
      lines.reduce(
        (sum, { use, points }) => ((use === 'lateral') === wide ? sum : sum + alongCourse(points).at(-1)!),
        0
      );
    expect(lengthOf(true)).toBeCloseTo(route.wideM, 6);
    expect(lengthOf(false)).toBeCloseTo(route.lateralM, 6);
    const hung = lines.flatMap(({ trees }) => trees);
    expect([...hung].sort((a, b) => a - b)).toEqual([...task.trees.keys()].filter((i) => !route.missed.includes(i)));
    expect(new Set(hung).size).toBe(hung.length);
    for (const [nth, { into, points, trees, use }] of lines.entries()) {
      for (const tree of trees) expect(points).toContain(task.trees[tree]!.at);
      if (into === null) expect(points.at(-1)).toEqual(task.foot.at);
      else {
        expect(into).toBeLessThan(nth);
        expect(placeAlong(points.at(-1)!, lines[into]!.points).awayM).toBeLessThan(1e-9);
      }
      // A wide line runs into none that is narrower.
      if (use !== 'lateral' && into !== null) expect(lines[into]!.use).not.toBe('lateral');
    }
    expect(lines.some(({ use }) => use === 'main')).toBe(true);
  });

  it('lays no pipe that is too short to be one, where two stems stand on one stump', () => {
    const base = bush(21, 14);
    const stems = base.trees.map(({ at: [x, y], heightM, taps }) => ({
      at: [x + 0.2, y] as Point,
      heightM: heightM + 0.1,
      taps
    }));
    const route = proposeRoute({ ...base, trees: [...base.trees, ...stems] });
    expect(route.missed).toEqual([]);
    for (const { points } of linesOfRoute(route)) expect(alongCourse(points).at(-1)).toBeGreaterThanOrEqual(0.5);
  });

  it('goes round what no pipe may cross, and says which trees no falling pipe reaches', () => {
    const at = (x: number, y: number, heightM: number) => ({ at: [x, y] as Point, heightM, taps: 1 });
    const wall: Point[] = [
      [-5, 10],
      [5, 10]
    ];
    const task: RouteTask = {
      foot: { at: [0, 0], heightM: 0 },
      trees: [at(0, 20, 4), at(12, 14, 2), at(30, 0, -1)],
      heightAt: null,
      crossed: (from, to) => (crossingsAlong([from, to], wall, false).length > 0 ? Infinity : 0),
      seed: 1
    };
    const route = proposeRoute(task);
    expect(route.missed).toEqual([2]);
    expect(route.places.map(({ into }) => into)).toEqual([null, 2, 0, null]);
    expect(proposeRoute({ ...task, trees: [] }).cost).toBe(0);
  });
});

describe('the ground between heights', () => {
  const rng = seededRng(3);
  const places = Array.from({ length: 200 }, (): Point => [100 * rng.uniform(), 100 * rng.uniform()]);

  it('is a slope where all lie on one, and a hill within a hand where they lie on that', () => {
    const slope = ([x, y]: Point) => 300 + 0.1 * x - 0.05 * y;
    const onSlope = groundFrom(places.map((at) => ({ at, heightM: slope(at) })));
    const hill = ([x, y]: Point) => 300 + 5 * Math.exp(-((x - 50) ** 2 + (y - 50) ** 2) / 1800);
    const onHill = groundFrom(places.map((at) => ({ at, heightM: hill(at) })));
    for (const at of [
      [50, 50],
      [20, 70],
      [81, 33]
    ] as Point[]) {
      expect(Math.abs(onSlope(at) - slope(at))).toBeLessThan(0.01);
      expect(Math.abs(onHill(at) - hill(at))).toBeLessThan(0.25);
    }
  });

  it('is level where one height is known, and along a row of them as they say', () => {
    expect(groundFrom([{ at: [0, 0], heightM: 7 }])([30, 40])).toBeCloseTo(7, 9);
    const row = Array.from({ length: 11 }, (_, i) => ({ at: [10 * i, 0] as Point, heightM: i }));
    expect(groundFrom(row)([45, 0])).toBeCloseTo(4.5, 1);
    expect(() => groundFrom([])).toThrow(RangeError);
  });
});

describe('lines for a bush', () => {
  it('run through no house but into the one where the vessel stands, and cross a path once each at the most', () => {
    const heights = [0, 50, 100].flatMap((x) => [0, 50, 100].map((y) => ({ at: [x, y] as Point, heightM: 0.1 * y })));
    const house = (x: number, y: number): [number, number][] => [
      [x - 4, y - 4],
      [x + 4, y - 4],
      [x + 4, y + 4],
      [x - 4, y + 4]
    ];
    const trees = Array.from({ length: 12 }, (_, i) => ({
      at: [40 + 8 * (i % 4), 50 + 15 * Math.floor(i / 4)] as Point,
      taps: 1
    }));
    const { route, lines } = routeLines({
      trees,
      foot: [50, 5],
      heights,
      features: [
        { kind: 'building', points: house(50, 5) },
        { kind: 'building', points: house(50, 30) },
        {
          kind: 'path',
          points: [
            [0, 40],
            [100, 40]
          ]
        }
      ]
    });
    // Two stand right behind the house: they are named, and nothing is led through it.
    expect(route.missed).toEqual([1, 2]);
    expect(route.crossings).toBe(lines.filter(({ into }) => into === null).length);
    expect(lines.flatMap(({ trees: of }) => of)).toHaveLength(10);
    for (const { points } of lines) expect(crossingsAlong(points, house(50, 30), true)).toEqual([]);
  });
});
