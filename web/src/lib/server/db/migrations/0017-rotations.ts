import { DataTypes, type QueryInterface } from 'sequelize';

import { createRecordTable } from './recordTable.ts';

/** The plan of a trunk's holes. */
export async function up(query: QueryInterface): Promise<void> {
  const json = (allowNull = false) => ({ type: DataTypes.JSON, allowNull });
  await createRecordTable(query, 'rotations', 'tree', {
    season: { type: DataTypes.INTEGER, allowNull: false },
    holes: json(),
    verdict: { type: DataTypes.STRING(7), allowNull: false },
    news: json(),
    saves: { type: DataTypes.DOUBLE, allowNull: true },
    restsOn: json(),
    seed: { type: DataTypes.INTEGER, allowNull: false },
    coming: json(true)
  });
}
