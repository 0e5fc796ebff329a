import { ANSWERS, isAddressed } from '@baumkin/core/bush';
import {
  effectiveRecords,
  mayTakeBack,
  pointersIn,
  recordKindOf,
  type AnyRecord,
  type AnyRecordKind,
  type Question,
  type Role
} from '@baumkin/core/records';
import { Op } from 'sequelize';

import type { BushWrite } from './bushWrite.ts';
import { StandRow, tables, TreeRecord } from './db/index.ts';
import { askWhereTheyClash } from './questions.ts';
import { recordsByTree, recordsWhere, rowOf, sameRecord, storeMany, type Writing } from './recordRows.ts';
import { TreeRegistry } from './treeRegistry.ts';

type Row = Record<string, unknown>;

/** What became of a record: nothing to do where it came twice. */
export type Taken = 'stored' | 'already' | { readonly refused: string };

/** Who writes records down. */
export interface Writer {
  readonly id: string;
  readonly role: Role;
}

/** What was taken back comes this long after what it takes back at most, ms: two weeks of work out of reach. Working assumption. */
const LATEST_MS = 14 * 86_400_000;

const refuse = (refused: string): Taken => ({ refused });

/**
 * Records on their way in. All that they name is read at once; each is then judged by itself, those before it counting as
 * stored already; and those that were taken are kept at once.
 */
export class RecordBatch {
  readonly #rows = new Map<AnyRecordKind, Map<string, Row>>();
  readonly #corrected = new Set<string>();
  readonly #asked = new Map<
    string,
    { readonly about: Question['about']; readonly holes: readonly { readonly authorId?: string }[] }
  >();
  readonly #trees = new Set<string>();
  readonly #stands = new Set<string>();
  readonly #taken: AnyRecord[] = [];
  readonly #by: Writing;
  readonly #role: Role;
  readonly #write: BushWrite;
  #registry!: TreeRegistry;

  private constructor(write: BushWrite, { id, role }: Writer) {
    this.#write = write;
    this.#role = role;
    this.#by = { bushId: write.bush.id, authorId: id, now: write.now };
  }

  /** @param records that are well formed, and that their writer may write */
  static async open(records: readonly AnyRecord[], writer: Writer, write: BushWrite): Promise<RecordBatch> {
    const batch = new RecordBatch(write, writer);
    const named = records.flatMap((record) => pointersIn(record));
    await batch.#readRecords(records, named);
    await batch.#readGround(records, named);
    await batch.#readAsked(records);
    const ofRegistry = records.flatMap((record) => (record.kind === 'entry' || record.kind === 'place' ? record : []));
    batch.#registry = await TreeRegistry.open(ofRegistry, write);
    return batch;
  }

