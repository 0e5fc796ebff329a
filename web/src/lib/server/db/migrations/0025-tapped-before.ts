import { DataTypes, type QueryInterface } from 'sequelize';

import { createRecordTable } from './recordTable.ts';

/** What somebody knows of holes that nobody wrote down. */
export async function up(query: QueryInterface): Promise<void> {
  await createRecordTable(query, 'tappedBefores', 'tree', { answer: { type: DataTypes.STRING(7), allowNull: false } });
}
