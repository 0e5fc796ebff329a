import { DataTypes, QueryTypes, type QueryInterface } from 'sequelize';

import { addColumnOnce, addIndexOnce } from './tools.ts';

/**
 * The feed of a bush's changes, the snapshots that devices begin from, and the lines of its trees kept beside their records.
 * A tree's step on the walk may lie between two others, so that one that comes in moves none.
 */
export async function up(query: QueryInterface): Promise<void> {
  const uuid = () => ({ type: DataTypes.UUID, allowNull: false });
  const ofBush = () => ({ ...uuid(), references: { model: 'bushes', key: 'id' }, onDelete: 'CASCADE' });
  const bigint = () => ({ type: DataTypes.BIGINT, allowNull: false });
  const int = () => ({ type: DataTypes.INTEGER, allowNull: false });
  await addColumnOnce(query, 'bushes', 'changes', { ...bigint(), defaultValue: 0 });
  await addColumnOnce(query, 'bushes', 'feedId', { type: DataTypes.UUID, allowNull: false, defaultValue: '' });
  await query.sequelize.query(`UPDATE bushes SET feedId = UUID() WHERE feedId = ''`, { type: QueryTypes.UPDATE });
  await query.sequelize.query('ALTER TABLE trees MODIFY walkOrder DOUBLE NOT NULL');
  await query.createTable('changes', {
    bushId: { ...ofBush(), primaryKey: true },
    number: { ...bigint(), primaryKey: true },
    touched: { type: DataTypes.JSON, allowNull: false }
  });
  await query.createTable('treeLines', {
    treeId: { ...uuid(), primaryKey: true, references: { model: 'trees', key: 'id' }, onDelete: 'CASCADE' },
    bushId: ofBush(),
    says: { type: DataTypes.TEXT, allowNull: false },
    line: { type: DataTypes.TEXT('medium'), allowNull: false }
  });
  await addIndexOnce(query, 'treeLines', ['bushId']);
  await query.createTable('lineBooks', {
    bushId: { ...ofBush(), primaryKey: true },
    season: int(),
    day: { type: DataTypes.DATEONLY, allowNull: false },
    expects: { type: DataTypes.JSON, allowNull: false },
    release: { type: DataTypes.STRING(40), allowNull: false }
  });
  await query.createTable('snapshots', {
    bushId: { ...ofBush(), primaryKey: true },
    number: { ...bigint(), primaryKey: true },
    feedId: uuid(),
    parts: int(),
    ready: int(),
    trees: int(),
    begunAt: { type: DataTypes.DATE(3), allowNull: false }
  });
  await query.createTable('snapshotParts', {
    bushId: { ...ofBush(), primaryKey: true },
    number: { ...bigint(), primaryKey: true },
    part: { ...int(), primaryKey: true },
    content: { type: DataTypes.BLOB('long'), allowNull: false }
  });
}
