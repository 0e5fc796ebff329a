import { DataTypes, type QueryInterface } from 'sequelize';

import { addIndexOnce } from './tools.ts';

/** What stands or runs in a bush beside its trees: buildings, paths, lines, water. */
export async function up(query: QueryInterface): Promise<void> {
  await query.createTable('features', {
    id: { type: DataTypes.UUID, primaryKey: true },
    bushId: {
      type: DataTypes.UUID,
      allowNull: false,
      references: { model: 'bushes', key: 'id' },
      onDelete: 'CASCADE'
    },
    kind: { type: DataTypes.STRING(20), allowNull: false },
    name: { type: DataTypes.STRING(80), allowNull: false },
    points: { type: DataTypes.JSON, allowNull: false }
  });
  await addIndexOnce(query, 'features', ['bushId']);
}
