import type { RingPriors, SizeExpectation } from '@baumkin/core/measure';
import {
  treeRow,
  type BaseMapFit,
  type BushRecord,
  type BushSettings,
  type Role,
  type SiteFeature,
  type Stand,
  type TreeRow,
  type TreeState,
  type WorkRecord
} from '@baumkin/core/records';

import type { Changes } from './deviceBook.ts';
import type { Life } from './store.ts';

/** What the server tells of a bush at a glance. */
export interface Overview {
  readonly bush: {
    readonly id: string;
    readonly name: string;
    readonly role: Role;
    readonly settings: BushSettings;
    readonly version: number;
    /** where on earth the bush lies; a device may hold an overview without it */
    readonly origin?: { readonly lat: number; readonly lon: number } | null;
  };
  /** everyone who belongs to the bush: records name their author by id; a device may hold an overview without them */
  readonly people?: readonly { readonly id: string; readonly name: string; readonly showsHoles?: boolean }[];
  readonly member: { readonly id: string; readonly name: string };
  readonly today: string;
  readonly season: number;
  readonly stands: readonly Stand[];
  readonly features: readonly SiteFeature[];
  /** stands and features that were stored and cannot be read; a device may hold an overview without them */
  readonly damaged?: readonly {
    readonly what: 'stand' | 'feature';
    readonly id: string;
    readonly name: string;
    readonly reason: string;
  }[];
  /** how a picture lies under the map; null where none does */
  readonly baseMap?: BaseMapFit | null;
  /** records of the bush as a whole; a device may hold an overview without them */
  readonly bushRecords?: readonly BushRecord[];
  /** ring widths to expect in this bush; a device may hold an overview without them */
  readonly ringPriors?: RingPriors;
  /** sizes to expect in this bush; a device may hold an overview without them */
  readonly sizes?: SizeExpectation | null;
  /** the feed of its changes, and the last one that is in this; a device may hold an overview without them */
  readonly feed?: string;
  readonly number?: number;
  readonly trees: readonly TreeRow[];
}

/**
 * The bush at a glance after a page of its feed: what would be asked of the server anew otherwise.
 * @param lives the trees that the page touched, as they are now
 * @param stateOf the state that a tree's records amount to
 */
export function withChanges(
  overview: Overview,
  { feed, to, role, trees, walk, stands, features, bush, people, bushRecords }: Changes,
  lives: readonly Life[],
  stateOf: (records: readonly WorkRecord[]) => TreeState
): Overview {
  const lines = new Map(overview.trees.map((row) => [row.id, row]));
  for (const { treeId, tree, records } of lives) if (tree) lines.set(treeId, treeRow(tree, stateOf(records)));
  for (const { id, tree } of trees) if (!tree) lines.delete(id);
  for (const { id, walkOrder } of walk ?? []) {
    const line = lines.get(id);
    if (line) lines.set(id, { ...line, walkOrder });
  }
  const byWalk = (a: TreeRow, b: TreeRow) => a.walkOrder - b.walkOrder || (a.id < b.id ? -1 : 1);
  const byName = (a: { name: string }, b: { name: string }) => a.name.localeCompare(b.name);
  const drawn = <T extends { readonly id: string; readonly name: string }>(
    known: readonly T[],
    news: readonly { readonly id: string; readonly now: T | null }[]
  ): readonly T[] => {
    if (news.length === 0) return known;
    const changed = new Set(news.map(({ id }) => id));
    return [...known.filter(({ id }) => !changed.has(id)), ...news.flatMap(({ now }) => now ?? [])].sort(byName);
  };
  const fresh = new Set(bushRecords.map(({ id }) => id));
  const { baseMap = overview.baseMap ?? null, ...head } = bush ?? {};
  return {
    ...overview,
    bush: { ...overview.bush, ...head, role },
    baseMap,
    people: people ?? overview.people,
    stands: drawn(
      overview.stands,
      stands.map(({ id, stand }) => ({ id, now: stand }))
    ),
    features: drawn(
      overview.features,
      features.map(({ id, feature }) => ({ id, now: feature }))
    ),
    damaged: overview.damaged?.filter(({ id }) => ![...stands, ...features].some((each) => each.id === id)),
    bushRecords: [...(overview.bushRecords ?? []).filter(({ id }) => !fresh.has(id)), ...bushRecords],
    trees: [...lines.values()].sort(byWalk),
    feed,
    number: to
  };
}
