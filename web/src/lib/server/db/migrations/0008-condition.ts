import { DataTypes, QueryTypes, type QueryInterface } from 'sequelize';

import { addColumnOnce } from './tools.ts';

/** What was seen on a trunk beside its crown: defects, hazards, who lives there. Older assessments saw none of it. */
export async function up(query: QueryInterface): Promise<void> {
  for (const column of ['defects', 'hazards', 'wildlife']) {
    await addColumnOnce(query, 'assessments', column, { type: DataTypes.JSON, allowNull: true });
    await query.sequelize.query(`UPDATE assessments SET ${column} = '[]' WHERE ${column} IS NULL`, {
      type: QueryTypes.UPDATE
    });
  }
}
