import {
  isBushRecordKind,
  type AnyRecordKind,
  type BushRecord,
  type SiteFeature,
  type Stand,
  type WorkRecord
} from '@baumkin/core/records';
import { Op, type Transaction } from 'sequelize';

import { baseMapFitOf } from './baseMap.ts';
import { accessOf, shapesOf, type BushAccess, type Damaged } from './bushes.ts';
import type { Touched } from './bushWrite.ts';
import type { AnswerOf } from './contract.ts';
import { Bush, Change, TreeRecord } from './db/index.ts';
import { reading } from './db/reading.ts';
import { peopleOf } from './members.ts';
import { bushRecordsOf, recordsWhere } from './recordRows.ts';
import { Refused } from './refusals.ts';
import { walkOf } from './treeRegistry.ts';
import { treeOf } from './trees.ts';

/** What changed in a bush after one number, up to another. What is told of anything is what it is now. */
export type Changes = Omit<AnswerOf<'Changes'>, 'role' | 'memberId' | 'today' | 'season'>;
/** A bush as a whole, its trees and their records aside. */
export type BushHead = NonNullable<Changes['bush']>;
/** A tree's step on the walk and its line in the registry; null once it was taken out. */
export type Registered = Changes['trees'][number];

/** Numbers that one page of the feed holds at most, and ids after which no further number is begun. */
const MOST_NUMBERS = 200;
const ENOUGH_IDS = 2000;

/**
 * What changed in a bush after a number. A record is told once; whatever can change is told as it is now, however often it
 * changed meanwhile. Whoever takes the pages in their order holds what the server holds.
 * @throws Refused 'beginAnew' where the number is not one of this feed
 */
export async function changesAfter(bushId: string, feed: string, after: number): Promise<Changes> {
  return reading(async (transaction) => {
    const row = await Bush.findByPk(bushId, { transaction, rejectOnEmpty: true });
    if (row.feedId !== feed || after > row.changes) throw new Refused('beginAnew');
    const rows = await Change.findAll({
      where: { bushId, number: { [Op.gt]: after } },
      order: [['number', 'ASC']],
      limit: MOST_NUMBERS,
      raw: true,
      transaction
    });
    const touched = new Merged();
    let to = after;
    for (const { number, touched: part } of rows) {
      if (touched.size >= ENOUGH_IDS) break;
      touched.add(asTouched(part));
      to = number;
    }
    const records: WorkRecord[] = [];
    const bushRecords: BushRecord[] = [];
    for (const [kind, ids] of touched.records) {
      const found = await recordsWhere(kind, { bushId, id: ids }, { transaction });
      if (isBushRecordKind(kind)) bushRecords.push(...(found as BushRecord[]));
      else records.push(...(found as WorkRecord[]));
    }
    const { stands, features } =
      touched.stands.size + touched.features.size > 0
        ? await shapesOf(bushId, transaction)
        : { stands: [], features: [] };
    return {
      feed,
      to,
      last: row.changes,
      trees: await registered(bushId, [...touched.trees], transaction),
      records,
      bushRecords,
      stands: [...touched.stands].map((id) => ({ id, stand: stands.find((stand) => stand.id === id) ?? null })),
      features: [...touched.features].map((id) => ({ id, feature: features.find((each) => each.id === id) ?? null })),
      walk: touched.walk ? await walkOf(bushId, transaction) : null,
      bush: touched.bush ? await headOf(row, transaction) : null,
      people: touched.people ? await peopleOf(bushId, transaction) : null
    };
  });
}

/** Trees of a bush whose line in the registry or whose records are others than at a number of its feed. */
export async function treesTouchedSince(
  bushId: string,
  number: number,
  transaction: Transaction
): Promise<ReadonlySet<string>> {
  const touched = new Merged();
  const where = { bushId, number: { [Op.gt]: number } };
  for (const row of await Change.findAll({ where, raw: true, transaction })) touched.add(asTouched(row.touched));
  const trees = new Set(touched.trees);
  for (const [kind, ids] of touched.records)
    if (!isBushRecordKind(kind))
      for (let i = 0; i < ids.length; i += ENOUGH_IDS) {
        const part = ids.slice(i, i + ENOUGH_IDS);
        for (const { treeId } of await recordsWhere(kind, { bushId, id: part }, { transaction })) trees.add(treeId);
      }
  return trees;
}

/** All that is told of a bush beside its trees and their records. */
export interface BushAsWhole extends BushHead {
  readonly people: Awaited<ReturnType<typeof peopleOf>>;
  readonly stands: readonly Stand[];
  readonly features: readonly SiteFeature[];
  readonly damaged: readonly Damaged[];
  readonly bushRecords: readonly BushRecord[];
}

/** All that is told of a bush beside its trees, as it is at one moment. */
export const wholeOf = (bushId: string): Promise<BushAsWhole> =>
  reading(async (transaction) =>
    asWhole(await Bush.findByPk(bushId, { transaction, rejectOnEmpty: true }), transaction)
  );

/** All that is told of a bush beside its trees, as it is within the transaction. */
export async function asWhole(row: Bush, transaction: Transaction): Promise<BushAsWhole> {
  const head = await headOf(row, transaction);
  const people = await peopleOf(row.id, transaction);
  const shapes = await shapesOf(row.id, transaction);
  return { ...head, people, ...shapes, bushRecords: await bushRecordsOf(row.id, transaction) };
}

async function headOf(row: Bush, transaction: Transaction): Promise<BushHead> {
  const { name, settings, version, origin, goneAt }: Omit<BushAccess, 'role'> = accessOf(row);
  const gone = goneAt?.toISOString() ?? null;
  return { name, settings, version, origin, goneAt: gone, baseMap: await baseMapFitOf(row.id, transaction) };
}

/** Trees of a bush as they stand in the registry, in walking order. */
export async function registered(
  bushId: string,
  ids: readonly string[],
  transaction: Transaction
): Promise<Registered[]> {
  if (ids.length === 0) return [];
  const rows = await TreeRecord.findAll({
    where: { bushId, id: [...ids] },
    order: [
      ['walkOrder', 'ASC'],
      ['id', 'ASC']
    ],
    raw: true,
    transaction
  });
  return rows.map((row) => ({ id: row.id, walkOrder: row.walkOrder, tree: treeOf(row) }));
}

/** What a number touched: read without Sequelize's care, JSON is the text that it is. */
const asTouched = (kept: unknown): Touched => (typeof kept === 'string' ? JSON.parse(kept) : kept) as Touched;

/** What several numbers touched together. */
class Merged {
  readonly records = new Map<AnyRecordKind, string[]>();
  readonly trees = new Set<string>();
  readonly stands = new Set<string>();
  readonly features = new Set<string>();
  walk = false;
  bush = false;
  people = false;
  size = 0;

  add(part: Touched): void {
    for (const [kind, ids] of Object.entries(part.records ?? {}) as [AnyRecordKind, string[]][]) {
      this.records.set(kind, [...(this.records.get(kind) ?? []), ...ids]);
      this.size += ids.length;
    }
    for (const what of ['trees', 'stands', 'features'] as const)
      for (const id of part[what] ?? []) {
        this[what].add(id);
        this.size += 1;
      }
    this.walk ||= part.walk ?? false;
    this.bush ||= part.bush ?? false;
    this.people ||= part.people ?? false;
  }
}
