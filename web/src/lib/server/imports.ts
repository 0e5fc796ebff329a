import { BUSH_RECORD_KINDS, effectiveRecords, type WorkRecord } from '@baumkin/core/records';
import type { ImportPlan } from '@baumkin/core/exchange';
import { col, Op, where, type Transaction } from 'sequelize';
import { z } from 'zod';

import { noted } from './audit.ts';
import type { BushAccess } from './bushes.ts';
import { writeToBush, type BushWrite } from './bushWrite.ts';
import { BushChange, StandRow, tables, TreeRecord, User } from './db/index.ts';
import { RecordBatch } from './recordBatch.ts';
import { Refused } from './refusals.ts';
import { recordsByTree, recordsWhere } from './recordRows.ts';
import { uuidFrom } from './uuidFrom.ts';

/* An import is a thing with a name, who brought it, when, and what it brought: it can be taken back whole. */

/** Kinds of records that files bring. */
const BROUGHT = ['entry', 'place', 'determination', 'reading', 'taphole', 'remark'] as const;
/** Ids that are looked up at once. */
const AT_ONCE = 2000;

const importSchema = z.object({
  import: z.object({
    id: z.uuid(),
    name: z.string(),
    /** ids that it used: the n-th follows from its own and from n */
    ids: z.number().int(),
    /** stands that were not there before; earlier releases did not tell them apart */
    newStands: z.array(z.uuid()).default([]),
    counts: z.record(z.string(), z.number())
  })
});
const backSchema = z.object({ importTakenBack: z.uuid() });

/** Something that a file brought into a bush. */
export interface BroughtIn {
  readonly id: string;
  readonly name: string;
  readonly at: string;
  readonly by: string;
  readonly counts: Readonly<Record<string, number>>;
  readonly takenBack: boolean;
}

/** Ids of an import, one after the other: what it brought is known by them for ever. */
export class ImportIds {
  many = 0;
  constructor(readonly importId: string) {}
  readonly next = (): string => idOf(this.importId, this.many++);
}
const idOf = (importId: string, n: number) => uuidFrom(`import ${importId} ${n}`);

/** Writes an import down, in the log of the bush. */
export async function noteImport(
  ids: ImportIds,
  name: string,
  { bushId, authorId, at, more }: { bushId: string; authorId: string; at: Date; more: object },
  { counts, transaction }: { readonly counts: ImportPlan['counts']; readonly transaction: Transaction }
): Promise<void> {
  const brought = { import: { id: ids.importId, name, ids: ids.many, counts, ...more } };
  await noted({ bushId, authorId, at }, 'import', brought, transaction);
}

async function changesOf(bushId: string): Promise<BushChange[]> {
  return BushChange.findAll({
    where: { bushId, kind: ['import', 'importBack'] },
    order: [['id', 'DESC']]
  });
}

/** What files brought into a bush, the newest first. */
export async function importsOf(bushId: string): Promise<BroughtIn[]> {
  const changes = await changesOf(bushId);
  const back = new Set(changes.flatMap(({ settings }) => backSchema.safeParse(settings).data?.importTakenBack ?? []));
  const people = await User.findAll({
    where: { id: [...new Set(changes.map(({ authorId }) => authorId))] },
    attributes: ['id', 'displayName']
  });
  const nameOf = new Map(people.map(({ id, displayName }) => [id, displayName]));
  return changes.flatMap(({ settings, at, authorId }): BroughtIn[] => {
    const told = importSchema.safeParse(settings).data?.import;
    if (!told) return [];
    const { id, name, counts } = told;
    return [{ id, name, counts, at: at.toISOString(), by: nameOf.get(authorId) ?? '', takenBack: back.has(id) }];
  });
}

/** What was taken back of an import, and what of it stays because somebody worked on it since. */
export interface TakenBack {
  readonly records: number;
  readonly trees: number;
  readonly treesThatStay: number;
}

/**
 * Takes an import back: each of its records is withdrawn by one of the steward's own, and trees that it brought leave the book.
 * A tree on which anything was written since keeps all of it, and so does a stand that was drawn anew since, or is somebody’s.
 * @throws Refused where there is no such import, or it was taken back already
 */
