import {
  BUSH_RECORD_KINDS,
  bushRecordSchema,
  RECORD_KINDS,
  recordSchema,
  type BushRecord,
  type RecordKind,
  type Role,
  type WorkRecord
} from '@baumkin/core';
import {
  DataTypes,
  ForeignKeyConstraintError,
  UniqueConstraintError,
  type ModelAttributeColumnOptions,
  type Transaction
} from 'sequelize';
import { z } from 'zod';

import { storeInBook } from './book.ts';
import { StandRow, tables, TreeRecord, WORK_TABLES } from './db/index.ts';

type AnyRecord = WorkRecord | BushRecord;

/** What became of one record of a batch. */
export interface RecordOutcome {
  readonly id: string | null;
  readonly status: 'stored' | 'already' | 'refused';
  /** a sentence for people, where it was refused */
  readonly reason?: string;
}

/** Kinds of records that decide about the bush; the crew records work, the steward decides. */
const STEWARDS_ONLY: readonly AnyRecord['kind'][] = ['decision', 'mark', 'cropChoice', 'thinningPlan'];

/**
 * Stores records of work. Each stands by itself: one that is refused does not hold up the others. Sending a record
 * twice stores it once; a different record under a known id is refused.
 * @param raw records as they came in, not yet checked
 */
export async function storeRecords(
  bushId: string,
  member: { readonly id: string; readonly role: Role },
  raw: readonly unknown[],
  now = new Date()
): Promise<RecordOutcome[]> {
  const outcomes: RecordOutcome[] = [];
  for (const candidate of raw) outcomes.push(await storeOne(bushId, member, candidate, now));
  return outcomes;
}

async function storeOne(
  bushId: string,
  member: { readonly id: string; readonly role: Role },
  candidate: unknown,
  now: Date
): Promise<RecordOutcome> {
  const parsed = schemaFor(candidate).safeParse(candidate);
  if (!parsed.success) {
    const named = z.object({ id: z.uuid() }).safeParse(candidate);
    return { id: named.success ? named.data.id : null, status: 'refused', reason: firstIssue(parsed.error) };
  }
  const record = parsed.data;
  const refuse = (reason: string): RecordOutcome => ({ id: record.id, status: 'refused', reason });
  const farthest = `${now.getUTCFullYear() + 1}-12-31`;
  if (record.on > farthest) return refuse(`The day ${record.on} lies beyond the next year: look at the year.`);
  if ('season' in record && record.season !== null && record.season > now.getUTCFullYear() + 2)
    return refuse(`The season ${record.season} is far off: look at the year.`);
  if (member.role === 'viewer') return refuse('Viewers look; they do not write.');
  if (member.role !== 'steward' && STEWARDS_ONLY.includes(record.kind))
    return refuse('That is the steward’s to decide.');
  const model = tables().work[record.kind];
  try {
    const known = await model.findByPk(record.id);
    if (known)
      return sameRecord(known.get({ plain: true }), record, bushId)
        ? { id: record.id, status: 'already' }
        : refuse('Another record has this id.');
    if (
      'treeId' in record &&
      record.kind !== 'entry' &&
      !(await TreeRecord.findOne({ where: { id: record.treeId, bushId }, attributes: ['id'] }))
    )
      return refuse('The tree is not in this bush.');
    const pointer = await pointsAstray(record, bushId);
    if (pointer) return refuse(pointer);
    if (record.kind === 'entry' || record.kind === 'place') {
      const refusal = await storeInBook(record, bushId, member.id, now);
      if (refusal === 'already') return { id: record.id, status: 'already' };
      return refusal ? refuse(refusal) : { id: record.id, status: 'stored' };
    }
    await model.create(columnsOf(record, bushId, member.id, now));
    return { id: record.id, status: 'stored' };
  } catch (error) {
    if (error instanceof UniqueConstraintError) {
      const known = await model.findByPk(record.id);
      if (known && sameRecord(known.get({ plain: true }), record, bushId)) return { id: record.id, status: 'already' };
      return refuse('Somebody else has corrected this record already. Look at it again.');
    }
    if (error instanceof ForeignKeyConstraintError) return refuse('The tree is not in this bush.');
    throw error;
  }
}

/** A correction must point at a record of its kind and tree; shavings at a hole of their tree, a plot or plan at a stand. */
async function pointsAstray(record: AnyRecord, bushId: string): Promise<string | null> {
  const within = 'treeId' in record ? { bushId, treeId: record.treeId } : { bushId };
  if (
    record.correctsId !== null &&
    !(await tables().work[record.kind].findOne({ where: { id: record.correctsId, ...within } }))
  )
    return 'What it corrects is not there.';
  if (
    record.kind === 'shavings' &&
    !(await tables().work.taphole.findOne({ where: { id: record.tapholeId, ...within } }))
  )
    return 'Its taphole is not there.';
  if (
    'standId' in record &&
    record.kind !== 'entry' &&
    record.standId !== null &&
    !(await StandRow.findOne({ where: { id: record.standId, bushId }, attributes: ['id'] }))
  )
    return 'Its stand is not in this bush.';
  const named = treesNamedIn(record);
  if (named.length > 0) {
    const here = await TreeRecord.count({ where: { bushId, id: named } });
    if (here < named.length) return 'It names a tree that is not in this bush.';
  }
  return null;
}

