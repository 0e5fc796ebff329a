import {
  bushRecordSchema,
  fromOlderRecord,
  isBushRecordKind,
  recordKindOf,
  recordSchema,
  type AnyRecord
} from '@baumkin/core/records';
import { z } from 'zod';

import { notedRefusal } from './audit.ts';
import { writeToBush } from './bushWrite.ts';
import { RecordBatch, type Writer } from './recordBatch.ts';

/** What became of one record of a batch. */
export interface RecordOutcome {
  readonly id: string | null;
  readonly status: 'stored' | 'already' | 'refused';
  /** a sentence for people, where it was refused */
  readonly reason?: string;
}

/**
 * Stores records of work. Each stands by itself: one that is refused does not hold up the others. Sending a record
 * twice stores it once; a different record under a known id is refused. All of a batch are stored in one transaction, with
 * a number of queries that does not depend on how many they are.
 * @param raw records as they came in, not yet checked
 */
export async function storeRecords(
  bushId: string,
  member: Writer,
  raw: readonly unknown[],
  now = new Date()
): Promise<RecordOutcome[]> {
  const judged = raw.map((candidate) => judge(candidate, member, now));
  const records = judged.flatMap((each) => ('record' in each ? each.record : []));
  await noteNotHers(bushId, member, judged, now);
  if (records.length === 0) return judged as RecordOutcome[];
  return writeToBush(
    bushId,
    async (write) => {
      const batch = await RecordBatch.open(records, member, write);
      const outcomes = judged.map((each): RecordOutcome => {
        if (!('record' in each)) return each;
        const { id } = each.record;
        const taken = batch.take(each.record);
        return typeof taken === 'string' ? { id, status: taken } : { id, status: 'refused', reason: taken.refused };
      });
      await batch.keep();
      return outcomes;
    },
    now
  );
}

/** What a role may not write, in words. */
const NOT_HERS = { viewer: 'Viewers look; they do not write.', crew: 'That is the steward’s to decide.' } as const;

/** The bush's log tells who tried to write what is not hers to write. */
async function noteNotHers(bushId: string, { id, role }: Writer, judged: readonly object[], now: Date): Promise<void> {
  const says: readonly string[] = Object.values(NOT_HERS);
  const many = judged.filter((each) => 'reason' in each && says.includes(String(each.reason))).length;
  if (many > 0) await notedRefusal({ bushId, authorId: id, at: now }, role, 'Write down what is not theirs to write');
}

/** Judges what came in by itself: is it a record, may it be of its day, may this member write it? */
function judge(candidate: unknown, { role }: Writer, now: Date): RecordOutcome | { readonly record: AnyRecord } {
  const named = fromOlderRecord(candidate);
  const parsed = schemaFor(named).safeParse(named);
  if (!parsed.success) {
    const known = z.object({ id: z.uuid() }).safeParse(candidate);
    return { id: known.success ? known.data.id : null, status: 'refused', reason: firstIssue(parsed.error) };
  }
  const record = parsed.data;
  const refuse = (reason: string): RecordOutcome => ({ id: record.id, status: 'refused', reason });
  if (record.on > `${now.getUTCFullYear() + 1}-12-31`)
    return refuse(`The day ${record.on} lies beyond the next year: look at the year.`);
  if ('season' in record && record.season !== null && record.season > now.getUTCFullYear() + 2)
    return refuse(`The season ${record.season} is far off: look at the year.`);
  if (role === 'viewer') return refuse(NOT_HERS.viewer);
  if (role !== 'steward' && recordKindOf(record.kind).writer === 'steward') return refuse(NOT_HERS.crew);
  return { record };
}

/** Records of trees and of the bush are checked by different schemas; the kind says which. */
function schemaFor(candidate: unknown) {
  return isBushRecordKind((candidate as { kind?: unknown } | null)?.kind) ? bushRecordSchema : recordSchema;
}

function firstIssue(error: z.ZodError): string {
  const issue = error.issues[0]!;
  const where = issue.path.join('.');
  return where ? `${where}: ${issue.message}` : issue.message;
}
