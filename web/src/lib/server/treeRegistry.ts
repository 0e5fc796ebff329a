import {
  effectiveRecords,
  registryLine,
  tagKey,
  type Entry,
  type Tree,
  type TreePlace,
  type WorkRecord
} from '@baumkin/core/records';
import { randomUUID } from 'node:crypto';
import { Op, QueryTypes, type Transaction } from 'sequelize';

import { Bush, StandRow, tables, TreeRecord } from './db/index.ts';
import { recordOf, rowOf, type Writing } from './recordRows.ts';

/**
 * Stores an entry or a place of a tree and brings the tree's line in the registry up to date, both or neither.
 * @returns a sentence for people where it was refused; 'already' when it came twice at once; null when it is stored
 */
export async function storeInRegistry(record: Entry | TreePlace, by: Writing): Promise<string | null> {
  const { bushId } = by;
  return tables().sequelize.transaction(async (transaction): Promise<string | null> => {
    // Two at a time could both think a tag free, or walk two trees at one place.
    await Bush.findByPk(bushId, { transaction, lock: true });
    if (await tables().work[record.kind].findByPk(record.id, { transaction })) return 'already';
    const tree = await TreeRecord.findOne({ where: { id: record.treeId, bushId }, transaction });
    if (record.kind === 'place') {
      if (!tree) return 'The tree is not in this bush.';
    } else {
      const refusal = await mayEnter(record, tree, bushId, transaction);
      if (refusal) return refusal;
      if (!tree)
        await TreeRecord.create(
          { ...NOWHERE, id: record.treeId, bushId, walkOrder: await stepOnWalk(record, bushId, transaction) },
          { transaction }
        );
    }
    await tables().work[record.kind].create(rowOf(record, by), { transaction });
    await TreeRecord.update(await lineOf(record.treeId, transaction), { where: { id: record.treeId }, transaction });
    return null;
  });
}

const NOWHERE = {
  tag: null,
  tagKey: null,
  standId: null,
  stemOf: null,
  tagged: true,
  eastM: null,
  northM: null,
  positionQuality: null,
  positionAccuracyM: null
};

async function mayEnter(
  entry: Entry,
  tree: TreeRecord | null,
  bushId: string,
  transaction: Transaction
): Promise<string | null> {
  if (!tree && entry.correctsId !== null) return 'The tree is not in this bush.';
  if (tree?.tag && entry.correctsId === null) return 'This tree is in the book already.';
  if (entry.withdrawn) return null;
  const holder = await TreeRecord.findOne({
    where: { bushId, tagKey: tagKey(entry.tag), id: { [Op.ne]: entry.treeId } },
    attributes: ['id', 'tag'],
    transaction
  });
  if (holder)
    return holder.tag === entry.tag
      ? `The tag ${entry.tag} hangs on another tree already.`
      : `The tag ${entry.tag} cannot be told from ${holder.tag}, which hangs on another tree already.`;
  if (entry.standId && !(await StandRow.findOne({ where: { id: entry.standId, bushId }, transaction })))
    return 'Its stand is not in this bush.';
  if (entry.stemOf) {
    const base = await TreeRecord.findOne({ where: { id: entry.stemOf, bushId }, transaction });
    if (!base || entry.stemOf === entry.treeId) return 'The stem whose base it shares is not in this bush.';
    if (base.stemOf !== null) return 'Name the first stem of the base, not another one of its stems.';
    if (await TreeRecord.findOne({ where: { bushId, stemOf: entry.treeId }, attributes: ['id'], transaction }))
      return 'Other stems share its base already.';
  }
  return null;
}

/** Takes all trees of a stand out of it before it is erased: each gets an entry in the place of its last that says so. */
export async function leaveStand(standId: string, by: Writing, transaction: Transaction): Promise<void> {
  const { bushId, now } = by;
  const trees = await TreeRecord.findAll({ where: { bushId, standId }, attributes: ['id'], transaction });
  for (const { id: treeId } of trees) {
    const last = await lastOf('entry', treeId, transaction);
    if (last)
      await tables().work.entry.create(
        rowOf(
          {
            ...last,
            id: randomUUID(),
            on: now.toISOString().slice(0, 10),
            recordedAt: now.toISOString(),
            standId: null,
            correctsId: last.id
          },
          by
        ),
        { transaction }
      );
  }
  await TreeRecord.update({ standId: null }, { where: { bushId, standId }, transaction });
}

/** Makes room on the walk right after a tree, or finds the end of it. */
async function stepOnWalk({ afterId }: Entry, bushId: string, transaction: Transaction): Promise<number> {
  const after = afterId && (await TreeRecord.findOne({ where: { id: afterId, bushId }, transaction }));
  if (!after)
    return (
      1 + ((await TreeRecord.max<number | null, TreeRecord>('walkOrder', { where: { bushId }, transaction })) ?? -1)
    );
  await tables().sequelize.query('UPDATE trees SET walkOrder = walkOrder + 1 WHERE bushId = ? AND walkOrder > ?', {
    replacements: [bushId, after.walkOrder],
    type: QueryTypes.UPDATE,
    transaction
  });
  return after.walkOrder + 1;
}

async function lastOf<K extends 'entry' | 'place'>(
  kind: K,
  treeId: string,
  transaction: Transaction
): Promise<Extract<WorkRecord, { kind: K }> | null> {
  const rows = (await tables().work[kind].findAll({ where: { treeId }, raw: true, transaction })) as unknown as Record<
    string,
    unknown
  >[];
  return (effectiveRecords(rows.map((row) => recordOf(kind, row))).at(-1) as Extract<WorkRecord, { kind: K }>) ?? null;
}

async function lineOf(treeId: string, transaction: Transaction) {
  const line = registryLine({
    entry: await lastOf('entry', treeId, transaction),
    place: await lastOf('place', treeId, transaction)
  });
  return line ? { ...line, tagKey: tagKey(line.tag) } : { tag: null, tagKey: null };
}

/**
 * Stores many trees as lines of the registry; their entries and places are stored with the other records. Trees of the walk
 * without a line were taken out of the registry: they keep their records.
 * @param from the step of the walk at which these begin
 */
export async function storeLines(
  walk: readonly string[],
  lines: readonly Tree[],
  { bushId, from }: { readonly bushId: string; readonly from: number },
  transaction: Transaction
): Promise<void> {
  const byId = new Map(lines.map((line) => [line.id, line]));
  const rows = walk.map((id, i) => {
    const line = byId.get(id);
    return { ...NOWHERE, ...line, tagKey: line ? tagKey(line.tag) : null, id, bushId, walkOrder: from + i };
  });
  for (let i = 0; i < rows.length; i += 2000) await TreeRecord.bulkCreate(rows.slice(i, i + 2000), { transaction });
}
