import { DataTypes, type QueryInterface } from 'sequelize';

import { addIndexOnce } from './tools.ts';

/** Measured heights and crowns, as dated records of their own. */
export async function up(query: QueryInterface): Promise<void> {
  const uuid = () => ({ type: DataTypes.UUID, allowNull: false });
  const time = () => ({ type: DataTypes.DATE(3), allowNull: false });
  await query.createTable('statures', {
    id: { type: DataTypes.UUID, primaryKey: true },
    bushId: { ...uuid(), references: { model: 'bushes', key: 'id' }, onDelete: 'CASCADE' },
    treeId: { ...uuid(), references: { model: 'trees', key: 'id' }, onDelete: 'CASCADE' },
    authorId: { ...uuid(), references: { model: 'users', key: 'id' }, onDelete: 'RESTRICT' },
    doneOn: { type: DataTypes.DATEONLY, allowNull: false },
    recordedAt: time(),
    storedAt: time(),
    correctsId: { type: DataTypes.UUID, allowNull: true },
    withdrawn: { type: DataTypes.BOOLEAN, allowNull: false },
    heightM: { type: DataTypes.DOUBLE, allowNull: true },
    crownRadiiM: { type: DataTypes.JSON, allowNull: true },
    note: { type: DataTypes.STRING(500), allowNull: false }
  });
  await addIndexOnce(query, 'statures', ['bushId', 'treeId']);
  await addIndexOnce(query, 'statures', ['correctsId'], { unique: true });
}
