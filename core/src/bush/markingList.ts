import { knownMaple, type SiteFeature, type TreeRow } from '../records/index.ts';
import { heightOf, SIDES, type Side, type StandTree } from '../stand/index.ts';
import { fellingCautions, fellingOrder, releases, withinItsLength, type Cautions } from '../thinning/index.ts';

import { standTrees } from './standTrees.ts';

/** Why nobody wants a tree hurt. */
export type Minded = 'cropTree' | 'home' | 'kept' | 'young';

/** A tree that a falling one could spoil. */
export interface MindedTree {
  /** null for one without a tag */
  readonly tag: string | null;
  readonly as: Minded;
}

/** A tree to come down, with what a faller has to know of it. */
export interface ListedTree {
  readonly row: TreeRow;
  /** null where it has no place or diameter */
  readonly tree: StandTree | null;
  readonly cautions: Cautions<SiteFeature> | null;
  /** crop trees, kept trees, homes and young growth within its own length, by side; the first of them named */
  readonly near: readonly { readonly side: Side; readonly named: readonly MindedTree[]; readonly more: number }[];
  /** its turn in the order of felling that leaves least hurt, and the share of ways to fall that are then clear */
  readonly turn: { readonly at: number; readonly room: number } | null;
}

/** A maple thinner than this is young growth, mm. Working assumption. */
const YOUNG_BELOW_MM = 100;

/**
 * What a falling tree could spoil: why it is kept; null for a tree that nobody minds.
 * @param held marked to come down, and held back
 */
function mindedAs(row: TreeRow, held: boolean): Minded | null {
  if (releases(row.mark) && !held) return null;
  if (row.crop === 'crop') return 'cropTree';
  if (row.wildlife.length > 0) return 'home';
  if (row.mark !== null) return 'kept';
  return row.dbhMm !== null && row.dbhMm < YOUNG_BELOW_MM && knownMaple(row) === true ? 'young' : null;
}

/** Trees named on one side of a tree to fell; the others are counted. */
const MAX_NAMED = 4;

/**
 * What is marked to come down, in walking order.
 * @param held ids of trees that are marked, and held back
 */
export function markingList(
  rows: readonly TreeRow[],
  held: ReadonlySet<string>,
  features: readonly SiteFeature[]
): ListedTree[] {
  const minds = new Map(
    rows.flatMap((row) => {
      const as = mindedAs(row, held.has(row.id));
      return as === null ? [] : [[row.id, as] as const];
    })
  );
  const minded = rows.filter(({ id }) => minds.has(id));
  const kept = standTrees(minded);
  const tagged = new Set(minded.filter((row) => row.tagged !== false).map(({ id }) => id));
  const falling = standTrees(rows.filter((row) => row.mark === 'take' && !row.fallen && !held.has(row.id)));
  const turns = new Map(fellingOrder(falling, kept).map(({ id, room }, i) => [id, { at: i + 1, room }]));
  return rows
    .filter((row) => releases(row.mark) && row.fallen?.what !== 'girdled' && !held.has(row.id))
    .map((row): ListedTree => {
      const tree = standTrees([row])[0] ?? null;
      if (!tree) return { row, tree, cautions: null, near: [], turn: null };
      const cautions = fellingCautions({ ...row, tree }, features);
      const within = withinItsLength(tree, kept);
      const near = SIDES.flatMap((side) => {
        const there = within.filter((each) => each.side === side);
        if (there.length === 0) return [];
        const named = there.slice(0, MAX_NAMED).map(({ tree: { id, tag } }) => ({
          tag: tagged.has(id) ? tag : null,
          as: minds.get(id)!
        }));
        return [{ side, named, more: there.length - named.length }];
      });
      return { row, tree, cautions, near, turn: turns.get(row.id) ?? null };
    });
}

/** How tall a tree of the list is, metres. */
export function lengthOf(listed: ListedTree): number | null {
  return listed.tree && heightOf(listed.tree);
}
