import { DataTypes, type QueryInterface } from 'sequelize';

import { addIndexOnce } from './tools.ts';

/** Sample plots of a cruise: the first records that belong to a bush and to none of its trees. */
export async function up(query: QueryInterface): Promise<void> {
  const uuid = () => ({ type: DataTypes.UUID, allowNull: false });
  const uuidOrNull = () => ({ type: DataTypes.UUID, allowNull: true });
  const time = () => ({ type: DataTypes.DATE(3), allowNull: false });
  await query.createTable('plots', {
    id: { type: DataTypes.UUID, primaryKey: true },
    bushId: { ...uuid(), references: { model: 'bushes', key: 'id' }, onDelete: 'CASCADE' },
    authorId: { ...uuid(), references: { model: 'users', key: 'id' }, onDelete: 'RESTRICT' },
    doneOn: { type: DataTypes.DATEONLY, allowNull: false },
    recordedAt: time(),
    storedAt: time(),
    correctsId: uuidOrNull(),
    withdrawn: { type: DataTypes.BOOLEAN, allowNull: false },
    standId: { ...uuidOrNull(), references: { model: 'stands', key: 'id' }, onDelete: 'SET NULL' },
    name: { type: DataTypes.STRING(40), allowNull: false },
    design: { type: DataTypes.JSON, allowNull: false },
    trees: { type: DataTypes.JSON, allowNull: false },
    note: { type: DataTypes.STRING(500), allowNull: false }
  });
  await addIndexOnce(query, 'plots', ['bushId']);
  await addIndexOnce(query, 'plots', ['correctsId'], { unique: true });
}
