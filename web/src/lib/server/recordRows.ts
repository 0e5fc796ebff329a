import type { AnyRecord, AnyRecordKind } from '@baumkin/core/records';

import type { Transaction, WhereOptions } from 'sequelize';

import { recordColumns, tables, type RecordColumn } from './db/index.ts';

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

/** A row of a table as the record it is, with its author. Rows were checked on their way in. */
export function recordOf<K extends AnyRecordKind>(kind: K, row: Record<string, unknown>): RecordOfKind<K> {
  const record: Record<string, unknown> = { kind };
  for (const { name, json, flag } of columnsOf(kind)) {
    const value = row[name];
    record[name] =
      json && typeof value === 'string' ? JSON.parse(value) : flag && value !== null ? Boolean(value) : value;
  }
  record.recordedAt = (row.recordedAt as Date).toISOString();
  record.authorId = row.authorId;
  return record as RecordOfKind<K>;
}

/** Records of one kind. */
export async function recordsWhere<K extends AnyRecordKind>(
  kind: K,
  where: WhereOptions,
  transaction?: Transaction
): Promise<RecordOfKind<K>[]> {
  const rows = await tables().work[kind].findAll({ where, raw: true, transaction });
  return rows.map((row) => recordOf(kind, row as unknown as Record<string, unknown>));
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
