import { crossingsAlong, type Point } from '../geometry/index.ts';
import {
  groundFrom,
  linesOfRoute,
  proposeRoute,
  type GroundHeight,
  type Route,
  type RoutedLine
} from '../lines/index.ts';
import type { SiteFeature } from '../records/index.ts';

/** Where lines are wanted: plain data, so that it travels to a worker. */
export interface RouteQuestion {
  /** trees that shall hang on lines, metres east and north, and their taps */
  readonly trees: readonly { readonly at: Point; readonly taps: number }[];
  /** where the vessel stands */
  readonly foot: Point;
  /** what is known of the ground */
  readonly heights: readonly GroundHeight[];
  readonly features: readonly Pick<SiteFeature, 'kind' | 'points'>[];
}

/** What is crossed only where it has to be. */
const DEAR: readonly SiteFeature['kind'][] = ['path', 'water', 'fence', 'line'];

/** Lines from trees to a vessel that fall everywhere, as far as the ground is known; through no building, and across few paths. */
export function routeLines({ trees, foot, heights, features }: RouteQuestion): {
  readonly route: Route;
  readonly lines: readonly RoutedLine[];
} {
  const heightAt = groundFrom(heights);
  const buildings = features.filter(({ kind }) => kind === 'building');
  const dear = features.filter(({ kind }) => DEAR.includes(kind));
  const times = (of: readonly Pick<SiteFeature, 'points'>[], way: readonly Point[], closed: boolean) =>
    of.reduce((sum, { points }) => sum + crossingsAlong(way, points, closed).length, 0);
  const route = proposeRoute({
    foot: { at: foot, heightM: heightAt(foot) },
    trees: trees.map(({ at, taps }) => ({ at, taps, heightM: heightAt(at) })),
    heightAt,
    // A vessel may stand in a house: the pipe into it goes through its wall once.
    crossed: (from, to) => {
      const walls = times(buildings, [from, to], true);
      return walls > (to === foot ? 1 : 0) ? Infinity : times(dear, [from, to], false);
    },
    seed: 1
  });
  return { route, lines: linesOfRoute(route) };
}
