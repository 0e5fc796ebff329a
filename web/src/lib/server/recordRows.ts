import {
  BUSH_RECORD_KINDS,
  RECORD_KINDS,
  type AnyRecord,
  type AnyRecordKind,
  type BushRecord,
  type RecordKindName,
  type WorkRecord
} from '@baumkin/core/records';

import { group } from 'd3-array';
import type { Transaction } from 'sequelize';

import { recordColumns, tables, type RecordColumn } from './db/index.ts';
import { insertRows, type Cell } from './db/insertRows.ts';

export type RecordOfKind<K extends AnyRecordKind> = Extract<AnyRecord, { kind: K }>;

const COLUMNS = new Map<AnyRecordKind, readonly RecordColumn[]>();
function columnsOf(kind: AnyRecordKind): readonly RecordColumn[] {
  const known = COLUMNS.get(kind) ?? recordColumns(kind);
  COLUMNS.set(kind, known);
  return known;
}

/** Who writes, into which bush, and when. */
export interface Writing {
  readonly bushId: string;
  readonly authorId: string;
  readonly now: Date;
}

/** A record as a row of its table. */
export function rowOf(record: AnyRecord, { bushId, authorId, now }: Writing): Record<string, unknown> {
  const { kind: _kind, ...columns } = record;
  return { ...columns, recordedAt: new Date(record.recordedAt), bushId, authorId, storedAt: now };
}

/** Stores records of one kind that were checked before. @throws UniqueConstraintError */
export async function insertRecords(
  kind: AnyRecordKind,
  records: readonly AnyRecord[],
  { bushId, authorId, now }: Writing,
  transaction: Transaction
): Promise<void> {
  const columns = columnsOf(kind);
  const cells = (record: AnyRecord): Cell[] => [
    ...columns.map(({ name, json }): Cell => {
      const value = (record as unknown as Record<string, unknown>)[name];
      if (name === 'recordedAt') return new Date(record.recordedAt);
      return json && value !== null ? JSON.stringify(value) : (value as Cell);
    }),
    bushId,
    authorId,
    now
  ];
  const fields = columns.map(({ attribute }) => String(attribute.field));
  const { tableName } = tables().work[kind];
  await insertRows(
    { table: tableName, columns: [...fields, 'bushId', 'authorId', 'storedAt'] },
    records.map(cells),
    transaction
  );
}

/** Stores many records that were checked before, those of a kind together. @throws UniqueConstraintError */
export async function storeMany(records: readonly AnyRecord[], by: Writing, transaction: Transaction): Promise<void> {
  for (const [kind, some] of group(records, (record) => record.kind)) await insertRecords(kind, some, by, transaction);
}

/** A row of a table as the record it is, with its author. Rows were checked on their way in. */
function recordOf<K extends AnyRecordKind>(kind: K, row: Record<string, unknown>): RecordOfKind<K> {
  const record: Record<string, unknown> = { kind };
  for (const { name, json, flag } of columnsOf(kind)) {
    const value = row[name];
    record[name] =
      json && typeof value === 'string' ? JSON.parse(value) : flag && value !== null ? Boolean(value) : value;
  }
  const at = row.recordedAt as string | Date;
  record.recordedAt = typeof at === 'string' ? `${at.slice(0, 10)}T${at.slice(11)}Z` : at.toISOString();
  record.authorId = row.authorId;
  return record as RecordOfKind<K>;
}

/** Which records: a value for a column, or several to choose from. */
type Which = Readonly<Partial<Record<'bushId' | 'treeId' | 'id', string | readonly string[]>>>;

/**
 * Records of one kind. Written as SQL: a bush has hundreds of thousands of them, and an object a row that is thrown away again
 * and a date a row cost more than all that is done with them.
 * @param byTree of some trees among many: the index of trees is taken even where the database would rather read all of the bush
 */
export async function recordsWhere<K extends AnyRecordKind>(
  kind: K,
  which: Which,
  { transaction, byTree = false }: { readonly transaction?: Transaction; readonly byTree?: boolean } = {}
): Promise<RecordOfKind<K>[]> {
  if (Object.values(which).some((value) => value.length === 0)) return [];
  const { tableName } = tables().work[kind];
  const columns = columnsOf(kind).map(({ name, attribute: { field } }) =>
    name === 'recordedAt' ? 'CAST(recordedAt AS CHAR) AS recordedAt' : `\`${field}\` AS \`${name}\``
  );
  const asked = Object.entries(which).map(
    ([name, value]) => `${name} ${Array.isArray(value) ? 'IN (:' : '= (:'}${name})`
  );
  const hint = byTree ? `FORCE INDEX (${tableName}_bushId_treeId)` : '';
  const [rows] = await tables().sequelize.query(
    `SELECT ${columns.join()}, authorId FROM ${tableName} ${hint} WHERE ${asked.join(' AND ')}`,
    { replacements: which, transaction }
  );
  return (rows as Record<string, unknown>[]).map((row) => recordOf(kind, row));
}

/**
 * All records of a bush, or of some of its trees, by tree. One kind after the other on one connection: many readers at
 * once leave connections to each other, and to whoever writes.
 */
export async function recordsByTree(
  bushId: string,
  options: {
    readonly treeIds?: readonly string[];
    readonly kinds?: readonly RecordKindName[];
    readonly transaction?: Transaction;
  } = {}
): Promise<Map<string, WorkRecord[]>> {
  const { treeIds, kinds = RECORD_KINDS, transaction } = options;
  const where = treeIds ? { bushId, treeId: [...treeIds] } : { bushId };
  const byTree = new Map<string, WorkRecord[]>();
  for (const kind of kinds)
    for (const record of await recordsWhere(kind, where, { transaction, byTree: treeIds !== undefined })) {
      const list = byTree.get(record.treeId);
      if (list) list.push(record);
      else byTree.set(record.treeId, [record]);
    }
  return byTree;
}

/** All records of the bush as a whole. */
export async function bushRecordsOf(bushId: string, transaction?: Transaction): Promise<BushRecord[]> {
  const records: BushRecord[] = [];
  for (const kind of BUSH_RECORD_KINDS) records.push(...(await recordsWhere(kind, { bushId }, { transaction })));
  return records;
}

/** Is what is stored what came in again? */
export function sameRecord(row: Record<string, unknown>, record: AnyRecord, bushId: string): boolean {
  const { authorId: _author, ...stored } = recordOf(record.kind, row);
  return (
    row.bushId === bushId &&
    canonical(stored) === canonical({ ...record, recordedAt: new Date(record.recordedAt).toISOString() })
  );
}

/** JSON with its keys in order: the same content is the same text. */
function canonical(value: unknown): string {
  return JSON.stringify(value, (_key, inner: unknown) =>
    inner && typeof inner === 'object' && !Array.isArray(inner)
      ? Object.fromEntries(Object.entries(inner).sort(([a], [b]) => (a < b ? -1 : 1)))
      : inner
  );
}