/** The other trees that a record points at. */
function treesNamedIn(record: AnyRecord): string[] {
  switch (record.kind) {
    case 'crownCard':
      return [...new Set(record.blockers.flatMap(({ treeId }) => treeId ?? []))];
    case 'cut':
      return [...new Set(record.damaged)];
    case 'thinningPlan':
      return [...new Set(record.taken)];
    default:
      return [];
  }
}

/** Records of trees and of the bush are checked by different schemas; the kind says which. */
function schemaFor(candidate: unknown) {
  const kind = (candidate as { kind?: unknown } | null)?.kind;
  return BUSH_RECORD_KINDS.some((k) => k === kind) ? bushRecordSchema : recordSchema;
}

/** A record as a row of its table. */
export function columnsOf(record: AnyRecord, bushId: string, authorId: string, now: Date): Record<string, unknown> {
  const { kind: _kind, ...columns } = record;
  return { ...columns, recordedAt: new Date(record.recordedAt), bushId, authorId, storedAt: now };
}

/** Stores many records that were checked before, in as few statements as the packet allows. */
export async function storeMany(
  records: readonly AnyRecord[],
  bushId: string,
  authorId: string,
  now: Date,
  transaction: Transaction
): Promise<void> {
  for (const kind of [...RECORD_KINDS, ...BUSH_RECORD_KINDS]) {
    const rows = records.filter((r) => r.kind === kind).map((r) => columnsOf(r, bushId, authorId, now));
    for (let i = 0; i < rows.length; i += 2000)
      await tables().work[kind].bulkCreate(rows.slice(i, i + 2000), { transaction });
  }
}

/** All records of a bush, or of some of its trees, by tree. */
export async function recordsByTree(
  bushId: string,
  options: { readonly treeIds?: readonly string[]; readonly kinds?: readonly RecordKind[] } = {}
): Promise<Map<string, WorkRecord[]>> {
  const where = options.treeIds ? { bushId, treeId: [...options.treeIds] } : { bushId };
  const byTree = new Map<string, WorkRecord[]>();
  await Promise.all(
    (options.kinds ?? RECORD_KINDS).map(async (kind) => {
      const rows = (await tables().work[kind].findAll({ where, raw: true })) as unknown as Record<string, unknown>[];
      for (const row of rows) {
        const record = { ...recordOf(kind, row), authorId: row.authorId as string };
        const list = byTree.get(record.treeId);
        if (list) list.push(record);
        else byTree.set(record.treeId, [record]);
      }
    })
  );
  return byTree;
}

/** All records of the bush as a whole. */
export async function bushRecordsOf(bushId: string): Promise<BushRecord[]> {
  const records: BushRecord[] = [];
  for (const kind of BUSH_RECORD_KINDS) {
    const rows = (await tables().work[kind].findAll({ where: { bushId }, raw: true })) as unknown as Record<
      string,
      unknown
    >[];
    for (const row of rows) records.push({ ...recordOf(kind, row), authorId: row.authorId as string });
  }
  return records;
}

/** The columns of each kind, and how what the database gives back becomes what was put in. */
const OWN_COLUMNS = Object.fromEntries(
  [...RECORD_KINDS, ...BUSH_RECORD_KINDS].map((kind) => [
    kind,
    Object.entries(WORK_TABLES[kind].columns()).map(([name, column]) => {
      const { type } = column as ModelAttributeColumnOptions;
      return { name, json: type === DataTypes.JSON, flag: type === DataTypes.BOOLEAN };
    })
  ])
) as Record<AnyRecord['kind'], { name: string; json: boolean; flag: boolean }[]>;

/** A row of a table as the record it is. Rows were checked on their way in. */
export function recordOf<K extends AnyRecord['kind']>(
  kind: K,
  row: Record<string, unknown>
): Extract<AnyRecord, { kind: K }> {
  const record: Record<string, unknown> = {
    kind,
    id: row.id,
    ...(row.treeId === undefined ? {} : { treeId: row.treeId }),
    on: row.on,
    recordedAt: (row.recordedAt as Date).toISOString(),
    correctsId: row.correctsId,
    withdrawn: Boolean(row.withdrawn)
  };
  for (const { name, json, flag } of OWN_COLUMNS[kind]) {
    const value = row[name];
    record[name] =
      json && typeof value === 'string' ? JSON.parse(value) : flag && value !== null ? Boolean(value) : value;
  }
  return record as Extract<AnyRecord, { kind: K }>;
}

function sameRecord(row: Record<string, unknown>, record: AnyRecord, bushId: string): boolean {
  return (
    row.bushId === bushId &&
    canonical(recordOf(record.kind, row)) ===
      canonical({ ...record, recordedAt: new Date(record.recordedAt).toISOString() })
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

function firstIssue(error: z.ZodError): string {
  const issue = error.issues[0]!;
  const where = issue.path.join('.');
  return where ? `${where}: ${issue.message}` : issue.message;
}
