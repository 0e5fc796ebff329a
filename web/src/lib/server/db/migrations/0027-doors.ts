import { DataTypes, type QueryInterface } from 'sequelize';

import { addColumnOnce, addIndexOnce } from './tools.ts';

/**
 * How often something was tried, devices that their people signed in on before, links that open an account
 * once, and when a session was last used.
 */
export async function up(query: QueryInterface): Promise<void> {
  const time = () => ({ type: DataTypes.DATE(3), allowNull: false });
  const hash = () => ({ type: DataTypes.CHAR(64), primaryKey: true });
  const user = (allowNull: boolean) => ({
    type: DataTypes.UUID,
    allowNull,
    references: { model: 'users', key: 'id' },
    onDelete: 'CASCADE'
  });

  await query.createTable('tries', {
    // The name of an account can be as long as the rules for names let it, behind what is tried.
    key: { type: DataTypes.STRING(160), primaryKey: true },
    tries: { type: DataTypes.INTEGER, allowNull: false },
    freeAt: time(),
    at: time()
  });
  await addIndexOnce(query, 'tries', ['at']);
  await query.createTable('knownDevices', { tokenHash: hash(), userId: user(false), at: time() });
  await addIndexOnce(query, 'knownDevices', ['userId']);
  await query.createTable('oneTimeLinks', { codeHash: hash(), userId: user(true), expiresAt: time() });
  await addIndexOnce(query, 'oneTimeLinks', ['userId']);
  await addColumnOnce(query, 'sessions', 'seenAt', { type: DataTypes.DATE(3), allowNull: true });
  await query.dropTable('signInAttempts');
}
