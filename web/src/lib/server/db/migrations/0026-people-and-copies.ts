import { DataTypes, QueryTypes, type QueryInterface } from 'sequelize';

import { addColumnOnce, addIndexOnce } from './tools.ts';

/**
 * Ways into a bush that end by themselves, what each signed-in device holds of which bush, and bushes and accounts to play with, which end by
 * themselves too.
 */
export async function up(query: QueryInterface): Promise<void> {
  const uuid = () => ({ type: DataTypes.UUID, allowNull: false });
  const time = () => ({ type: DataTypes.DATE(3), allowNull: false });
  const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
  const bush = () => ({ ...uuid(), references: { model: 'bushes', key: 'id' }, onDelete: 'CASCADE' });
  const user = () => ({ ...uuid(), references: { model: 'users', key: 'id' }, onDelete: 'CASCADE' });

  await query.createTable('invitations', {
    id: { type: DataTypes.UUID, primaryKey: true },
    bushId: bush(),
    codeHash: { type: DataTypes.CHAR(64), allowNull: false },
    role: text(20),
    note: text(80),
    forMany: { type: DataTypes.BOOLEAN, allowNull: false },
    madeById: user(),
    madeAt: time(),
    expiresAt: time(),
    endedAt: { type: DataTypes.DATE(3), allowNull: true }
  });
  await addIndexOnce(query, 'invitations', ['codeHash'], { unique: true });
  await addIndexOnce(query, 'invitations', ['bushId']);
  await addColumnOnce(query, 'memberships', 'invitationId', { type: DataTypes.UUID, allowNull: true });

  await addColumnOnce(query, 'sessions', 'id', { type: DataTypes.UUID, allowNull: true });
  await query.sequelize.query('UPDATE sessions SET id = UUID() WHERE id IS NULL', { type: QueryTypes.UPDATE });
  await query.changeColumn('sessions', 'id', uuid());
  await addIndexOnce(query, 'sessions', ['id'], { unique: true });
  await addColumnOnce(query, 'sessions', 'device', { ...text(60), defaultValue: '' });

  await addColumnOnce(query, 'bushes', 'playUntil', { type: DataTypes.DATE(3), allowNull: true });
  await addColumnOnce(query, 'users', 'guestUntil', { type: DataTypes.DATE(3), allowNull: true });

  await query.createTable('heldBooks', {
    bushId: { ...bush(), primaryKey: true },
    sessionId: { type: DataTypes.UUID, primaryKey: true },
    userId: user(),
    device: text(60),
    number: { type: DataTypes.BIGINT, allowNull: false },
    waiting: { type: DataTypes.INTEGER, allowNull: false },
    seenAt: time()
  });
}
