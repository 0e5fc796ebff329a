import { DataTypes, type QueryInterface } from 'sequelize';

import { addColumnOnce, addIndexOnce } from './tools.ts';

/** Thinning: crop trees, crown cards, cuts, seedling plots, kept plans, and what a stand is managed for. */
export async function up(query: QueryInterface): Promise<void> {
  const uuid = () => ({ type: DataTypes.UUID, allowNull: false });
  const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
  const textOrNull = (length: number) => ({ type: DataTypes.STRING(length), allowNull: true });
  const json = () => ({ type: DataTypes.JSON, allowNull: false });
  const doubleOrNull = () => ({ type: DataTypes.DOUBLE, allowNull: true });
  const time = () => ({ type: DataTypes.DATE(3), allowNull: false });
  const ofBush = () => ({
    id: { type: DataTypes.UUID, primaryKey: true },
    bushId: { ...uuid(), references: { model: 'bushes', key: 'id' }, onDelete: 'CASCADE' },
    authorId: { ...uuid(), references: { model: 'users', key: 'id' }, onDelete: 'RESTRICT' },
    doneOn: { type: DataTypes.DATEONLY, allowNull: false },
    recordedAt: time(),
    storedAt: time(),
    correctsId: { type: DataTypes.UUID, allowNull: true },
    withdrawn: { type: DataTypes.BOOLEAN, allowNull: false }
  });
  const ofTree = () => ({
    ...ofBush(),
    treeId: { ...uuid(), references: { model: 'trees', key: 'id' }, onDelete: 'CASCADE' }
  });
  const ofStand = () => ({
    ...ofBush(),
    standId: {
      type: DataTypes.UUID,
      allowNull: true,
      references: { model: 'stands', key: 'id' },
      onDelete: 'SET NULL'
    }
  });
  await query.createTable('cropChoices', { ...ofTree(), choice: text(10), reason: text(500) });
  await query.createTable('crownCards', {
    ...ofTree(),
    north: textOrNull(10),
    east: textOrNull(10),
    south: textOrNull(10),
    west: textOrNull(10),
    blockers: json(),
    note: text(500)
  });
  await query.createTable('cuts', { ...ofTree(), what: text(10), doneBy: text(80), damaged: json(), note: text(500) });
  await query.createTable('seedlings', {
    ...ofStand(),
    name: text(40),
    radiusM: { type: DataTypes.DOUBLE, allowNull: false },
    counts: json(),
    browsed: doubleOrNull(),
    fenced: { type: DataTypes.BOOLEAN, allowNull: false },
    note: text(500)
  });
  await query.createTable('thinningPlans', { ...ofStand(), name: text(60), taken: json(), note: text(500) });
  for (const table of ['cropChoices', 'crownCards', 'cuts']) await addIndexOnce(query, table, ['bushId', 'treeId']);
  for (const table of ['seedlings', 'thinningPlans']) await addIndexOnce(query, table, ['bushId']);
  for (const table of ['cropChoices', 'crownCards', 'cuts', 'seedlings', 'thinningPlans'])
    await addIndexOnce(query, table, ['correctsId'], { unique: true });
  await addColumnOnce(query, 'marks', 'reviewOn', { type: DataTypes.DATEONLY, allowNull: true });
  await addColumnOnce(query, 'marks', 'leanDeg', doubleOrNull());
  await addColumnOnce(query, 'stands', 'note', { ...text(500), defaultValue: '' });
}
