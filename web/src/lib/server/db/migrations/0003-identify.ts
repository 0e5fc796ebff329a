import { DataTypes, type QueryInterface } from 'sequelize';

import { addColumnOnce, addIndexOnce } from './tools.ts';

/**
 * Determinations say what they rest on and what the year let one see; a bush's settings have a version and a log of who
 * changed what. One clue's state got a shorter name when the grouping of buds became a clue of its own.
 */
export async function up(query: QueryInterface): Promise<void> {
  await addColumnOnce(query, 'determinations', 'basis', {
    type: DataTypes.STRING(10),
    allowNull: false,
    defaultValue: 'clues'
  });
  await addColumnOnce(query, 'determinations', 'lookSeason', { type: DataTypes.STRING(10), allowNull: true });
  await query.sequelize.query("UPDATE determinations SET basis = 'declared' WHERE JSON_LENGTH(evidence) = 0");
  await query.sequelize.query(
    `UPDATE determinations SET evidence = REPLACE(evidence, '"roundedClustered"', '"rounded"')`
  );
  await addColumnOnce(query, 'bushes', 'version', { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 });
  await query.createTable('bushChanges', {
    id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
    bushId: {
      type: DataTypes.UUID,
      allowNull: false,
      references: { model: 'bushes', key: 'id' },
      onDelete: 'CASCADE'
    },
    authorId: {
      type: DataTypes.UUID,
      allowNull: false,
      references: { model: 'users', key: 'id' },
      onDelete: 'RESTRICT'
    },
    at: { type: DataTypes.DATE(3), allowNull: false },
    settings: { type: DataTypes.JSON, allowNull: false }
  });
  await addIndexOnce(query, 'bushChanges', ['bushId', 'at']);
}
