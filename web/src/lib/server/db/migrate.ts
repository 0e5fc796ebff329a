import { QueryTypes, type QueryInterface, type Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';

const FILES = import.meta.glob<{ up: (query: QueryInterface) => Promise<void> }>('./migrations/[0-9]*.ts', {
  eager: true
});

/** All migrations, oldest first. Forward only. */
const MIGRATIONS = Object.entries(FILES)
  .map(([path, { up }]) => ({ name: path.replace(/^.*\/|\.ts$/g, ''), up }))
  .sort((a, b) => (a.name < b.name ? -1 : 1));

const LOCK = 'baumkin-migrations';
const LOCK_PATIENCE_S = 60;

function umzug(sequelize: Sequelize): Umzug<QueryInterface> {
  return new Umzug<QueryInterface>({
    migrations: MIGRATIONS.map(({ name, up }) => ({
      name,
      up: async ({ context }) => {
        await up(context);
        await feedsBeginAnew(context);
      }
    })),
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined
  });
}

/**
 * What devices and snapshots hold has the columns of before, or tells of what a backup does not know. Every bush gets another feed: whoever follows the old one begins
 * anew from a snapshot that is made now.
 */
export async function feedsBeginAnew(query: QueryInterface): Promise<void> {
  if (!('feedId' in (await query.describeTable('bushes')))) return;
  for (const table of ['snapshotParts', 'snapshots', 'changes'])
    await query.sequelize.query(`DELETE FROM ${table}`, { type: QueryTypes.DELETE });
  await query.sequelize.query('UPDATE bushes SET feedId = UUID()', { type: QueryTypes.UPDATE });
}

/**
 * Runs what is pending, under a lock, so that two servers that start together do not both try. The lock belongs to one
 * connection; the pool keeps it for the whole transaction.
 * @returns names of the migrations that ran
 * @throws when another process holds the lock for more than a minute
 */
export async function migrate(sequelize: Sequelize): Promise<string[]> {
  return sequelize.transaction(async (transaction) => {
    const [row] = await sequelize.query<{ got: number }>('SELECT GET_LOCK(?, ?) AS got', {
      replacements: [LOCK, LOCK_PATIENCE_S],
      type: QueryTypes.SELECT,
      transaction
    });
    if (row?.got !== 1) throw new Error('Another process is bringing the database up to date. Try again in a minute.');
    try {
      return (await umzug(sequelize).up()).map((m) => m.name);
    } finally {
      await sequelize.query('SELECT RELEASE_LOCK(?)', { replacements: [LOCK], type: QueryTypes.SELECT, transaction });
    }
  });
}

/** Names of migrations that have not run; the server refuses to start while there are any. */
export async function pendingMigrations(sequelize: Sequelize): Promise<string[]> {
  return (await umzug(sequelize).pending()).map((m) => m.name);
}
