import type { RingPriors, SizeExpectation } from '@baumkin/core/measure';
import { deriveBush, LINE_KINDS, treeRow, type Tree, type TreeRow, type WorkRecord } from '@baumkin/core/records';
import type { PositionQuality } from '@baumkin/core/stand';

import { Op, QueryTypes } from 'sequelize';

import { Bush, tables, TreeRecord } from './db/index.ts';
import { recordsByTree } from './records.ts';

/** The trees of a bush in walking order; those that were taken out of the registry are not among them. */
export async function treesOf(bushId: string): Promise<Tree[]> {
  const rows = await TreeRecord.findAll({
    where: { bushId, tag: { [Op.ne]: null } },
    order: [
      ['walkOrder', 'ASC'],
      ['id', 'ASC']
    ]
  });
  return rows.map((row) => ({
    id: row.id,
    tag: row.tag!,
    tagged: row.tagged,
    standId: row.standId,
    stemOf: row.stemOf,
    walkOrder: row.walkOrder,
    eastM: row.eastM,
    northM: row.northM,
    positionQuality: row.positionQuality as PositionQuality | null,
    positionAccuracyM: row.positionAccuracyM
  }));
}

/**
 * One line for each tree of a bush, and the ring widths to expect there: a fixed number of queries, however many trees.
 */
export async function treeRows(
  bushId: string,
  season: number,
  today: string
): Promise<{ rows: TreeRow[]; priors: RingPriors; sizes: SizeExpectation | null }> {
  const [trees, records] = await Promise.all([treesOf(bushId), recordsByTree(bushId, { kinds: LINE_KINDS })]);
  const { states, priors, sizes } = deriveBush(
    trees.map((tree) => records.get(tree.id) ?? []),
    { season, today }
  );
  return { rows: trees.map((tree, i) => treeRow(tree, states[i]!)), priors, sizes };
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
  const { sequelize } = tables();
  await sequelize.transaction(async (transaction) => {
    // Locked: two changes at a time would leave a mixture of both orders.
    await Bush.findByPk(bushId, { transaction, lock: true });
    const known = await TreeRecord.findAll({
      where: { bushId },
      attributes: ['id'],
      order: [
        ['walkOrder', 'ASC'],
        ['id', 'ASC']
      ],
      transaction,
      raw: true
    });
    const here = new Set(known.map((tree) => tree.id));
    const wished = new Set(order.filter((id) => here.has(id)));
    const ids = [...wished, ...known.map((tree) => tree.id).filter((id) => !wished.has(id))];
    for (let i = 0; i < ids.length; i += 1000) {
      const part = ids.slice(i, i + 1000);
      await sequelize.query(
        `UPDATE trees SET walkOrder = CASE id ${part.map(() => 'WHEN ? THEN ?').join(' ')} END WHERE bushId = ? AND id IN (?)`,
        {
          replacements: [...part.flatMap((id, k) => [id, i + k]), bushId, part],
          type: QueryTypes.UPDATE,
          transaction
        }
      );
    }
  });
}
