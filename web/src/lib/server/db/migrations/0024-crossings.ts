import { DataTypes, QueryTypes, type QueryInterface } from 'sequelize';

import { addColumnOnce } from './tools.ts';

/** How lines cross paths, overhead or through a culvert; and since when they run as they are drawn. */
export async function up(query: QueryInterface): Promise<void> {
  await addColumnOnce(query, 'pipeLines', 'runsSince', { type: DataTypes.STRING(40), allowNull: true });
  await addColumnOnce(query, 'pipeLines', 'crossings', { type: DataTypes.JSON, allowNull: true });
  await query.sequelize.query("UPDATE pipeLines SET crossings = '[]' WHERE crossings IS NULL", {
    type: QueryTypes.RAW
  });
  await query.changeColumn('pipeLines', 'crossings', { type: DataTypes.JSON, allowNull: false });
}
