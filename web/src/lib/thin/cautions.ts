import {
  compassPoint,
  heightOf,
  knownMaple,
  SIDES,
  type Side,
  type SiteFeature,
  type StandTree,
  type TreeRow
} from '@baumkin/core';
import { fellingCautions, fellingOrder, frees, withinItsLength, type Cautions } from '@baumkin/core/thinning';

import { HAZARD_WORDS, WILDLIFE_WORDS } from '../count/words.ts';

import { standTrees } from './standTrees.ts';

/** A tree to come down, with what a faller has to know of it. */
export interface ListedTree {
  readonly row: TreeRow;
  /** null where it has no place or diameter */
  readonly tree: StandTree | null;
  readonly cautions: Cautions<SiteFeature> | null;
  /** in words, the gravest first */
  readonly said: readonly string[];
  /** crop trees, kept trees, homes and young growth within its own length, by side */
  readonly near: readonly { readonly side: Side; readonly says: string }[];
  /** its turn in the order of felling that leaves least hurt, and the share of ways to fall that are then clear */
  readonly turn: { readonly at: number; readonly room: number } | null;
}

/** A maple thinner than this is young growth, mm. Working assumption. */
const YOUNG_BELOW_MM = 100;

/**
 * What a falling tree could spoil: why it is kept, in a word; null for a tree that nobody minds.
 * @param held marked to come down, and held back
 */
function keptWord(row: TreeRow, held: boolean): string | null {
  if (frees(row.mark) && !held) return null;
  if (row.crop === 'crop') return 'crop tree';
  if (row.wildlife.length > 0) return 'home';
  if (row.mark !== null) return 'kept';
  return row.dbhMm !== null && row.dbhMm < YOUNG_BELOW_MM && knownMaple(row) === true ? 'young' : null;
}

/** Trees named on one side of a tree to fell; the others are counted. */
const MAX_NAMED = 4;

/**
 * What is marked to come down, in walking order.
 * @param held ids of trees that are marked, and held back
 * @param metres writes a length of ground
 */
export function markingList(
  rows: readonly TreeRow[],
  held: ReadonlySet<string>,
  features: readonly SiteFeature[],
  metres: (m: number) => string
): ListedTree[] {
  const words = new Map(
    rows.flatMap((row) => {
      const word = keptWord(row, held.has(row.id));
      return word === null ? [] : [[row.id, word]];
    })
  );
  const minded = rows.filter(({ id }) => words.has(id));
  const kept = standTrees(minded);
  const tagged = new Set(minded.filter((row) => row.tagged !== false).map(({ id }) => id));
  const falling = standTrees(rows.filter((row) => row.mark === 'take' && !row.fallen && !held.has(row.id)));
  const turns = new Map(fellingOrder(falling, kept).map(({ id, room }, i) => [id, { at: i + 1, room }]));
  return rows
    .filter((row) => frees(row.mark) && row.fallen?.what !== 'girdled' && !held.has(row.id))
    .map((row): ListedTree => {
      const tree = standTrees([row])[0] ?? null;
      if (!tree)
        return {
          row,
          tree,
          cautions: null,
          said: ['not on the map: what it can reach is not known'],
          near: [],
          turn: null
        };
      const cautions = fellingCautions({ ...row, tree }, features);
      const within = withinItsLength(tree, kept);
      const near = SIDES.flatMap((side) => {
        const there = within.filter((each) => each.side === side);
        if (there.length === 0) return [];
        const named = there
          .slice(0, MAX_NAMED)
          .map(
            ({ tree: other }) => `${tagged.has(other.id) ? other.tag : 'one without a tag'} (${words.get(other.id)})`
          );
        const more = there.length - named.length;
        return [{ side, says: named.join(', ') + (more > 0 ? ` and ${more} more` : '') }];
      });
      const said = [
        ...cautions.reaches.map(
          ({ feature, distanceM, withinOneLength }) =>
            `${feature.name} ${metres(distanceM)} away${withinOneLength ? ', which it can hit' : ''}`
        ),
        ...cautions.hazards.map((hazard) => HAZARD_WORDS[hazard]),
        ...(cautions.hollow && !cautions.hazards.includes('hollowButt') ? ['hollow'] : []),
        ...(cautions.brittle && !cautions.deadCrown ? ['dying kind: its wood is brittle'] : []),
        ...(row.species === 'beech' && row.diebackPct === null
          ? ['look at its bark first: sound-barked beech is kept']
          : []),
        ...(cautions.deadCrown ? [`${row.diebackPct} % of its crown is dead`] : []),
        ...(row.leanDeg === null ? [] : [`leans ${compassPoint(row.leanDeg)}`]),
        ...cautions.wildlife.map((home) => `${WILDLIFE_WORDS[home]}: look before anything is done`),
        ...(cautions.lookedAt ? [] : ['nobody has looked up at it yet'])
      ];
      return { row, tree, cautions, said, near, turn: turns.get(row.id) ?? null };
    });
}

/** How tall a tree of the list is, metres. */
export function lengthOf(listed: ListedTree): number | null {
  return listed.tree && heightOf(listed.tree);
}
