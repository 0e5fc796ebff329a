import {
  bushRecordSchema,
  recordSchema,
  type BushRecord,
  type Entry,
  type RecordInput,
  type TreeRow,
  type WorkRecord
} from '@baumkin/core/records';

/** What is the same for every record, and what may be left out of a draft of one. */
type Given = 'id' | 'treeId' | 'recordedAt' | 'authorId';
type Optional = 'on' | 'correctsId' | 'withdrawn';
type DraftOf<R> = R extends unknown
  ? Omit<R, Given | Optional> & { readonly on?: string; readonly correctsId?: string; readonly withdrawn?: boolean }
  : never;

/** A record of a tree, without its id, moment, tree and author. */
export type Draft = DraftOf<RecordInput>;
/** A record of the bush as a whole, without its id, moment and author. */
export type BushDraft = DraftOf<BushRecord>;

/** Who writes a draft down, and on which day. */
export interface Writer {
  readonly authorId: string;
  readonly today: string;
}

const stamped = (today: string) => ({ on: today, id: crypto.randomUUID(), recordedAt: new Date().toISOString() });

/** A draft as a record, checked. @throws ZodError */
export function writeDown(treeId: string, draft: Draft, { authorId, today }: Writer): WorkRecord {
  return { ...recordSchema.parse({ ...stamped(today), ...draft, treeId }), authorId };
}

/** A draft as a record of the bush, checked. @throws ZodError */
export function writeDownOfBush(draft: BushDraft, { authorId, today }: Writer): BushRecord {
  return { ...bushRecordSchema.parse({ ...stamped(today), ...draft }), authorId };
}

/** The line of a tree as an entry in the place of its last, to be changed. */
export function lineDraft({ tag, tagged, standId, stemOf }: TreeRow, entry: Entry | null) {
  return {
    kind: 'entry' as const,
    tag,
    tagged,
    standId,
    stemOf,
    afterId: null,
    note: '',
    ...(entry ? { correctsId: entry.id } : {})
  };
}
