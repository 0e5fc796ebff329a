import type { RingExpectation, SizeExpectation } from '@baumkin/core/measure';
import {
  bushSettingsSchema,
  fromOlderSettings,
  standSchema,
  type BaseMapFit,
  type BushRecord,
  type BushSettings,
  type KeptLine,
  type Role,
  type SiteFeature,
  type Stand,
  type TreeRow
} from '@baumkin/core/records';

import type { Changes } from './deviceBook.ts';

/** What is told of a bush at a glance, its trees aside. */
export interface Glance {
  readonly bush: {
    readonly id: string;
    readonly name: string;
    readonly role: Role;
    readonly settings: BushSettings;
    readonly version: number;
    /** where on earth the bush lies */
    readonly origin: { readonly lat: number; readonly lon: number } | null;
    /** given up, and gone after this moment; releases of before told none */
    readonly goneAt?: string | null;
  };
  /** everyone who belongs to the bush: records name their author by id */
  readonly people: readonly { readonly id: string; readonly name: string; readonly showsHoles: boolean }[];
  readonly member: { readonly id: string; readonly name: string };
  readonly today: string;
  readonly season: number;
  readonly stands: readonly Stand[];
  readonly features: readonly SiteFeature[];
  /** stands and features that were stored and cannot be read */
  readonly damaged: readonly {
    readonly what: 'stand' | 'feature';
    readonly id: string;
    readonly name: string;
    readonly reason: string;
  }[];
  /** how a picture lies under the map; null where none does */
  readonly baseMap: BaseMapFit | null;
  /** the feed of its changes, and the last one that is in this */
  readonly feed: string;
  readonly number: number;
}

/** The same with the records of the bush as a whole. */
export interface WholeGlance extends Glance {
  readonly bushRecords: readonly BushRecord[];
}

/** The same with its trees, as devices keep them. */
export interface KeptOverview extends WholeGlance {
  readonly trees: readonly KeptLine[];
}

/** The same with its trees, told for today. */
export interface Overview extends WholeGlance {
  /** ring widths to expect in this bush */
  readonly rings: RingExpectation;
  /** sizes to expect in this bush */
  readonly sizes: SizeExpectation | null;
  readonly trees: readonly TreeRow[];
}

/**
 * The bush at a glance as the program of before kept it, with what this one knows more of: until the server is there again, a
 * setting or a field that came with a release is its default. What cannot be read stays as it is.
 */
export function underThisRelease(glance: Glance): Glance {
  const { bush, stands } = glance;
  const settings = fromOlderSettings(bush.settings) as BushSettings;
  return {
    ...glance,
    bush: { ...bush, settings: read(bushSettingsSchema, settings) },
    stands: stands.map((stand) => read(standSchema, stand))
  };
}

/** A value with the defaults of what a schema knows more of; as it is, where the schema cannot read it. */
export function read<T extends object>(
  schema: { safeParse: (value: unknown) => { success: true; data: object } | { success: false } },
  value: T
): T {
  const result = schema.safeParse(value);
  return result.success ? { ...value, ...result.data } : value;
}

/** The bush at a glance after a page of its feed: what would be asked of the server anew otherwise. */
export function withChanges(glance: Glance, { feed, to, role, stands, features, bush, people }: Changes): Glance {
  const byName = (a: { name: string }, b: { name: string }) => a.name.localeCompare(b.name);
  const drawn = <T extends { readonly id: string; readonly name: string }>(
    known: readonly T[],
    news: readonly { readonly id: string; readonly now: T | null }[]
  ): readonly T[] => {
    if (news.length === 0) return known;
    const changed = new Set(news.map(({ id }) => id));
    return [...known.filter(({ id }) => !changed.has(id)), ...news.flatMap(({ now }) => now ?? [])].sort(byName);
  };
  const { baseMap = glance.baseMap, ...head } = bush ?? {};
  return {
    ...glance,
    bush: { ...glance.bush, ...head, role },
    baseMap,
    people: people ?? glance.people,
    stands: drawn(
      glance.stands,
      stands.map(({ id, stand }) => ({ id, now: stand }))
    ),
    features: drawn(
      glance.features,
      features.map(({ id, feature }) => ({ id, now: feature }))
    ),
    damaged: glance.damaged.filter(({ id }) => ![...stands, ...features].some((each) => each.id === id)),
    feed,
    number: to
  };
}
