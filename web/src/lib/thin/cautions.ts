import { compassPoint, heightOf, radiusOf, type SiteFeature, type StandTree, type TreeRow } from '@baumkin/core';
import { fellingCautions, frees, type Cautions } from '@baumkin/core/thinning';

import { HAZARD_WORDS, WILDLIFE_WORDS } from '$lib/count/words.ts';

import { standTrees } from './standTrees.ts';

/** A tree to come down, with what a faller has to know of it. */
export interface ListedTree {
  readonly row: TreeRow;
  /** null where it has no place or diameter */
  readonly tree: StandTree | null;
  readonly cautions: Cautions<SiteFeature> | null;
  /** in words, the gravest first */
  readonly said: readonly string[];
  /** crop trees and kept trees that a careless fall would hit, nearest first */
  readonly near: readonly { readonly row: TreeRow; readonly distanceM: number }[];
}

/** Kept trees named beside a tree to fell. */
const MOST_NEAR = 3;

/** What is marked to come down, in walking order. @param metres writes a length of ground */
export function markingList(
  rows: readonly TreeRow[],
  features: readonly SiteFeature[],
  metres: (m: number) => string
): ListedTree[] {
  const keepers = rows.filter((row) => row.crop === 'crop' || row.mark === 'keep' || row.mark === 'brace');
  return rows
    .filter((row) => frees(row.mark))
    .map((row): ListedTree => {
      const tree = standTrees([row])[0] ?? null;
      if (!tree)
        return { row, tree, cautions: null, said: ['not on the map: what it can reach is not known'], near: [] };
      const cautions = fellingCautions({ ...row, tree }, features);
      const near = keepers
        .flatMap((other) => {
          const distanceM = Math.hypot((other.eastM ?? NaN) - tree.eastM, (other.northM ?? NaN) - tree.northM);
          const reach = radiusOf(tree) + (other.dbhMm ? radiusOf({ ...other, dbhMm: other.dbhMm }) : 0);
          return other.id !== row.id && distanceM < reach ? [{ row: other, distanceM }] : [];
        })
        .sort((a, b) => a.distanceM - b.distanceM)
        .slice(0, MOST_NEAR);
      const said = [
        ...cautions.reaches.map(
          ({ feature, distanceM, withinOneLength }) =>
            `${feature.name} ${metres(distanceM)} away${withinOneLength ? ', which it can hit' : ''}`
        ),
        ...cautions.hazards.map((hazard) => HAZARD_WORDS[hazard]),
        ...(cautions.hollow && !cautions.hazards.includes('hollowButt') ? ['hollow'] : []),
        ...(cautions.deadCrown ? [`${row.diebackPct} % of its crown is dead`] : []),
        ...(row.leanDeg === null ? [] : [`leans ${compassPoint(row.leanDeg)}`]),
        ...cautions.wildlife.map((home) => `${WILDLIFE_WORDS[home]}: look before anything is done`),
        ...(cautions.lookedAt ? [] : ['nobody has looked up at it yet'])
      ];
      return { row, tree, cautions, said, near };
    });
}

/** How tall a tree of the list is, metres. */
export function lengthOf(listed: ListedTree): number | null {
  return listed.tree && heightOf(listed.tree);
}
