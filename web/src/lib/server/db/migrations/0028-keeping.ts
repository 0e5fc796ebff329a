import { DataTypes, QueryTypes, type QueryInterface } from 'sequelize';

import { addColumnOnce, addIndexOnce } from './tools.ts';

/**
 * Who founded a bush, and when it was given up; what sort of thing each entry of its log tells; and keys on devices with which people sign
 * in.
 */
export async function up(query: QueryInterface): Promise<void> {
  const time = (allowNull = false) => ({ type: DataTypes.DATE(3), allowNull });
  const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
  const user = (allowNull: boolean, onDelete: 'CASCADE' | 'SET NULL') => ({
    type: DataTypes.UUID,
    allowNull,
    references: { model: 'users', key: 'id' },
    onDelete
  });
  const run = (sql: string) => query.sequelize.query(sql, { type: QueryTypes.UPDATE });

  await addColumnOnce(query, 'bushes', 'founderId', user(true, 'SET NULL'));
  await addColumnOnce(query, 'bushes', 'goneAt', time(true));
  // Where more than one steward came without an invitation nobody knows any more which of them began.
  await run(`UPDATE bushes SET founderId = (
      SELECT MIN(userId) FROM memberships
      WHERE bushId = bushes.id AND role = 'steward' AND invitationId IS NULL HAVING COUNT(*) = 1
    ) WHERE founderId IS NULL`);

  await addColumnOnce(query, 'bushChanges', 'kind', { ...text(20), defaultValue: '' });
  await run(`UPDATE bushChanges SET kind = CASE
      WHEN JSON_EXISTS(settings, '$.import') THEN 'import'
      WHEN JSON_EXISTS(settings, '$.importTakenBack') THEN 'importBack'
      WHEN JSON_EXISTS(settings, '$.invitation.role') OR JSON_EXISTS(settings, '$.invitationEnded') THEN 'invitation'
      WHEN JSON_EXISTS(settings, '$.joined') OR JSON_EXISTS(settings, '$.member') THEN 'member'
      WHEN JSON_EXISTS(settings, '$.stand') OR JSON_EXISTS(settings, '$.feature') OR JSON_EXISTS(settings, '$."stand taken away"')
        OR JSON_EXISTS(settings, '$."feature taken away"') OR JSON_EXISTS(settings, '$.baseMap') THEN 'ground'
      WHEN JSON_EXISTS(settings, '$.name') OR JSON_EXISTS(settings, '$.origin') THEN 'bush'
      ELSE 'settings' END
    WHERE kind = ''`);
  await addIndexOnce(query, 'bushChanges', ['bushId', 'kind']);

  await query.createTable('passkeys', {
    id: { type: DataTypes.STRING(255), primaryKey: true },
    userId: user(false, 'CASCADE'),
    name: text(60),
    publicKey: { type: DataTypes.BLOB, allowNull: false },
    counter: { type: DataTypes.BIGINT, allowNull: false },
    transports: { type: DataTypes.JSON, allowNull: false },
    createdAt: time(),
    usedAt: time(true)
  });
  await addIndexOnce(query, 'passkeys', ['userId']);
  await query.createTable('challenges', {
    challengeHash: { type: DataTypes.CHAR(64), primaryKey: true },
    expiresAt: time()
  });
}