  /** What is stored under these ids, of whatever bush; what they correct, and point at; and what corrects the same. */
  async #readRecords(
    records: readonly AnyRecord[],
    named: readonly { readonly to: string; readonly id: string }[]
  ): Promise<void> {
    const asked = new Map<AnyRecordKind, { ids: Set<string>; corrects: Set<string> }>();
    const of = (kind: AnyRecordKind) => {
      const known = asked.get(kind) ?? { ids: new Set<string>(), corrects: new Set<string>() };
      asked.set(kind, known);
      return known;
    };
    for (const { kind, id, correctsId } of records) {
      of(kind).ids.add(id);
      if (correctsId === null) continue;
      of(kind).ids.add(correctsId);
      of(kind).corrects.add(correctsId);
    }
    for (const { to, id } of named) if (to !== 'tree' && to !== 'stand') of(to as AnyRecordKind).ids.add(id);
    for (const [kind, { ids, corrects }] of asked) {
      const where = { [Op.or]: [{ id: [...ids] }, ...(corrects.size > 0 ? [{ correctsId: [...corrects] }] : [])] };
      const rows = (await tables().work[kind].findAll({
        where,
        raw: true,
        transaction: this.#write.transaction
      })) as unknown as Row[];
      this.#rows.set(kind, new Map(rows.map((row) => [row.id as string, row])));
      for (const row of rows) if (row.correctsId !== null) this.#corrected.add(row.correctsId as string);
    }
  }

  /** Trees and stands of this bush among those that are named. */
  async #readGround(
    records: readonly AnyRecord[],
    named: readonly { readonly to: string; readonly id: string }[]
  ): Promise<void> {
    const { bush, transaction } = this.#write;
    const idsOf = (what: string) => named.flatMap(({ to, id }) => (to === what ? id : []));
    const treeIds = new Set([...idsOf('tree'), ...records.flatMap((r) => ('treeId' in r ? r.treeId : []))]);
    const options = { attributes: ['id'], raw: true, transaction };
    for (const [here, model, ids] of [
      [this.#trees, TreeRecord, [...treeIds]],
      [this.#stands, StandRow, idsOf('stand')]
    ] as const)
      if (ids.length > 0)
        for (const { id } of await (model as typeof StandRow).findAll({
          where: { bushId: bush.id, id: ids },
          ...options
        }))
          here.add(id);
  }

  take(record: AnyRecord): Taken {
    const rows = this.#rows.get(record.kind)!;
    const known = rows.get(record.id);
    if (known) return sameRecord(known, record, this.#by.bushId) ? 'already' : refuse('Another record has this id.');
    if ('treeId' in record && record.kind !== 'entry' && !this.#trees.has(record.treeId))
      return refuse('The tree is not in this bush.');
    const astray = this.#astray(record);
    if (astray !== null) return refuse(astray);
    if (record.correctsId !== null && this.#corrected.has(record.correctsId))
      return refuse('Somebody else has corrected this record already. Look at it again.');
    if (record.kind === 'answer' && this.#role !== 'steward') {
      const { about, holes } = this.#asked.get(record.questionId)!;
      if (about === 'proposal') return refuse('That is the steward’s to decide.');
      if (!isAddressed({ about }, holes, { memberId: this.#by.authorId, role: this.#role }))
        return refuse('Whoever wrote it, or a steward, answers that.');
      if (!ANSWERS[about].includes(record.says)) return refuse('That is no answer to this question.');
    }
    if (!this.#mayWithdraw(record))
      return refuse(
        record.kind === 'entry'
          ? 'Only a steward takes a tree out of the book.'
          : 'Only a steward takes back what somebody else wrote, or what was written before yesterday.'
      );
    if (record.kind === 'entry' || record.kind === 'place') {
      const refused = this.#registry.take(record);
      if (refused !== null) return refuse(refused);
      this.#trees.add(record.treeId);
    }
    if (record.correctsId !== null) this.#corrected.add(record.correctsId);
    rows.set(record.id, rowOf(record, this.#by));
    this.#taken.push(record);
    return 'stored';
  }

  /** What the questions are about that crew answers: the holes of each that stand, in the order in which they were written. */
  async #readAsked(records: readonly AnyRecord[]): Promise<void> {
    const answers = records.filter((record) => record.kind === 'answer');
    if (answers.length === 0 || this.#role === 'steward') return;
    const { bush, transaction } = this.#write;
    const id = answers.map(({ questionId }) => questionId);
    for (const question of await recordsWhere('question', { bushId: bush.id, id }, { transaction })) {
      const { ofTreeId, tapholeIds, about } = question;
      const lives = await recordsByTree(bush.id, { treeIds: [ofTreeId], kinds: ['taphole'], transaction });
      const standing = effectiveRecords(lives.get(ofTreeId) ?? []).filter((hole) => tapholeIds.includes(hole.id));
      this.#asked.set(question.id, { about, holes: standing });
    }
  }

  /**
   * Whoever takes something back had the right to when she did, which her device says: it may come late, but no later than phones are
   * out of reach.
   */
  #mayWithdraw(record: AnyRecord): boolean {
    const { kind, correctsId } = record;
    if (!record.withdrawn || correctsId === null) return true;
    const { authorId, recordedAt, storedAt } = this.#rows.get(kind)!.get(correctsId)! as Record<string, Date | string>;
    const isLate = this.#by.now.getTime() - new Date(storedAt!).getTime() > LATEST_MS;
    if (isLate && this.#role !== 'steward') return false;
    const written = { kind, authorId: authorId as string, recordedAt: new Date(recordedAt!).toISOString() };
    const today = record.recordedAt.slice(0, 10);
    return mayTakeBack(written, { memberId: this.#by.authorId, role: this.#role, today });
  }

  /** A correction must correct a record of its kind and tree, and what a record names must be there. */
  #astray(record: AnyRecord): string | null {
    if (record.correctsId !== null && !this.#isHere(record.kind, record.correctsId, record))
      return 'What it corrects is not there.';
    for (const { to, id } of pointersIn(record)) {
      if (to === 'tree') {
        if (!this.#trees.has(id)) return 'It names a tree that is not in this bush.';
      } else if (to === 'stand') {
        if (!this.#stands.has(id)) return 'Its stand is not in this bush.';
      } else {
        const { kind, label } = recordKindOf(to as AnyRecordKind);
        if (!this.#isHere(kind, id, record)) return `Its ${label} is not there.`;
      }
    }
    return null;
  }

  /** Is there such a record, of the same tree where this one belongs to a tree? */
  #isHere(kind: AnyRecordKind, id: string, from: AnyRecord): boolean {
    const row = this.#rows.get(kind)?.get(id);
    return row?.bushId === this.#by.bushId && (!('treeId' in from) || row.treeId === from.treeId);
  }

  /** Stores what was taken. */
  async keep(): Promise<void> {
    const { transaction } = this.#write;
    await this.#registry.keep();
    await storeMany(this.#taken, this.#by, transaction);
    this.#write.records(this.#taken);
    await askWhereTheyClash(this.#taken, this.#by, this.#write);
  }
}
