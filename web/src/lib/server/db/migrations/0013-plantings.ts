import { DataTypes, type QueryInterface } from 'sequelize';

import { addIndexOnce } from './tools.ts';

/** Trees that were planted, by groups. */
export async function up(query: QueryInterface): Promise<void> {
  const uuid = () => ({ type: DataTypes.UUID, allowNull: false });
  const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
  const time = () => ({ type: DataTypes.DATE(3), allowNull: false });
  const int = (allowNull: boolean) => ({ type: DataTypes.INTEGER, allowNull });
  await query.createTable('plantings', {
    id: { type: DataTypes.UUID, primaryKey: true },
    bushId: { ...uuid(), references: { model: 'bushes', key: 'id' }, onDelete: 'CASCADE' },
    authorId: { ...uuid(), references: { model: 'users', key: 'id' }, onDelete: 'RESTRICT' },
    doneOn: { type: DataTypes.DATEONLY, allowNull: false },
    recordedAt: time(),
    storedAt: time(),
    correctsId: { type: DataTypes.UUID, allowNull: true },
    withdrawn: { type: DataTypes.BOOLEAN, allowNull: false },
    standId: { type: DataTypes.UUID, allowNull: true },
    name: text(60),
    species: text(30),
    year: int(false),
    many: int(false),
    alive: int(true),
    heightM: { type: DataTypes.DOUBLE, allowNull: true },
    guard: text(10),
    note: text(500)
  });
  await addIndexOnce(query, 'plantings', ['bushId']);
  await addIndexOnce(query, 'plantings', ['correctsId'], { unique: true });
}