export async function takeBackImport(
  bush: BushAccess,
  memberId: string,
  importId: string,
  now = new Date()
): Promise<TakenBack> {
  return writeToBush(
    bush.id,
    async (write) => {
      const { transaction } = write;
      const changes = await changesOf(bush.id);
      const told = changes.find(({ settings }) => importSchema.safeParse(settings).data?.import.id === importId);
      if (!told) throw new Refused('notHere');
      if (changes.some(({ settings }) => backSchema.safeParse(settings).data?.importTakenBack === importId))
        throw new Refused('takenBackAlready');
      const { ids: many, newStands } = importSchema.parse(told.settings).import;
      const ids = Array.from({ length: many }, (_, n) => idOf(importId, n));
      const own = new Set(ids);
      const treeIds = await treesWith(bush.id, ids, transaction);
      const lives = await recordsByTree(bush.id, { treeIds, transaction });

      const withdrawals: WorkRecord[] = [];
      let [trees, treesThatStay] = [0, 0];
      const since = told.at.toISOString();
      const on = now.toISOString().slice(0, 10);
      for (const treeId of treeIds) {
        const life = lives.get(treeId) ?? [];
        if (life.some(({ id, recordedAt }) => !own.has(id) && (own.has(treeId) || recordedAt >= since))) {
          treesThatStay += 1;
          continue;
        }
        if (own.has(treeId)) trees += 1;
        for (const record of effectiveRecords(life))
          if (own.has(record.id))
            withdrawals.push({
              ...record,
              id: uuidFrom(`back ${record.id}`),
              on,
              recordedAt: now.toISOString(),
              correctsId: record.id,
              withdrawn: true
            });
      }
      const batch = await RecordBatch.open(withdrawals, { id: memberId, role: 'steward' }, write);
      for (const record of withdrawals) {
        const taken = batch.take(record);
        if (typeof taken !== 'string') throw new Refused('notTakenBack', taken.refused);
      }
      await batch.keep();
      await leaveStands(newStands, told.id, write);
      const back = { importTakenBack: importId };
      await noted({ bushId: bush.id, authorId: memberId, at: now }, 'importBack', back, transaction);
      return { records: withdrawals.length, trees, treesThatStay };
    },
    now
  );
}

/**
 * Takes away stands that an import made and that hold nothing: no tree, nothing that was counted or planned in them, and no other shape
 * since.
 */
async function leaveStands(made: readonly string[], changeId: number, write: BushWrite): Promise<void> {
  const { bush, transaction } = write;
  const gone: string[] = [];
  for (const standId of made) {
    const of = { bushId: bush.id, standId };
    const trees = await TreeRecord.count({ where: { ...of, tag: { [Op.ne]: null } }, transaction });
    let held = trees > 0;
    for (const kind of BUSH_RECORD_KINDS) {
      const model = tables().work[kind];
      if (!held && 'standId' in model.getAttributes()) held = (await model.count({ where: of, transaction })) > 0;
    }
    const drawnSince = await BushChange.count({
      where: {
        [Op.and]: [
          { bushId: bush.id, id: { [Op.gt]: changeId } },
          where(col('settings'), { [Op.like]: `%${standId}%` })
        ]
      },
      transaction
    });
    if (!held && drawnSince === 0) gone.push(standId);
  }
  if (gone.length === 0) return;
  await StandRow.destroy({ where: { bushId: bush.id, id: gone }, transaction });
  for (const id of gone) write.shape('stand', id);
  await bush.update({ version: bush.version + 1 }, { transaction });
  write.touches('bush');
}

/** Trees that have a record under one of these ids. */
async function treesWith(bushId: string, ids: readonly string[], transaction: Transaction): Promise<string[]> {
  const trees = new Set<string>();
  for (const kind of BROUGHT)
    for (let i = 0; i < ids.length; i += AT_ONCE)
      for (const { treeId } of await recordsWhere(kind, { bushId, id: ids.slice(i, i + AT_ONCE) }, { transaction }))
        trees.add(treeId);
  return [...trees];
}
