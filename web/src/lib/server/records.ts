import {
  BUSH_RECORD_KINDS,
  bushRecordSchema,
  fromOlderRecord,
  isBushRecordKind,
  pointersIn,
  RECORD_KINDS,
  recordKindOf,
  recordSchema,
  type AnyRecord,
  type AnyRecordKind,
  type BushRecord,
  type RecordKindName,
  type Role,
  type WorkRecord
} from '@baumkin/core/records';
import { ForeignKeyConstraintError, UniqueConstraintError, type Transaction } from 'sequelize';
import { z } from 'zod';

import { storeInRegistry } from './treeRegistry.ts';
import { StandRow, tables, TreeRecord } from './db/index.ts';
import { recordOf, rowOf, sameRecord, type Writing } from './recordRows.ts';

/** What became of one record of a batch. */
export interface RecordOutcome {
  readonly id: string | null;
  readonly status: 'stored' | 'already' | 'refused';
  /** a sentence for people, where it was refused */
  readonly reason?: string;
}

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
  const named = fromOlderRecord(candidate);
  const parsed = schemaFor(named).safeParse(named);
  if (!parsed.success) {
    const known = z.object({ id: z.uuid() }).safeParse(candidate);
    return { id: known.success ? known.data.id : null, status: 'refused', reason: firstIssue(parsed.error) };
  }
  const record = parsed.data;
  const refuse = (reason: string): RecordOutcome => ({ id: record.id, status: 'refused', reason });
  const farthest = `${now.getUTCFullYear() + 1}-12-31`;
  if (record.on > farthest) return refuse(`The day ${record.on} lies beyond the next year: look at the year.`);
  if ('season' in record && record.season !== null && record.season > now.getUTCFullYear() + 2)
    return refuse(`The season ${record.season} is far off: look at the year.`);
  if (member.role === 'viewer') return refuse('Viewers look; they do not write.');
  if (member.role !== 'steward' && recordKindOf(record.kind).writer === 'steward')
    return refuse('That is the steward’s to decide.');
  const model = tables().work[record.kind];
  const by = { bushId, authorId: member.id, now };
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
      const refusal = await storeInRegistry(record, by);
      if (refusal === 'already') return { id: record.id, status: 'already' };
      return refusal ? refuse(refusal) : { id: record.id, status: 'stored' };
    }
    await model.create(rowOf(record, by));
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

/** A correction must correct a record of its kind and tree, and what a record names must be there. */
async function pointsAstray(record: AnyRecord, bushId: string): Promise<string | null> {
  const within = 'treeId' in record ? { bushId, treeId: record.treeId } : { bushId };
  const { work } = tables();
  if (record.correctsId !== null && !(await work[record.kind].findOne({ where: { id: record.correctsId, ...within } })))
    return 'What it corrects is not there.';
  const named = pointersIn(record);
  for (const to of new Set(named.map((pointer) => pointer.to))) {
    const ids = [...new Set(named.filter((pointer) => pointer.to === to).map(({ id }) => id))];
    if (to === 'tree') {
      if ((await TreeRecord.count({ where: { bushId, id: ids } })) < ids.length)
        return 'It names a tree that is not in this bush.';
    } else if (to === 'stand') {
      if ((await StandRow.count({ where: { bushId, id: ids } })) < ids.length) return 'Its stand is not in this bush.';
    } else {
      const { kind, label } = recordKindOf(to as AnyRecordKind);
      if ((await work[kind].count({ where: { id: ids, ...within } })) < ids.length) return `Its ${label} is not there.`;
    }
  }
  return null;
}

/** Records of trees and of the bush are checked by different schemas; the kind says which. */
function schemaFor(candidate: unknown) {
  return isBushRecordKind((candidate as { kind?: unknown } | null)?.kind) ? bushRecordSchema : recordSchema;
}

/** Stores many records that were checked before, in as few statements as the packet allows. */
export async function storeMany(records: readonly AnyRecord[], by: Writing, transaction: Transaction): Promise<void> {
  for (const kind of [...RECORD_KINDS, ...BUSH_RECORD_KINDS]) {
    const rows = records.filter((r) => r.kind === kind).map((r) => rowOf(r, by));
    for (let i = 0; i < rows.length; i += 2000)
      await tables().work[kind].bulkCreate(rows.slice(i, i + 2000), { transaction });
  }
}

/** All records of a bush, or of some of its trees, by tree. */
export async function recordsByTree(
  bushId: string,
  options: { readonly treeIds?: readonly string[]; readonly kinds?: readonly RecordKindName[] } = {}
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

function firstIssue(error: z.ZodError): string {
  const issue = error.issues[0]!;
  const where = issue.path.join('.');
  return where ? `${where}: ${issue.message}` : issue.message;
}
