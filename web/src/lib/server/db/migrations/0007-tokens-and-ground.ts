import { DataTypes, type QueryInterface } from 'sequelize';

import { addIndexOnce } from './tools.ts';

/** Access tokens of members, and a picture of the ground for each bush. */
export async function up(query: QueryInterface): Promise<void> {
  const uuid = () => ({ type: DataTypes.UUID, allowNull: false });
  const time = () => ({ type: DataTypes.DATE(3), allowNull: false });
  await query.createTable('accessTokens', {
    id: { type: DataTypes.UUID, primaryKey: true },
    userId: { ...uuid(), references: { model: 'users', key: 'id' }, onDelete: 'CASCADE' },
    name: { type: DataTypes.STRING(80), allowNull: false },
    tokenHash: { type: DataTypes.CHAR(64), allowNull: false, unique: true },
    mayWrite: { type: DataTypes.BOOLEAN, allowNull: false },
    createdAt: time(),
    expiresAt: time()
  });
  await addIndexOnce(query, 'accessTokens', ['userId']);
  await query.createTable('grounds', {
    bushId: {
      type: DataTypes.UUID,
      primaryKey: true,
      references: { model: 'bushes', key: 'id' },
      onDelete: 'CASCADE'
    },
    mimeType: { type: DataTypes.STRING(40), allowNull: false },
    picture: { type: DataTypes.BLOB('medium'), allowNull: false },
    fit: { type: DataTypes.JSON, allowNull: false }
  });
}
