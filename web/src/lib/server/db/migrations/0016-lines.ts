import { QueryTypes, type QueryInterface } from 'sequelize';

import { addIndexOnce } from './tools.ts';

/**
 * Kept lines hold on whatever day, and whatever is expected of the bush's trees. What is swept is found by its day. The index
 * of the trees of a kind of record is called the same in every table: tables that were renamed had kept the older name.
 */
export async function up(query: QueryInterface): Promise<void> {
  const { sequelize } = query;
  for (const table of ['treeLines', 'lineBooks'])
    await sequelize.query(`DELETE FROM ${table}`, { type: QueryTypes.DELETE });
  const books = await query.describeTable('lineBooks');
  for (const column of ['day', 'expects']) if (column in books) await query.removeColumn('lineBooks', column);
  const lines = await query.describeTable('treeLines');
  if ('says' in lines) await query.renameColumn('treeLines', 'says', 'grounds');
  await addIndexOnce(query, 'signInAttempts', ['at']);
  await addIndexOnce(query, 'sessions', ['expiresAt']);

  const tables = await sequelize.query<{ name: string }>(
    `SELECT TABLE_NAME AS name FROM information_schema.COLUMNS
     WHERE TABLE_SCHEMA = DATABASE() AND COLUMN_NAME IN ('bushId', 'treeId', 'correctsId')
     GROUP BY TABLE_NAME HAVING COUNT(*) = 3`,
    { type: QueryTypes.SELECT }
  );
  for (const { name } of tables) {
    const indexes = (await query.showIndex(name)) as { name: string; fields: { attribute: string }[] }[];
    const wanted = `${name}_bushId_treeId`;
    const present = indexes.find(({ fields }) => fields.map(({ attribute }) => attribute).join() === 'bushId,treeId');
    if (!present) await addIndexOnce(query, name, ['bushId', 'treeId']);
    else if (present.name !== wanted)
      await sequelize.query(`ALTER TABLE ${name} RENAME INDEX ${present.name} TO ${wanted}`);
  }
}
