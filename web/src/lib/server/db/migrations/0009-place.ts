import { DataTypes, type QueryInterface } from 'sequelize';

import { addColumnOnce, addIndexOnce } from './tools.ts';

/** What stands on a trunk besides its holes, scars of unknown year, the depth at which shavings turned brown, how a hole was placed. */
export async function up(query: QueryInterface): Promise<void> {
  const uuid = () => ({ type: DataTypes.UUID, allowNull: false });
  const time = () => ({ type: DataTypes.DATE(3), allowNull: false });
  const double = () => ({ type: DataTypes.DOUBLE, allowNull: false });
  const doubleOrNull = () => ({ type: DataTypes.DOUBLE, allowNull: true });
  const int = () => ({ type: DataTypes.INTEGER, allowNull: false });
  const envelope = () => ({
    id: { type: DataTypes.UUID, primaryKey: true },
    bushId: { ...uuid(), references: { model: 'bushes', key: 'id' }, onDelete: 'CASCADE' },
    treeId: { ...uuid(), references: { model: 'trees', key: 'id' }, onDelete: 'CASCADE' },
    authorId: { ...uuid(), references: { model: 'users', key: 'id' }, onDelete: 'RESTRICT' },
    doneOn: { type: DataTypes.DATEONLY, allowNull: false },
    recordedAt: time(),
    storedAt: time(),
    correctsId: { type: DataTypes.UUID, allowNull: true },
    withdrawn: { type: DataTypes.BOOLEAN, allowNull: false },
    note: { type: DataTypes.STRING(500), allowNull: false }
  });
  await query.createTable('trunkFeatures', {
    ...envelope(),
    what: { type: DataTypes.STRING(10), allowNull: false },
    bearingDeg: double(),
    heightMm: double()
  });
  await query.createTable('scars', {
    ...envelope(),
    many: int(),
    bearingDeg: doubleOrNull(),
    spreadDeg: double(),
    heightMm: doubleOrNull(),
    fromSeason: int(),
    toSeason: int(),
    bitMm: double(),
    depthMm: double()
  });
  for (const table of ['trunkFeatures', 'scars']) {
    await addIndexOnce(query, table, ['bushId', 'treeId']);
    await addIndexOnce(query, table, ['correctsId'], { unique: true });
  }
  await addColumnOnce(query, 'shavings', 'brownFromMm', doubleOrNull());
  await addColumnOnce(query, 'tapholes', 'school', { type: DataTypes.STRING(20), allowNull: true });
}
