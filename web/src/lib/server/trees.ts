import type { Tree, WorkRecord } from '@baumkin/core/records';
import type { PositionQuality } from '@baumkin/core/stand';

import { Op, type InferAttributes, type Transaction, type WhereOptions } from 'sequelize';

import { writeToBush } from './bushWrite.ts';
import { TreeRecord } from './db/index.ts';
import { recordsByTree } from './recordRows.ts';
import { storeSteps, walkOf } from './treeRegistry.ts';

/**
 * The trees of a bush in walking order; those that were taken out of the registry are not among them.
 * @param which of them; all where nothing is said
 */
export async function treesOf(
  bushId: string,
  { which = {}, transaction }: { readonly which?: WhereOptions; readonly transaction?: Transaction } = {}
): Promise<Tree[]> {
  const rows = await TreeRecord.findAll({
    where: { bushId, tag: { [Op.ne]: null }, ...which },
    order: [
      ['walkOrder', 'ASC'],
      ['id', 'ASC']
    ],
    raw: true,
    transaction
  });
  return rows.flatMap((row) => treeOf(row) ?? []);
}

/** A row of the registry as the tree it tells of; null where it was taken out. */
export function treeOf(row: InferAttributes<TreeRecord>): Tree | null {
  const { bushId: _bush, tagKey: _key, tag, ...rest } = row;
  return tag === null
    ? null
    : { ...rest, tag, tagged: Boolean(row.tagged), positionQuality: row.positionQuality as PositionQuality | null };
}

/** Everything recorded of one tree; null when it is not in this bush. */
export async function treeLife(bushId: string, treeId: string): Promise<WorkRecord[] | null> {
  if (!(await TreeRecord.findOne({ where: { id: treeId, bushId }, attributes: ['id'] }))) return null;
  return (await recordsByTree(bushId, { treeIds: [treeId] })).get(treeId) ?? [];
}

/**
 * Puts the trees of a bush into a new walking order. Trees that came since the order was made follow at the end.
 * @param order ids of trees of this bush
 */
export async function reorderWalk(bushId: string, order: readonly string[]): Promise<void> {
  await writeToBush(bushId, async (write) => {
    const known = (await walkOf(bushId, write.transaction)).map(({ id }) => id);
    const here = new Set(known);
    const wished = new Set(order.filter((id) => here.has(id)));
    await storeSteps(bushId, [...wished, ...known.filter((id) => !wished.has(id))], write.transaction);
    write.touches('walk');
  });
}
